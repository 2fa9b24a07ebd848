import type { QueryClient } from '@tanstack/react-query';
import { api, boardRowSchema, type BoardRow } from '@jiko/contract';
import { postJson, request } from './http.ts';
import { askAnew } from './query-client.ts';

/**
 * Keeps a sheet as the newest version of its board. What shows that board is told at once: the text is
 * known here already, so nobody waits for it to come back.
 */
export async function saveSheet(client: QueryClient, text: string): Promise<BoardRow> {
  const row = await request(boardRowSchema, api.boards, postJson({ text }));
  client.setQueryData(['board', row.id], { ...row, text });
  client.setQueryData(['version', row.id, row.hash], { ...row, text });
  await Promise.all([askAnew(client, ['boards']), askAnew(client, ['versions', row.id])]);
  return row;
}
