import { useEffect, useMemo } from 'react';
import type { EventInput } from '@jiko/core/record';
import { formatChance } from '@jiko/core/units';
import { useJobDiagnosis, type JobSeen } from '../../data/job-diagnosis.ts';

export type Left = NonNullable<Extract<EventInput, { type: 'close' }>['left']>;

/** Less likely ones help nobody. */
const leastProbability = 0.01;

/** The suspects that stand when a job is given up: the next person starts there. */
export function LeftOver({ view, onLeft }: { view: JobSeen; onLeft: (left: Left) => void }) {
  const { diagnosis, isWeighing, making } = useJobDiagnosis(view);
  const left = useMemo(
    () =>
      (diagnosis?.suspects ?? [])
        .filter((one) => one.probability >= leastProbability)
        .slice(0, 8)
        .map((one) => ({
          title: one.title.slice(0, 200),
          probability: Math.min(1, one.probability),
          separate: one.separate.text.slice(0, 600),
        })),
    [diagnosis],
  );
  useEffect(() => onLeft(left), [left, onLeft]);
  return (
    <div className="left-over" aria-label="What is left">
      <strong>Written down with it: what is left, and what would separate it</strong>
      {isWeighing && <p className="quiet">The last entry is still being weighed.</p>}
      {left.length === 0 ? (
        <p className="quiet">
          {isWeighing || making.state !== 'ready'
            ? 'Every fault is being played…'
            : 'No suspect stands by what was read.'}
        </p>
      ) : (
        <ul>
          {left.map((one) => (
            <li key={one.title}>
              <span className="mono">{formatChance(one.probability)}</span> {one.title}
              <div className="quiet">{one.separate}</div>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
