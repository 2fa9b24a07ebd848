import type { BoardDetail, BoardRow, ListedBoard } from '@jiko/contract';
import type { Outcome } from '../outcome.ts';
import { readSheetAside } from './sheet-reader.ts';

export interface BoardStore {
  list(): Promise<ListedBoard[]>;
  /** Every version, the present one first. */
  versions(id: string): Promise<BoardRow[]>;
  /** Offers a board for new jobs no more, or again. */
  archive(id: string, archived: boolean): Promise<void>;
  /** The newest version, or the one with the hash. */
  find(id: string, hash: string | null): Promise<BoardDetail | null>;
  /**
   * Keeps every version; the newest one saved is the board's present one. Null, and nothing saved, where
   * the present one is not the one it was made from (`base`; null: there is none) nor the same.
   */
  save(board: Omit<BoardDetail, 'updatedAt'>, base: string | null): Promise<BoardRow | null>;
}

export interface BoardUseCases {
  list(): Promise<ListedBoard[]>;
  versions(id: string): Promise<Outcome<BoardRow[]>>;
  archive(id: string, archived: boolean): Promise<Outcome<ListedBoard[]>>;
  find(id: string, hash: string | null): Promise<Outcome<BoardDetail>>;
  /** `base` is the version the text was made from, null for a board that is not there yet. */
  save(text: string, base: string | null): Promise<Outcome<BoardRow>>;
}

export function makeBoards(store: BoardStore): BoardUseCases {
  const missing = (id: string) => ({
    ok: false as const,
    problem: {
      status: 404 as const,
      title: 'No such board',
      detail: `There is no board ${id}.`,
    },
  });
  return {
    list: () => store.list(),
    async versions(id) {
      const versions = await store.versions(id);
      return versions.length > 0 ? { ok: true, value: versions } : missing(id);
    },
    async archive(id, archived) {
      if (!(await store.find(id, null))) return missing(id);
      await store.archive(id, archived);
      return { ok: true, value: await store.list() };
    },
    async find(id, hash) {
      const board = await store.find(id, hash);
      return board ? { ok: true, value: board } : missing(id);
    },
    async save(text, base) {
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
      const saved = await store.save({ ...read.board, text }, base);
      if (saved) return { ok: true, value: saved };
      return {
        ok: false,
        problem:
          base === null
            ? {
                status: 409,
                title: 'There is a board of this name already',
                detail: `${read.board.id} has a sheet; nothing was saved.`,
              }
            : {
                status: 409,
                title: 'The sheet was changed meanwhile',
                detail: `${read.board.id} has a newer version than the one this was made from; nothing was saved.`,
              },
      };
    },
  };
}
