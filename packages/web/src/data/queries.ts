import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import {
  api,
  boardDetailSchema,
  boardHistorySchema,
  boardLookSchema,
  habitsSchema,
  boardRowsSchema,
  boardVersionsSchema,
  foundJobsSchema,
  healthSchema,
  jobDetailSchema,
  jobRowsSchema,
  shopSchema,
  type JobSearchQuery,
} from '@jiko/contract';
import { deriveJob, type Job, type KeptEvent } from '@jiko/core/record';
import { useOutbox } from '../offline/outbox.ts';
import { request } from './http.ts';

export const healthQuery = queryOptions({
  queryKey: ['health'],
  // Without its database the server still says how it is.
  queryFn: () => request(healthSchema, api.health, { alsoRead: [503] }),
  refetchInterval: 4000,
  retry: false,
});

export const jobsQuery = queryOptions({
  queryKey: ['jobs'],
  queryFn: () => request(jobRowsSchema, api.jobs),
});

/** Jobs by words and more; what was found before stays until the new ones are there. */
export const jobSearchQuery = (asked: JobSearchQuery) =>
  queryOptions({
    queryKey: ['jobs', 'search', asked],
    queryFn: () => {
      const given = Object.entries(asked).filter(([, value]) => Boolean(value));
      return request(foundJobsSchema, `${api.jobSearch}?${new URLSearchParams(given)}`);
    },
    placeholderData: keepPreviousData,
  });

/** Backups, room and the demo. */
export const shopQuery = queryOptions({
  queryKey: ['shop'],
  queryFn: () => request(shopSchema, api.shop),
});

export const jobQuery = (id: string) =>
  queryOptions({
    queryKey: ['job', id],
    queryFn: () => request(jobDetailSchema, api.job(id)),
  });

export const boardsQuery = queryOptions({
  queryKey: ['boards'],
  queryFn: () => request(boardRowsSchema, api.boards),
});

/** Every version of a board's sheet, the present one first. */
export const versionsQuery = (id: string) =>
  queryOptions({
    queryKey: ['versions', id],
    queryFn: () => request(boardVersionsSchema, api.versions(id)),
  });

/** One version of a board's sheet, which never changes. */
export const versionQuery = (id: string, hash: string) =>
  queryOptions({
    queryKey: ['version', id, hash],
    queryFn: () => request(boardDetailSchema, api.board(id, hash)),
    enabled: hash !== '',
    staleTime: Infinity,
  });

export const boardQuery = (id: string) =>
  queryOptions({
    queryKey: ['board', id],
    queryFn: () => request(boardDetailSchema, api.board(id)),
    enabled: id !== '',
    staleTime: 60_000,
  });

/** The sheet a job stands on: the version it was moved to last, else the present one. */
export function jobSheetQuery(job: Job | null) {
  const board = job?.intake?.board ?? '';
  return job?.sheet ? versionQuery(board, job.sheet) : boardQuery(board);
}

/** Where closed jobs on a board ended: they make its faults likelier. */
/** `scheme` also asks for what other boards of it teach. */
export const habitsQuery = (board: string, scheme: string) =>
  queryOptions({
    queryKey: ['habits', board, scheme],
    queryFn: () => request(habitsSchema, api.habits(board, scheme)),
    enabled: board !== '',
    staleTime: 60_000,
  });

/** Closed jobs of a board, and what good ones read. */
export const historyQuery = (board: string) =>
  queryOptions({
    queryKey: ['history', board],
    queryFn: () => request(boardHistorySchema, api.history(board)),
    enabled: board !== '',
    staleTime: 60_000,
  });

/** Photos of a board and where its parts are on them. */
export const lookQuery = (board: string) =>
  queryOptions({
    queryKey: ['look', board],
    queryFn: () => request(boardLookSchema, api.look(board)),
    enabled: board !== '',
  });

/** A job with what was recorded here and is not sent yet. */
export function useJob(id: string): {
  job: Job | null;
  events: KeptEvent[];
  error: Error | null;
  isLoading: boolean;
} {
  const query = useQuery(jobQuery(id));
  const { waiting, elsewhere } = useOutbox();
  return useMemo(() => {
    const sent = query.data?.events ?? [];
    const known = new Set(sent.map((event) => event.id));
    const unsent = [...elsewhere, ...waiting]
      .filter((one) => one.job === id && !known.has(one.event.id))
      .map((one) => one.event);
    const events = [...sent, ...unsent];
    return {
      job: events.length > 0 ? deriveJob(events) : null,
      events,
      error: events.length > 0 ? null : query.error,
      isLoading: query.isLoading && events.length === 0,
    };
  }, [query.data, query.error, query.isLoading, waiting, elsewhere, id]);
}
