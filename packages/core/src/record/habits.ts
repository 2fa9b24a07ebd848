import type { FailureWay } from './kinds.ts';
import type { Taught } from './taught.ts';

/**
 * How often jobs ended at a part of this board, or on other boards of its scheme at a part that has the same
 * place in it (`role`), and how that had failed where the closing says so.
 */
export type Habit = { times: number; how?: FailureWay | undefined } & (
  | { part: string }
  | { role: string }
);

/**
 * What closed jobs teach of a board: the parts each was mended at, where the cause was proven or
 * supported. What was changed by elimination or several at once teaches nothing of one part, and a job
 * that was taken out teaches nothing at all.
 */
export const habitsOf = (jobs: readonly Taught[]): Habit[] =>
  counted(jobs, (job) => job.parts).map(({ name, ...rest }) => ({ part: name, ...rest }));

/** The same of jobs on other boards of a scheme, by what the parts are there. */
export const habitsElsewhere = (jobs: readonly Taught[], scheme: string): Habit[] =>
  counted(jobs, (job) => (job.scheme === scheme && job.parts.length > 0 ? job.roles : [])).map(
    ({ name, ...rest }) => ({ role: name, ...rest }),
  );

function counted(
  jobs: readonly Taught[],
  namesOf: (job: Taught) => readonly string[],
): { name: string; times: number; how?: FailureWay }[] {
  const found = new Map<string, { name: string; times: number; how?: FailureWay }>();
  for (const job of jobs) {
    if (!job.teaches) continue;
    for (const name of namesOf(job)) {
      const key = `${name} ${job.how}`;
      const known = found.get(key) ?? { name, times: 0, ...(job.how ? { how: job.how } : {}) };
      found.set(key, { ...known, times: known.times + 1 });
    }
  }
  return [...found.values()].sort((a, b) => b.times - a.times);
}
