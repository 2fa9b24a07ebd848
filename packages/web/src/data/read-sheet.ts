import { loadSheet, type Board } from '@jiko/core/board';

/** As many as are looked at in turn: a job's board, the version before, the one beside. */
const mostKept = 6;
const kept = new Map<string, Board | null>();

/** The board of a sheet, read once however many ask for it; null where it cannot be read. */
export function boardOf(sheet: { hash: string; text: string }): Board | null {
  let board = kept.get(sheet.hash);
  if (board === undefined) {
    const loaded = loadSheet(sheet.text);
    board = loaded.ok ? loaded.value : null;
    keep(sheet.hash, board);
  }
  return board;
}

/** Takes over a board that was read from its text already, by whoever changed it. */
export function knowBoard(board: Board): void {
  if (!kept.has(board.hash)) keep(board.hash, board);
}

function keep(hash: string, board: Board | null): void {
  if (kept.size >= mostKept) kept.delete(kept.keys().next().value as string);
  kept.set(hash, board);
}
