import type { BoardDetail, BoardRow } from '@jiko/contract';
import type { Outcome } from '../outcome.ts';
import { readSheetAside } from './sheet-reader.ts';

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
      const read = await readSheetAside(text);
      if (!read.ok) {
        const { issues } = read;
        return {
          ok: false,
          problem: {
            status: 400,
            title: 'The sheet cannot be read',
            detail: `${issues.length} trouble${issues.length === 1 ? '' : 's'} found; nothing was saved.`,
            errors: issues,
          },
        };
      }
      return { ok: true, value: await store.save({ ...read.board, text }) };
    },
  };
}
