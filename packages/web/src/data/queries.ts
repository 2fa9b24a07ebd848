import { queryOptions, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import {
  api,
  boardDetailSchema,
  boardLookSchema,
  habitsSchema,
  boardRowsSchema,
  healthSchema,
  jobDetailSchema,
  jobRowsSchema,
} from '@jiko/contract';
import { loadSheet, type GoalId } from '@jiko/core/board';
import { traceJob, type Trace } from '@jiko/core/diagnosis';
import {
  benchSetup,
  studyHealthyBoard,
  type BenchSetup,
  type HealthyBoard,
} from '@jiko/core/powerup';
import { deriveJob, liftedParts, type Job, type JobEvent } from '@jiko/core/record';
import { useOutbox } from '../offline/outbox.ts';
import { request } from './http.ts';

export const healthQuery = queryOptions({
  queryKey: ['health'],
  queryFn: () => request(healthSchema, api.health),
  refetchInterval: 4000,
  retry: false,
});

export const jobsQuery = queryOptions({
  queryKey: ['jobs'],
  queryFn: () => request(jobRowsSchema, api.jobs),
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

export const boardQuery = (id: string) =>
  queryOptions({
    queryKey: ['board', id],
    queryFn: () => request(boardDetailSchema, api.board(id)),
    enabled: id !== '',
    staleTime: 60_000,
  });

/** Where closed jobs on a board ended: they make its faults likelier. */
export const habitsQuery = (board: string) =>
  queryOptions({
    queryKey: ['habits', board],
    queryFn: () => request(habitsSchema, api.habits(board)),
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
  events: JobEvent[];
  error: Error | null;
  isLoading: boolean;
} {
  const query = useQuery(jobQuery(id));
  const { waiting } = useOutbox();
  return useMemo(() => {
    const sent = query.data?.events ?? [];
    const known = new Set(sent.map((event) => event.id));
    const unsent = waiting
      .filter((one) => one.job === id && !known.has(one.event.id))
      .map((one) => one.event);
    const events = [...sent, ...unsent];
    return {
      job: events.length > 0 ? deriveJob(events) : null,
      events,
      error: events.length > 0 ? null : query.error,
      isLoading: query.isLoading && events.length === 0,
    };
  }, [query.data, query.error, query.isLoading, waiting, id]);
}

const studied = new Map<string, HealthyBoard>();

/** The healthy play of a board as the bench stands; computed once per sheet and bench. */
export function useHealthyBoard(
  boardId: string,
  source: string,
  attached: readonly string[],
  lifted: readonly string[] = [],
): { healthy: HealthyBoard | null; trouble: string | null } {
  const query = useQuery(boardQuery(boardId));
  const benchText = JSON.stringify({ source, attached, lifted } satisfies BenchSetup);
  return useMemo(() => {
    if (!query.data) return { healthy: null, trouble: query.error?.message ?? null };
    const bench = JSON.parse(benchText) as BenchSetup;
    const key = `${query.data.hash} ${benchText}`;
    let healthy = studied.get(key) ?? null;
    if (!healthy) {
      const loaded = loadSheet(query.data.text);
      if (!loaded.ok) return { healthy: null, trouble: 'The sheet of this board cannot be read.' };
      healthy = studyHealthyBoard(loaded.value, benchSetup(loaded.value, bench));
      studied.set(key, healthy);
    }
    return { healthy, trouble: null };
  }, [query.data, query.error, benchText]);
}

/** A job with its board as the bench stands, or what is missing to show it. */
export type JobOnBoard =
  | { state: 'loading' }
  | { state: 'trouble'; words: string }
  | { state: 'ready'; job: Job; healthy: HealthyBoard; trace: Trace };

export function useJobOnBoard(
  id: string,
  source: string,
  attached: readonly string[] = [],
): JobOnBoard {
  const { job, error, isLoading } = useJob(id);
  const lifted = job ? liftedParts(job) : [];
  const { healthy, trouble } = useHealthyBoard(job?.intake?.board ?? '', source, attached, lifted);
  const trace = useMemo(
    () => (healthy && job ? traceJob(healthy, job, (job.intake?.goal ?? '') as GoalId) : null),
    [healthy, job],
  );
  const words = error?.message ?? trouble;
  if (words !== null) return { state: 'trouble', words };
  if (isLoading || !job || !healthy || !trace) return { state: 'loading' };
  return { state: 'ready', job, healthy, trace };
}
