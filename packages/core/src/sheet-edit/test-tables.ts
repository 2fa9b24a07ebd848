import { rowsOf, withRows, type SheetRow, type SheetTable } from './index.ts';

/** A sheet with a table of it changed; for tests. */
export const changed = (
  text: string,
  table: SheetTable,
  change: (rows: SheetRow[]) => SheetRow[],
): string => {
  const done = withRows(text, table, change(rowsOf(text, table)));
  if (!done.ok) throw new Error(done.error.join(' '));
  return done.value;
};
