import type { Job } from './job.ts';

/** How often jobs on a board ended at a part. */
export interface Habit {
  part: string;
  times: number;
}

/**
 * What closed jobs teach of a board: the parts each was mended at, where the cause was proven or
 * supported. What was changed by elimination or several at once teaches nothing of one part.
 */
export function habitsOf(jobs: readonly Job[]): Habit[] {
  const times = new Map<string, number>();
  for (const { close, repairs } of jobs) {
    if (close?.body.outcome !== 'repaired') continue;
    if (close.body.proof !== 'proven' && close.body.proof !== 'supported') continue;
    const parts = new Set(
      repairs.flatMap(({ struck, body }) =>
        struck === null && (body.action === 'replaced' || body.action === 'reflowed')
          ? body.parts
          : [],
      ),
    );
    for (const part of parts) times.set(part, (times.get(part) ?? 0) + 1);
  }
  return [...times]
    .map(([part, count]) => ({ part, times: count }))
    .sort((a, b) => b.times - a.times);
}
