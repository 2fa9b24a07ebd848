import { Button } from 'antd';
import { useEffect, useState } from 'react';
import { coolerCount } from '@jiko/core/safety';
import { playWarning } from '../data/sounds.ts';

/**
 * A processor that runs with its cooler off: seconds until the source has to be off, said loudly. It counts
 * from when the strip says that the button was pressed. Jiko switches nothing.
 */
export function CoolerWatch({
  pressedAt,
  onOff,
  onPressed,
}: {
  /** In ms of the clock: another view, or a reload, goes on counting. */
  pressedAt: number | null;
  onOff: () => void;
  onPressed: () => void;
}) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const ticks = setInterval(() => setNow(Date.now()), 200);
    return () => clearInterval(ticks);
  }, []);
  const { word, left } = coolerCount((now - (pressedAt ?? now)) / 1000);
  useEffect(() => {
    if (word === 'off') playWarning();
  }, [word]);
  return (
    <div className={`cooler-watch is-${word}`} role={word === 'off' ? 'alert' : 'timer'}>
      {word === 'off' ? (
        <strong>Source off now: the processor has no cooler</strong>
      ) : (
        <strong>
          Cooler is off: source off in <b>{left}</b> s
        </strong>
      )}
      <Button size="small" danger onClick={onOff}>
        The source is off
      </Button>
      <Button size="small" onClick={onPressed}>
        Pressed again
      </Button>
    </div>
  );
}
