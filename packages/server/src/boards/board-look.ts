import type { BoardLook, BoardPicture, SetPlaces } from '@jiko/contract';
import { checkPicture } from '../picture.ts';
import { boardProblem, type Outcome } from '../outcome.ts';

/** Photos of a board and where its parts are on them, shared by all jobs on that board. */
export interface LookStore {
  has(board: string): Promise<boolean>;
  look(board: string): Promise<BoardLook>;
  /** False when the id belongs to another picture; the same bytes again are harmless. */
  addPicture(
    board: string,
    picture: Omit<BoardPicture, 'addedAt'>,
    content: Buffer,
  ): Promise<BoardPicture | null>;
  picture(id: string): Promise<{ type: string; content: Buffer } | null>;
  /** Shows a photo no more, and with it the one before of its side; its board, null where there is none. */
  takeBack(id: string): Promise<string | null>;
  /** Keeps places and takes off those without one; one transaction. */
  setPlaces(board: string, places: SetPlaces['places']): Promise<void>;
}

export interface LookUseCases {
  look(board: string): Promise<Outcome<BoardLook>>;
  addPicture(
    board: string,
    picture: { id: string; side: BoardPicture['side']; name: string },
    content: Buffer,
  ): Promise<Outcome<BoardPicture>>;
  picture(id: string): Promise<Outcome<{ type: string; content: Buffer }>>;
  takeBack(id: string): Promise<Outcome<BoardLook>>;
  setPlaces(board: string, places: SetPlaces['places']): Promise<Outcome<BoardLook>>;
}

export function makeBoardLook(store: LookStore): LookUseCases {
  const missing = (board: string) => {
    const { problem } = boardProblem(board, 'id');
    return { ok: false as const, problem: { ...problem, status: 404 as const } };
  };
  return {
    async look(board) {
      if (!(await store.has(board))) return missing(board);
      return { ok: true, value: await store.look(board) };
    },
    async addPicture(board, picture, content) {
      if (!(await store.has(board))) return missing(board);
      const checked = checkPicture(picture.name, content);
      if (!checked.ok) return checked;
      const row = { ...picture, type: checked.type, bytes: content.length };
      const added = await store.addPicture(board, row, content);
      return added
        ? { ok: true, value: added }
        : {
            ok: false,
            problem: { status: 409, title: 'This id belongs to another picture' },
          };
    },
    async picture(id) {
      const found = await store.picture(id);
      return found
        ? { ok: true, value: found }
        : { ok: false, problem: { status: 404, title: 'No such picture' } };
    },
    async takeBack(id) {
      const board = await store.takeBack(id);
      return board === null
        ? { ok: false, problem: { status: 404, title: 'No such picture' } }
        : { ok: true, value: await store.look(board) };
    },
    async setPlaces(board, places) {
      if (!(await store.has(board))) return missing(board);
      const known = new Set((await store.look(board)).pictures.map((one) => one.id));
      const strange = places.findIndex(({ frame }) => frame !== 'drawn' && !known.has(frame));
      if (strange >= 0)
        return {
          ok: false,
          problem: {
            status: 409,
            title: 'The picture was replaced meanwhile',
            detail: 'Parts are placed on the newest picture of a side: load the page again.',
            errors: [{ field: `places.${strange}.frame`, message: 'is not the picture in use' }],
          },
        };
      await store.setPlaces(board, places);
      return { ok: true, value: await store.look(board) };
    },
  };
}
