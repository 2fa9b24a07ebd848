import { Button, Input } from 'antd';
import dayjs from 'dayjs';
import { useEffect, useState } from 'react';
import type { EventInput } from '@jiko/core/record';
import type { VerifyItem } from '@jiko/core/repair';
import { dateText } from '../../data/dates.ts';

const stateText: Record<VerifyItem['state'], { word: string; tone: string }> = {
  open: { word: 'open', tone: 'quiet' },
  passed: { word: 'passed', tone: 'good' },
  failed: { word: 'failed', tone: 'bad' },
  'left-out': { word: 'knowingly left out', tone: 'warn' },
};

/** What is checked before the board goes back: each line read, or knowingly left out. */
export function VerifyCard({
  items,
  onRecord,
}: {
  items: readonly VerifyItem[];
  onRecord: (...bodies: EventInput[]) => void;
}) {
  const [text, setText] = useState<{ [id: string]: string }>({});
  const open = items.filter((one) => one.state === 'open').length;
  const say = ({ id, wait }: VerifyItem, result: 'passed' | 'failed' | 'left-out'): void => {
    onRecord(
      { type: 'verify', item: id, result, text: text[id]?.trim() ?? '' },
      // Its wait ends with the answer.
      ...(wait ? [{ type: 'wait-over' as const, wait: wait.id }] : []),
    );
    setText({ ...text, [id]: '' });
  };
  return (
    <section className="card" aria-label="Before it goes back">
      <header>
        <h2>Before it goes back</h2>
        <span className="quiet">{open === 0 ? 'all answered' : `${open} open`}</span>
      </header>
      <ul className="verify">
        {items.map((one) => (
          <li key={one.id} data-item={one.id} data-state={one.state}>
            <div className="what">
              <strong>{one.title}</strong>{' '}
              <span className={`tone-${stateText[one.state].tone}`}>
                {stateText[one.state].word}
              </span>
              {one.text && <span className="quiet"> {one.text}</span>}
              <div className="quiet">{one.how}</div>
              {one.minutes !== null && one.state === 'open' && (
                <Running
                  minutes={one.minutes}
                  wait={one.wait}
                  onBegin={(until) =>
                    onRecord({ type: 'wait', reason: 'soak', until, text: one.title })
                  }
                />
              )}
              {one.caution && (
                <div className="caution-line" role="note">
                  <strong>Caution. </strong>
                  {one.caution}
                </div>
              )}
            </div>
            <Input
              aria-label={`About ${one.title}`}
              size="small"
              placeholder="1.9 A, then 0.1 A"
              maxLength={300}
              value={text[one.id] ?? ''}
              onChange={(event) => setText({ ...text, [one.id]: event.target.value })}
            />
            <span className="answers">
              <Button size="small" onClick={() => say(one, 'passed')}>
                Passed
              </Button>
              <Button size="small" danger onClick={() => say(one, 'failed')}>
                Failed
              </Button>
              <Button size="small" onClick={() => say(one, 'left-out')}>
                Leave out
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A test that takes its time: begun, running until its end, or over and to be answered. */
function Running({
  minutes,
  wait,
  onBegin,
}: {
  minutes: number;
  wait: VerifyItem['wait'];
  onBegin: (until: string) => void;
}) {
  const [now, setNow] = useState(() => dayjs());
  useEffect(() => {
    const timer = setInterval(() => setNow(dayjs()), 10_000);
    return () => clearInterval(timer);
  }, []);
  if (!wait)
    return (
      <Button
        size="small"
        onClick={() => onBegin(dayjs().add(minutes, 'minute').toDate().toISOString())}
      >
        Begin it now
      </Button>
    );
  const end = wait.until === null ? null : dayjs(wait.until);
  // The clock shown is some seconds old: rounded, an hour that just began is sixty minutes.
  const minutesLeft = end === null ? null : end.diff(now, 'minute', true);
  const left =
    minutesLeft === null ? null : minutesLeft > 0 ? Math.max(1, Math.round(minutesLeft)) : 0;
  return (
    <div role="status" className={left !== null && left <= 0 ? 'tone-good' : 'tone-warn'}>
      {end === null || left === null
        ? 'Running, without an end.'
        : left > 0
          ? `Running until ${dateText(end.toISOString(), 'time')}, ${left} min left.`
          : `Over since ${dateText(end.toISOString(), 'time')}: did it stay on?`}
    </div>
  );
}
