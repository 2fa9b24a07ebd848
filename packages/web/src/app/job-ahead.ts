import type { LoaderFunctionArgs } from 'react-router';
import { deriveJob } from '@jiko/core/record';
import { historyQuery, jobQuery, jobSheetQuery } from '../data/queries.ts';
import { queryClient } from '../data/query-client.ts';

/** Asks for what every view of a job shows while the code of the view is still on its way. */
export function jobAhead({ params }: LoaderFunctionArgs): null {
  void ask(params['id'] ?? '');
  return null;
}

async function ask(id: string): Promise<void> {
  await queryClient.prefetchQuery(jobQuery(id));
  const events = queryClient.getQueryData(jobQuery(id).queryKey)?.events ?? [];
  const job = events.length > 0 ? deriveJob(events) : null;
  const board = job?.intake?.board ?? '';
  if (board === '') return;
  void queryClient.prefetchQuery(historyQuery(board));
  void queryClient.prefetchQuery(jobSheetQuery(job));
}
