import { readFileSync } from 'node:fs';
import type { Writable } from 'node:stream';
import { parseArgs } from 'node:util';
import { loadSheet, sheetIssueText, type Board } from '@jiko/core/board';

// What every command needs: its words, its file, its answer.

export type Say = (text: string) => void;

export type Options = NonNullable<Parameters<typeof parseArgs>[0]>['options'];

export function read(
  words: string[],
  options: NonNullable<Options>,
  say: Say,
): { sheet: string; values: Record<string, unknown> } | null {
  try {
    const { positionals, values } = parseArgs({ args: words, options, allowPositionals: true });
    const [sheet, ...more] = positionals;
    if (sheet !== undefined && more.length === 0) return { sheet, values };
    say(sheet === undefined ? 'Name the sheet file.' : `Too many words: ${more.join(' ')}.`);
  } catch (error) {
    say((error as Error).message);
  }
  return null;
}

export function fileText(path: string, say: Say): string | null {
  try {
    return readFileSync(path, 'utf8');
  } catch (error) {
    say(`${path} cannot be read: ${(error as Error).message}`);
    return null;
  }
}

export const rounded = (value: number, digits = 4): number => Number(value.toFixed(digits));

export function print(out: Writable, value: unknown): void {
  out.write(`${JSON.stringify(value, null, 2)}\n`);
}

/** The same, of a sheet that can be played: one that names what feeds it. */
export function playableBoardOf(path: string, say: Say): Board | null {
  const board = boardOf(path, say);
  if (board === null || board.sources.length > 0) return board;
  say(`${path} names no source, so nothing can be played: add one under "sources".`);
  return null;
}

/** The board of a sheet file; null, with what is wrong said, where there is none. */
export function boardOf(path: string, say: Say): Board | null {
  const text = fileText(path, say);
  if (text === null) return null;
  const loaded = loadSheet(text);
  if (loaded.ok) return loaded.value;
  loaded.error.forEach((issue) => say(sheetIssueText(issue)));
  return null;
}
