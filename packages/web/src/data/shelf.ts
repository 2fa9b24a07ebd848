import { queryOptions, useQueries, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api, shelfSchema, type Shelf } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import type { ShelfItem } from '@jiko/core/record';
import { postJson, request } from './http.ts';
import { boardQuery } from './queries.ts';
import { boardOf } from './read-sheet.ts';

/** The shop's donor boards and loose parts. */
export const shelfQuery = queryOptions({
  queryKey: ['shelf'],
  queryFn: () => request(shelfSchema, api.shelf),
  staleTime: 30_000,
});

/** Puts an item on the shelf, or what it has become. */
export function useKeepOnShelf(): (id: string, item: ShelfItem) => Promise<void> {
  const client = useQueryClient();
  return async (id, item) => {
    const list = await request(shelfSchema, api.shelfItem(id), {
      ...postJson(item),
      method: 'PUT',
    });
    client.setQueryData(shelfQuery.queryKey, list);
  };
}

/** The sheets of the donor boards on a shelf, by id. */
export function useDonorSheets(shelf: Shelf): ReadonlyMap<string, Board> {
  const ids = [...new Set(shelf.flatMap(({ item }) => item.board ?? []))];
  const sheets = useQueries({ queries: ids.map((id) => boardQuery(id)) });
  const key = sheets.map((one) => one.data?.hash).join();
  return useMemo(
    () =>
      new Map(
        sheets.flatMap(({ data }) => {
          const board = data && boardOf(data);
          return board ? [[data.id, board] as const] : [];
        }),
      ),
    // What the queries give is new each time: their hashes tell whether one has come.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key],
  );
}
