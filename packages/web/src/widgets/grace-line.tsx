import { useEffect, useState } from 'react';
import { graceLeft, type Job } from '@jiko/core/record';
import { graceMinutes } from '@jiko/core/safety';

/** After all power was gone nothing is as usual for some minutes: how many are left, and what it means. */
export function GraceLine({ job }: { job: Job }) {
  const { powerLoss } = job;
  const [now, setNow] = useState<string | null>(null);
  const id = powerLoss?.id;
  useEffect(() => {
    if (id === undefined) return;
    const tick = (): void => setNow(new Date().toISOString());
    const first = setTimeout(tick, 0);
    const ticks = setInterval(tick, 1000);
    return () => {
      clearTimeout(first);
      clearInterval(ticks);
    };
  }, [id]);
  const left = powerLoss && now !== null ? graceLeft(powerLoss, now) : 0;
  if (!powerLoss || left <= 0) return null;
  const seconds = Math.ceil(left / 1000);
  return (
    <p className="grace-line" role="status">
      <strong>
        {Math.floor(seconds / 60)}:{String(seconds % 60).padStart(2, '0')} left.
      </strong>{' '}
      {powerLoss.why.charAt(0).toUpperCase() + powerLoss.why.slice(1)}: for {graceMinutes} minutes
      restarts and a dark screen are normal. Signs noted now weigh nothing; note them again after
      it.
    </p>
  );
}
