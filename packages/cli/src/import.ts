import { readFileSync } from 'node:fs';
import { basename, extname } from 'node:path';
import type { Writable } from 'node:stream';
import { parseArgs } from 'node:util';
import { loadSheet, sheetIssueText } from '@jiko/core/board';
import { boardIdFrom } from '@jiko/core/first-sheet';
import { blankSheet, importInto, type Imported } from '@jiko/core/formats';
import { candidatesOf, fillBlanks, takeIn } from '@jiko/core/schematic';
import { PdfTrouble, readPdf } from '@jiko/pdf';
import { fileText, print, type Say } from './words.ts';

/** `jiko import FILE`: the sheet as it would be, with what changes and what could not be read. */
export async function importFile(words: string[], out: Writable, say: Say): Promise<number> {
  let asked;
  try {
    asked = parseArgs({
      args: words,
      allowPositionals: true,
      options: { into: { type: 'string' }, id: { type: 'string' } },
    });
  } catch (error) {
    say((error as Error).message);
    return 2;
  }
  const [file, ...more] = asked.positionals;
  if (file === undefined || more.length > 0) {
    say('Say which file: jiko import FILE [--into SHEET].');
    return 2;
  }
  const { into } = asked.values;
  const id = asked.values.id ?? sheetId(file);
  const sheet = into === undefined ? blankSheet(id, id) : fileText(into, say);
  if (sheet === null) return 1;
  const loaded = loadSheet(sheet);
  if (!loaded.ok) {
    for (const issue of loaded.error) say(sheetIssueText(issue));
    return 1;
  }
  let bytes: Buffer;
  try {
    bytes = readFileSync(file);
  } catch (error) {
    say(`${file} cannot be read: ${(error as Error).message}`);
    return 1;
  }
  if (bytes.subarray(0, 1024).includes('%PDF-')) return importPdf(file, bytes, sheet, out, say);
  const done = importInto(sheet, bytes.toString('utf8'));
  if (!done.ok) {
    for (const { line, why } of done.error) say(line > 0 ? `Line ${line}: ${why}.` : `${why}.`);
    return 1;
  }
  tell(done.value, out, say);
  return 0;
}

const sheetId = (file: string): string => boardIdFrom(basename(file, extname(file)), new Set());

async function importPdf(
  file: string,
  bytes: Buffer,
  sheet: string,
  out: Writable,
  say: Say,
): Promise<number> {
  try {
    const { pages, troubles } = await readPdf(bytes);
    const board = loadSheet(sheet);
    if (!board.ok) return 1;
    const candidates = candidatesOf(pages);
    if (candidates.nets.length + candidates.parts.length === 0) {
      say(
        `${file} gives no net and no part: its pages are pictures, or their letters are drawn as strokes. Type the sheet, or take a netlist.`,
      );
      return 1;
    }
    const taken = takeIn(sheet, {
      joins: fillBlanks(board.value, candidates),
      nets: candidates.nets,
      // On a sheet made by choices the stages stand for the chips: parts are taken one by one there.
      parts: board.value.choices ? [] : candidates.parts,
    });
    if (!taken.ok) {
      for (const why of taken.error) say(why);
      return 1;
    }
    const { text, done, left } = taken.value;
    const unread = troubles.map(({ page, why }) => ({ line: 0, why: `page ${page}: ${why}` }));
    tell({ format: 'pdf', text, done, left, troubles: unread }, out, say);
    return 0;
  } catch (error) {
    if (!(error instanceof PdfTrouble)) throw error;
    say(`${file} ${error.message}`);
    return 1;
  }
}

function tell(
  { format, text, done, left, troubles }: Omit<Imported, 'format'> & { format: string },
  out: Writable,
  say: Say,
): void {
  for (const { line, why } of troubles) say(line > 0 ? `Line ${line}: ${why}.` : `${why}.`);
  for (const one of left) say(`Open: ${one}`);
  print(out, { format, done, left, troubles, sheet: text });
}
