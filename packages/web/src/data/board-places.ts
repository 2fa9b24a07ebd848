import { api, boardLookSchema, type BoardLook, type BoardPlace } from '@jiko/contract';
import { request } from './http.ts';

/** Keeps where parts are on pictures of a board; null takes one off. */
export const putPlaces = (
  board: string,
  places: (Omit<BoardPlace, 'at'> & { at: BoardPlace['at'] | null })[],
): Promise<BoardLook> =>
  request(boardLookSchema, api.places(board), {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ places }),
  });
