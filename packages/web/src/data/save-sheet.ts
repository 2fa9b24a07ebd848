import type { QueryClient } from '@tanstack/react-query';
import { api, boardRowSchema, type BoardRow } from '@jiko/contract';
import { postJson, request, RequestTrouble } from './http.ts';
import { askAnew } from './query-client.ts';

/**
 * Keeps a sheet as the newest version of its board. `base` is the hash of the version it was made from,
 * null for a board that is not there yet; where there is another one by now it is refused, see
 * `isMeanwhile`. What shows that board is told at once: the text is known here already, so nobody waits
 * for it to come back.
 */
export async function saveSheet(
  client: QueryClient,
  text: string,
  base: string | null,
): Promise<BoardRow> {
  const row = await request(boardRowSchema, api.boards, postJson({ base, text }));
  client.setQueryData(['board', row.id], { ...row, text });
  client.setQueryData(['version', row.id, row.hash], { ...row, text });
  await Promise.all([askAnew(client, ['boards']), askAnew(client, ['versions', row.id])]);
  return row;
}

/** Refused because somebody else saved a version in between. */
export const isMeanwhile = (error: unknown): boolean =>
  error instanceof RequestTrouble && error.problem?.status === 409;
