import type { SheetRow } from '@jiko/core/sheet-edit';

/**
 * Rows as somebody left them, over what the text says by now: the table is read a moment behind the text, and
 * what it does not show yet is not to be undone by a cell typed meanwhile.
 */
export function rebaseRows(
  shown: readonly SheetRow[],
  left: readonly SheetRow[],
  now: readonly SheetRow[],
): SheetRow[] {
  const [wasShown, isNow] = [shown, now].map(
    (rows) => new Map(rows.map((row) => [row.was, row])),
  ) as [Map<string | null, SheetRow>, Map<string | null, SheetRow>];
  const isSame = (a: SheetRow | undefined, b: SheetRow): boolean =>
    a !== undefined &&
    Object.keys({ ...a, ...b }).every((key) => (a[key] ?? '') === (b[key] ?? ''));
  const own = left.flatMap((row) =>
    row.was !== null && isSame(wasShown.get(row.was), row) ? (isNow.get(row.was) ?? []) : [row],
  );
  const leftNames = new Set(left.map((row) => row.was));
  // What came into the text since the table was read.
  return [...own, ...now.filter((row) => !wasShown.has(row.was) && !leftNames.has(row.was))];
}
