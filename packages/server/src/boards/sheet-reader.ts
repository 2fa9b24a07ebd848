import { loadSheet, sheetIssueText } from '@jiko/core/board';
import { makeAside, TookTooMuch } from '../aside/aside.ts';

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

const aside = makeAside(new URL('./sheet-worker.ts', import.meta.url), 512);

/** Reads a sheet, a large one on a thread of its own and no longer than `limitSeconds`. */
export async function readSheetAside(text: string, limitSeconds = 20): Promise<SheetReading> {
  if (text.length <= readAtOnce) return readSheet(text);
  try {
    return await aside<SheetReading>('readSheet', text, { seconds: limitSeconds });
  } catch (error) {
    if (!(error instanceof TookTooMuch)) throw error;
    const message = `${error.message}: a sheet of this kind is not taken`;
    return { ok: false, issues: [{ field: 'text', message }] };
  }
}
