import type { Waiting } from './waiting-store.ts';

/** What became of entries that were sent. */
export type Sent =
  | { kind: 'taken' }
  /** Not as they are: saying it again would not help. */
  | { kind: 'refused'; words: string }
  /** Perhaps later: the server is busy, or in trouble with this job. */
  | { kind: 'busy' }
  | { kind: 'unreachable' };

export interface SenderParts {
  /** In the order recorded. */
  waiting(): readonly Waiting[];
  send(job: string, batch: readonly Waiting[]): Promise<Sent>;
  /** Called once the server has them, before they leave. */
  taken(job: string, batch: readonly Waiting[]): Promise<void>;
  refused(entry: Waiting, words: string): void;
}

const mostAtOnce = 100;

/**
 * Sends what waits, each job's entries in their order. One entry that is refused is set aside and holds
 * nothing else up; a job the server is in trouble with waits, and the others go on. True when all
 * that can be sent is.
 */
export async function sendAll(parts: SenderParts): Promise<boolean> {
  const later = new Set<string>();
  // After a refusal a job's entries go one at a time, to find the one that is meant.
  const singly = new Set<string>();
  for (;;) {
    const first = parts.waiting().find((one) => !later.has(one.job));
    if (!first) return later.size === 0;
    const { job } = first;
    const own = parts.waiting().filter((one) => one.job === job);
    const batch = own.slice(0, singly.has(job) ? 1 : mostAtOnce);
    const sent = await parts.send(job, batch);
    switch (sent.kind) {
      case 'taken':
        await parts.taken(job, batch);
        break;
      case 'refused':
        if (batch.length > 1) singly.add(job);
        else parts.refused(first, sent.words);
        break;
      case 'busy':
        later.add(job);
        break;
      case 'unreachable':
        return false;
    }
  }
}

const pauses = [2, 4, 8, 15, 30, 60];
/** Seconds before the next attempt after so many in vain. */
export const pauseAfter = (fails: number): number =>
  pauses[Math.min(Math.max(fails, 1), pauses.length) - 1]!;
