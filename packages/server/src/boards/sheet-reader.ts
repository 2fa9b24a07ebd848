import { Worker } from 'node:worker_threads';
import { loadSheet, sheetIssueText } from '@jiko/core/board';

/** What the server needs to know of a sheet, or what stops it from being used. */
export type SheetReading =
  | {
      ok: true;
      board: {
        id: string;
        title: string;
        revision: string;
        depth: 'rails' | 'chips' | 'full';
        hash: string;
      };
    }
  | { ok: false; issues: { field: string; message: string }[] };

export function readSheet(text: string): SheetReading {
  const loaded = loadSheet(text);
  if (loaded.ok) {
    const { id, title, revision, depth, hash } = loaded.value;
    return { ok: true, board: { id, title, revision, depth, hash } };
  }
  return {
    ok: false,
    issues: loaded.error.map((issue) => ({
      field: issue.line > 0 ? `line ${issue.line}` : issue.path,
      message: sheetIssueText(issue),
    })),
  };
}

/** Read at once; a larger sheet would hold up everybody else's requests. */
const readAtOnce = 50_000;

/** Reads a sheet, a large one on a thread of its own and no longer than `limitSeconds`. */
export function readSheetAside(text: string, limitSeconds = 20): Promise<SheetReading> {
  if (text.length <= readAtOnce) return Promise.resolve(readSheet(text));
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./sheet-worker.ts', import.meta.url), {
      workerData: text,
      execArgv: ['--import', '@oxc-node/core/register'],
      resourceLimits: { maxOldGenerationSizeMb: 512 },
    });
    const timer = setTimeout(() => {
      const message = `takes longer than ${limitSeconds} s to read: a sheet of this kind is not taken`;
      resolve({ ok: false, issues: [{ field: 'text', message }] });
      void worker.terminate();
    }, limitSeconds * 1000);
    worker.once('message', (reading: SheetReading) => {
      clearTimeout(timer);
      resolve(reading);
      void worker.terminate();
    });
    worker.once('error', (error) => {
      clearTimeout(timer);
      reject(error);
    });
  });
}
