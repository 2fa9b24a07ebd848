import { fail, ok, type Result } from '../base/index.ts';
import { loadSheet, sheetIssueText } from '../board/index.ts';
import { compareSheets } from '../sheet-edit/index.ts';
import { parseTableCsv, takeTable } from './csv/table-csv.ts';
import { takeNetlist } from './netlist/into-sheet.ts';
import { parseIpcD356 } from './netlist/ipc-d-356.ts';
import { parseKicadNetlist } from './netlist/kicad.ts';
import type { NetlistTrouble } from './netlist/netlist.ts';

export type ImportFormat = 'kicad' | 'ipc-d-356' | 'csv';

/** A file taken into a sheet, before anybody agreed to it. */
export interface Imported {
  format: ImportFormat;
  /** The sheet as it would be. */
  text: string;
  /** What would change, a line each. */
  done: string[];
  /** What stays open, with why. */
  left: string[];
  /** What could not be read of the file, by line. */
  troubles: NetlistTrouble[];
}

/** Larger than any board's netlist: what is larger is refused unread. */
export const largestImportCharacters = 20_000_000;

/** Which format a text is of, by how it begins. */
export function importFormat(text: string): ImportFormat | null {
  const head = text
    .slice(0, 4000)
    .replace(/^\uFEFF/, '')
    .trimStart();
  if (/^\(\s*export\b/.test(head)) return 'kicad';
  if (/^(?:[CP]\s{2}|[03][1-7]7)/.test(head)) return 'ipc-d-356';
  if (/^[^\n]*[,;\t][^\n]*\n/.test(head)) return 'csv';
  return null;
}

/** Takes a file of another format into a sheet; nothing is kept. Fails with what makes it unusable. */
export function importInto(sheet: string, file: string): Result<Imported, NetlistTrouble[]> {
  const whole = (why: string): Result<Imported, NetlistTrouble[]> => fail([{ line: 0, why }]);
  if (file.length > largestImportCharacters)
    return whole(`the file has more than ${largestImportCharacters / 1e6} million characters`);
  const format = importFormat(file);
  if (format === null)
    return whole('this is no KiCad netlist, no IPC-D-356A and no CSV table with a head');
  if (format === 'csv') {
    const table = parseTableCsv(file);
    if (!table.ok) return table;
    const text = takeTable(sheet, table.value);
    if (!text.ok) return fail(text.error.map((why) => ({ line: 0, why })));
    const loaded = loadSheet(text.value);
    if (!loaded.ok)
      return fail(
        loaded.error
          .slice(0, 50)
          .map((one) => ({ line: 0, why: sheetIssueText({ ...one, line: 0 }) })),
      );
    const { troubles } = table.value;
    return ok({
      format,
      text: text.value,
      done: compareSheets(sheet, text.value),
      left: [],
      troubles,
    });
  }
  const { netlist, troubles } = format === 'kicad' ? parseKicadNetlist(file) : parseIpcD356(file);
  if (!netlist) return fail(troubles);
  const taken = takeNetlist(sheet, netlist);
  if (!taken.ok) return fail(taken.error.map((why) => ({ line: 0, why })));
  const { text, done, left } = taken.value;
  return ok({ format, text, done, left, troubles });
}
