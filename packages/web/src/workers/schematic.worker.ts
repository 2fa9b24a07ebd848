import { expose } from 'comlink';
import { lintBoard, loadSheet, sheetIssueText } from '@jiko/core/board';
import { importInto, type ImportFormat } from '@jiko/core/formats';
import { checkHealthyPlay } from '@jiko/core/expectations';
import {
  candidatesOf,
  fillBlanks,
  takeIn,
  type Candidates,
  type Join,
  type PageContent,
  type Taking,
} from '@jiko/core/schematic';

/** What a document says, and which nets of the sheet it calls otherwise. */
export interface DocumentReading {
  candidates: Candidates;
  joins: Join[];
}

/** A sheet with what was ticked, before it is kept. */
export type Preview =
  | { ok: false; why: string[] }
  | {
      ok: true;
      text: string;
      done: string[];
      left: string[];
      /** Doubts about the sheet that were not there before. */
      doubts: string[];
    };

function read(pages: readonly PageContent[], text: string): DocumentReading {
  const candidates = candidatesOf(pages);
  const loaded = loadSheet(text);
  return { candidates, joins: loaded.ok ? fillBlanks(loaded.value, candidates) : [] };
}

/** What is doubtful about a sheet, without the lines it stands on: those move. */
function doubtsOf(text: string): string[] {
  const loaded = loadSheet(text);
  if (!loaded.ok) return [];
  return [...lintBoard(loaded.value, text), ...checkHealthyPlay(loaded.value, text)].map((one) =>
    sheetIssueText({ ...one, line: 0 }),
  );
}

function preview(text: string, taking: Taking): Preview {
  const taken = takeIn(text, taking);
  if (!taken.ok) return { ok: false, why: taken.error };
  const before = new Set(doubtsOf(text));
  const { done, left } = taken.value;
  const doubts = doubtsOf(taken.value.text).filter((one) => !before.has(one));
  return { ok: true, text: taken.value.text, done, left, doubts };
}

/** A file of another format in a sheet, before it is kept. */
export type ImportPreview =
  | { ok: false; why: string[] }
  | {
      ok: true;
      format: ImportFormat;
      text: string;
      done: string[];
      left: string[];
      troubles: string[];
      doubts: string[];
    };

function importPreview(sheet: string, file: string): ImportPreview {
  const withLine = ({ line, why }: { line: number; why: string }): string =>
    line > 0 ? `line ${line}: ${why}` : why;
  const imported = importInto(sheet, file);
  if (!imported.ok) return { ok: false, why: imported.error.map(withLine) };
  const { format, text, done, left, troubles } = imported.value;
  const before = new Set(doubtsOf(sheet));
  const doubts = doubtsOf(text).filter((one) => !before.has(one));
  return { ok: true, format, text, done, left, troubles: troubles.map(withLine), doubts };
}

const worker = { read, preview, importPreview };
export type SchematicWorker = typeof worker;
expose(worker);
