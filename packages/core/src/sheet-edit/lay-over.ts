import { diff3Merge } from 'node-diff3';

/** A text laid over a newer one, and how many places both had changed. */
export interface LaidOver {
  text: string;
  /** Places that both changed: there the laid one stands. */
  clashes: number;
}

/**
 * Lays what `mine` changed of `base` over `newest`, line by line: what only the newest changed stays, and
 * what both added at one place is added by both. Where both changed the same lines, mine stand. Without a
 * base nothing is known of who changed what: mine stands as a whole.
 */
export function layOver(base: string | null, newest: string, mine: string): LaidOver {
  if (base === null) return { text: mine, clashes: mine === newest ? 0 : 1 };
  const lines = (text: string): string[] => text.split('\n');
  let clashes = 0;
  const merged = diff3Merge(lines(mine), lines(base), lines(newest), {
    excludeFalseConflicts: true,
  }).flatMap(({ ok, conflict }) => {
    if (ok) return ok;
    if (!conflict) return [];
    const { a, o, b } = conflict;
    if (o.length === 0) return [...b, ...a.filter((line) => !b.includes(line))];
    clashes++;
    return a;
  });
  return { text: merged.join('\n'), clashes };
}
