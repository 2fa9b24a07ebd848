import { fail, ok, type Result } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import {
  boardNetlist,
  ipcD356,
  kicadNetlist,
  sheetAsJson,
  sheetAsYaml,
  spiceNetlist,
  tableCsv,
} from '@jiko/core/formats';
import { playInFull, usualSetup } from '@jiko/core/play';

/** What a sheet can be written as, with what each of them loses. */
export const sheetFormats = {
  yaml: { title: 'Sheet, YAML', suffix: 'yaml', type: 'application/yaml' },
  json: { title: 'Sheet, JSON (without comments)', suffix: 'json', type: 'application/json' },
  kicad: { title: 'KiCad netlist (parts and nets)', suffix: 'net', type: 'text/plain' },
  ipc: { title: 'IPC-D-356A (pins with places)', suffix: 'ipc', type: 'text/plain' },
  spice: { title: 'SPICE, the board running', suffix: 'cir', type: 'text/plain' },
  parts: { title: 'Table of parts, CSV', suffix: 'parts.csv', type: 'text/csv' },
  nets: { title: 'Table of nets, CSV', suffix: 'nets.csv', type: 'text/csv' },
} as const;
export type SheetFormat = keyof typeof sheetFormats;

/** The sheet in another format; fails with why there is nothing to write. */
export function sheetAs(format: SheetFormat, text: string): Result<string, string> {
  if (format === 'yaml') return ok(sheetAsYaml(text));
  if (format === 'json') return ok(sheetAsJson(text));
  if (format === 'parts' || format === 'nets') return ok(tableCsv(text, format));
  const loaded = loadSheet(text);
  if (!loaded.ok) return fail('The sheet cannot be read: open it in Edit.');
  const board = loaded.value;
  if (format === 'spice') {
    const { circuit, volts } = playInFull(board, usualSetup(board));
    return ok(spiceNetlist(circuit, volts, `${board.title} running`));
  }
  const netlist = boardNetlist(board);
  if (format === 'kicad') return ok(kicadNetlist(netlist));
  return netlist.places.length > 0
    ? ok(ipcD356(netlist))
    : fail(`${board.title} has no places on its sheet: IPC-D-356A would hold nothing.`);
}
