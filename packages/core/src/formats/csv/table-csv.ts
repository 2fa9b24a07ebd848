import { fail, ok, type Result } from '../../base/index.ts';
import {
  rowsOf,
  tables,
  withRows,
  type SheetRow,
  type SheetTable,
} from '../../sheet-edit/index.ts';
import { readCsv, writeCsv } from './csv.ts';

/** A table of a sheet as CSV (RFC 4180, comma, CRLF): a header of the cells' keys, a line for each row. */
export function tableCsv(text: string, table: SheetTable): string {
  const keys = tables[table].map((one) => one.key);
  const rows = rowsOf(text, table).map((row) => keys.map((key) => row[key] ?? ''));
  return writeCsv([keys, ...rows]);
}

/** Other words that heads of tables have for a cell; common practice, no source. */
const headWords: Readonly<Record<string, string>> = {
  ref: 'name',
  reference: 'name',
  designator: 'name',
  part: 'name',
  net: 'name',
  netname: 'name',
  val: 'value',
  description: 'title',
  'what it is': 'title',
  voltage: 'volts',
  nets: 'pins',
  'pins on': 'pins',
  'also called': 'aliases',
};

/** A CSV table that was read: which table of a sheet it is, and its rows by cell. */
export interface CsvTable {
  table: SheetTable;
  rows: { line: number; cells: Record<string, string> }[];
  troubles: { line: number; why: string }[];
}

/**
 * Reads a CSV table of parts or of nets: comma, semicolon or tab, a head with the names of the cells.
 * Columns nobody knows are named and left out.
 */
export function parseTableCsv(text: string): Result<CsvTable, { line: number; why: string }[]> {
  const parsed = readCsv(text, { skipEmptyLines: 'greedy' });
  const [head, ...body] = parsed.data;
  if (!head || head.length < 2)
    return fail([{ line: 1, why: 'this is no table: a head with at least two columns is wanted' }]);
  const words = head.map((one) => one.trim().toLowerCase());
  const keyOf = (word: string): string => headWords[word] ?? word;
  const has = (key: string): boolean => words.some((word) => keyOf(word) === key);
  // Two columns of nets are the two ends of a part.
  const ends = words.flatMap((word, at) => (/^(?:net|pin)\s*[12]$/.test(word) ? [at] : []));
  const table: SheetTable | null = !has('name')
    ? null
    : has('pins') || has('value') || ends.length === 2
      ? 'parts'
      : 'nets';
  if (!table)
    return fail([{ line: 1, why: 'no column says a name: "name", "ref" or "net" is wanted' }]);
  const known = new Set(tables[table].map((one) => one.key));
  const troubles = parsed.errors
    .filter((one) => one.type === 'Quotes')
    .map((one) => ({ line: (one.row ?? 0) + 1, why: one.message }));
  words.forEach((word, at) => {
    if (!known.has(keyOf(word)) && !ends.includes(at) && word !== '')
      troubles.push({
        line: 1,
        why: `the column "${head[at]?.trim()}" is not known and is left out`,
      });
  });
  const rows: CsvTable['rows'] = [];
  body.forEach((row, index) => {
    const line = index + 2;
    const cells: Record<string, string> = {};
    words.forEach((word, at) => {
      const key = keyOf(word);
      if (known.has(key)) cells[key] = (row[at] ?? '').trim();
    });
    if (ends.length === 2) cells.pins = ends.map((at) => (row[at] ?? '').trim()).join(', ');
    if (!cells.name) troubles.push({ line, why: 'the row has no name' });
    else if (/\s/.test(cells.name))
      troubles.push({ line, why: `"${cells.name}" has a space in it` });
    else if (rows.some((one) => one.cells.name === cells.name))
      troubles.push({ line, why: `${cells.name} is there twice: the first one counts` });
    else rows.push({ line, cells });
  });
  return ok({ table, rows, troubles });
}

/** Puts rows of a CSV table into a sheet: cells that say something replace, new names are added. */
export function takeTable(text: string, { table, rows }: CsvTable): Result<string, string[]> {
  const before = rowsOf(text, table);
  const byName = new Map(rows.map((one) => [one.cells.name, one.cells]));
  const merged: SheetRow[] = before.map((row) => {
    const cells = byName.get(row.name ?? '');
    if (!cells) return row;
    byName.delete(row.name ?? '');
    const said = Object.fromEntries(Object.entries(cells).filter(([, value]) => value !== ''));
    return { ...row, ...said };
  });
  for (const cells of byName.values()) merged.push({ was: null, ...cells });
  return withRows(text, table, merged);
}
