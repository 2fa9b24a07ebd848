import { QueryClient, type QueryKey } from '@tanstack/react-query';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { retry: 1, staleTime: 5_000, refetchOnWindowFocus: true, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});

/**
 * Something was changed: it is asked for anew. A first answer still on its way may be older than the
 * change; invalidating alone would take it for the newest.
 */
export async function askAnew(client: QueryClient, queryKey: QueryKey): Promise<void> {
  await client.cancelQueries({ queryKey });
  await client.invalidateQueries({ queryKey });
}
