import type { BoardDetail, BoardRow } from '@jiko/contract';
import { loadSheet, sheetIssueText } from '@jiko/core/board';
import type { Outcome } from '../outcome.ts';

export interface BoardStore {
  list(): Promise<BoardRow[]>;
  /** The newest version, or the one with the hash. */
  find(id: string, hash: string | null): Promise<BoardDetail | null>;
  /** Keeps every version; the newest one saved is the board's present one. */
  save(board: Omit<BoardDetail, 'updatedAt'>): Promise<BoardRow>;
}

export interface BoardUseCases {
  list(): Promise<BoardRow[]>;
  find(id: string, hash: string | null): Promise<Outcome<BoardDetail>>;
  save(text: string): Promise<Outcome<BoardRow>>;
}

export function makeBoards(store: BoardStore): BoardUseCases {
  return {
    list: () => store.list(),
    async find(id, hash) {
      const board = await store.find(id, hash);
      return board
        ? { ok: true, value: board }
        : {
            ok: false,
            problem: { status: 404, title: 'No such board', detail: `There is no board ${id}.` },
          };
    },
    async save(text) {
      const loaded = loadSheet(text);
      if (!loaded.ok) {
        return {
          ok: false,
          problem: {
            status: 400,
            title: 'The sheet cannot be read',
            detail: `${loaded.error.length} trouble${loaded.error.length === 1 ? '' : 's'} found; nothing was saved.`,
            errors: loaded.error.map((issue) => ({
              field: issue.line > 0 ? `line ${issue.line}` : issue.path,
              message: sheetIssueText(issue),
            })),
          },
        };
      }
      const { id, title, revision, depth, hash } = loaded.value;
      return { ok: true, value: await store.save({ id, title, revision, depth, hash, text }) };
    },
  };
}
