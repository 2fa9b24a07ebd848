import type { Refused, Waiting } from './waiting-store.ts';

/**
 * Entries that this page showed as waiting and that left the storage though this page did not send them:
 * another tab did. Until this page has heard of them from the server it goes on showing them.
 */
export function sentElsewhere(
  before: readonly Waiting[],
  now: { waiting: readonly Waiting[]; refused: readonly Refused[] },
  /** Ids of what this page sent, or keeps only in itself. */
  own: ReadonlySet<string>,
): Waiting[] {
  const there = new Set([
    ...now.waiting.map((one) => one.event.id),
    ...now.refused.map((one) => one.entry.event.id),
  ]);
  return before.filter(({ event }) => !there.has(event.id) && !own.has(event.id));
}
