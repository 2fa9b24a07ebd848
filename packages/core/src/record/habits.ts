import type { Outcome } from './event.ts';
import type { Job } from './job.ts';

/** How often jobs on a board ended at a part. */
export interface Habit {
  part: string;
  times: number;
}

/** Jobs that ended with the board doing what it should. */
export const isMended = (outcome: Outcome): boolean =>
  outcome === 'fixed' || outcome === 'repaired';

/**
 * What closed jobs teach of a board: the parts each was mended at, where the cause was proven or
 * supported. What was changed by elimination or several at once teaches nothing of one part, and a job
 * that was taken out teaches nothing at all.
 */
export function habitsOf(jobs: readonly Job[]): Habit[] {
  const times = new Map<string, number>();
  for (const job of jobs)
    for (const part of lessonOf(job)) times.set(part, (times.get(part) ?? 0) + 1);
  return [...times]
    .map(([part, count]) => ({ part, times: count }))
    .sort((a, b) => b.times - a.times);
}

/** Parts a closed job was mended at; none where it teaches nothing. */
export function lessonOf({ close, repairs, teaches }: Job): string[] {
  if (!close || !teaches || !isMended(close.body.outcome)) return [];
  if (close.body.proof !== 'proven' && close.body.proof !== 'supported') return [];
  if (close.body.parts) return [...new Set(close.body.parts)];
  return [
    ...new Set(
      repairs.flatMap(({ struck, body }) =>
        struck === null && (body.action === 'replaced' || body.action === 'reflowed')
          ? body.parts
          : [],
      ),
    ),
  ];
}
