import { isBad, isGood } from '../readings/index.ts';
import type { Change, Timeline } from './timeline.ts';

/** What a change of the board did, by points read both before and after it. */
export interface Effect {
  change: Change;
  /** none: read again and nothing became right. unread: not read again yet. */
  did: 'fixed' | 'none' | 'unread';
  /** Points that were wrong before and right after. */
  fixed: { key: string; before: string; after: string }[];
}

/** Each change with what it did until the next one. */
export function effectsOf({ changes, readings }: Timeline): Effect[] {
  return changes.map((change, index) => {
    const to = changes[index + 1]?.place ?? Infinity;
    const before = new Map<string, (typeof readings)[number]>();
    const after = new Map<string, (typeof readings)[number]>();
    for (const one of readings) {
      // What was wrong before an earlier change that did nothing is wrong still.
      if (one.place < change.place) before.set(one.key, one);
      else if (one.place < to) after.set(one.key, one);
    }
    const wrong = [...before.values()].filter((one) => isBad(one.judged.verdict));
    const again = wrong.filter((one) => after.has(one.key));
    const fixed = again.filter((one) => isGood(after.get(one.key)!.judged.verdict));
    return {
      change,
      did: fixed.length > 0 ? 'fixed' : again.length > 0 ? 'none' : 'unread',
      fixed: fixed.map((one) => ({
        key: one.key,
        before: one.judged.id,
        after: after.get(one.key)!.judged.id,
      })),
    };
  });
}

/** Parts that were changed, read again, and were not the cause. */
export function withoutEffect(timeline: Timeline): { part: string; action: string }[] {
  return effectsOf(timeline)
    .filter((one) => one.did === 'none')
    .flatMap(({ change }) =>
      change.body.parts.map((part) => ({ part, action: change.body.action })),
    );
}
