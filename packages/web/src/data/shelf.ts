import { queryOptions, useQueries, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api, shelfSchema, type Shelf } from '@jiko/contract';
import { loadSheet, type Board } from '@jiko/core/board';
import type { ShelfItem } from '@jiko/core/record';
import { postJson, request } from './http.ts';
import { boardQuery } from './queries.ts';

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
  const texts = sheets.map((one) => one.data?.text ?? '');
  const key = `${ids.join()} ${texts.map((one) => one.length).join()}`;
  return useMemo(
    () =>
      new Map(
        texts.flatMap((text, index) => {
          const loaded = text === '' ? null : loadSheet(text);
          return loaded?.ok ? [[ids[index]!, loaded.value] as const] : [];
        }),
      ),
    // The texts are large: their lengths tell whether one has come.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key],
  );
}
