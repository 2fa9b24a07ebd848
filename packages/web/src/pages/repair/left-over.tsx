import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { evidenceOf } from '@jiko/core/diagnosis';
import type { Board } from '@jiko/core/board';
import { liftedParts, type EventInput, type Job } from '@jiko/core/record';
import { formatChance } from '@jiko/core/units';
import type { BenchState } from '../../data/bench-state.ts';
import { useDiagnosis } from '../../data/diagnosis.ts';
import { useHabits } from '../../data/habits.ts';
import { jobSheetQuery } from '../../data/queries.ts';

export type Left = NonNullable<Extract<EventInput, { type: 'close' }>['left']>;

/** Less likely ones help nobody. */
const leastProbability = 0.01;

/** The suspects that stand when a job is given up: the next person starts there. */
export function LeftOver({
  board,
  job,
  bench,
  onLeft,
}: {
  board: Board;
  job: Job;
  bench: BenchState;
  onLeft: (left: Left) => void;
}) {
  const sheet = useQuery(jobSheetQuery(job));
  const habits = useHabits(board);
  const evidence = useMemo(() => evidenceOf(job, habits), [job, habits]);
  const setup = useMemo(
    () => ({ source: bench.source, attached: bench.attached, lifted: liftedParts(job) }),
    [bench.source, bench.attached, job],
  );
  const { diagnosis, isWeighing, making } = useDiagnosis(sheet.data, setup, evidence, {
    phase: bench.phase,
    side: '',
  });
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
      {left.length === 0 ? (
        <p className="quiet">
          {isWeighing || making.state === 'working'
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
