import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { GoalId } from '@jiko/core/board';
import { jobNow, traceJob, type Trace } from '@jiko/core/trace';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import {
  studyHealthyBoard,
  withKnownGood,
  type HealthyBoard,
  type KnownNet,
} from '@jiko/core/expectations';
import { knownNetsOf, liftedParts, type Job } from '@jiko/core/record';
import { historyQuery, jobSheetQuery, useJob } from './queries.ts';
import { boardOf } from './read-sheet.ts';

// What loads the simulator: kept apart from the queries, so that the list of jobs does without it.

const studied = new Map<string, HealthyBoard>();

/** The healthy play of a job's board as the bench stands; computed once per sheet and bench. */
export function useHealthyBoard(
  job: Job | null,
  source: string,
  attached: readonly string[],
  lifted: readonly string[] = [],
): { healthy: HealthyBoard | null; trouble: string | null } {
  const query = useQuery(jobSheetQuery(job));
  // Without them the sheet's own figures stand: nothing waits for what good boards read.
  const known = useQuery(historyQuery(job?.intake?.board ?? '')).data?.known;
  const knownText = JSON.stringify(knownNetsOf(known ?? [], source));
  const benchText = JSON.stringify({ source, attached, lifted } satisfies BenchSetup);
  return useMemo(() => {
    if (!query.data) return { healthy: null, trouble: query.error?.message ?? null };
    const bench = JSON.parse(benchText) as BenchSetup;
    const key = `${query.data.hash} ${benchText} ${knownText}`;
    let healthy = studied.get(key) ?? null;
    if (!healthy) {
      const sheet = boardOf(query.data);
      if (!sheet) return { healthy: null, trouble: 'The sheet of this board cannot be read.' };
      if (sheet.sources.length === 0) return { healthy: null, trouble: noSource };
      const board = withKnownGood(sheet, JSON.parse(knownText) as KnownNet[]);
      healthy = studyHealthyBoard(board, benchSetup(board, bench));
      studied.set(key, healthy);
    }
    return { healthy, trouble: null };
  }, [query.data, query.error, benchText, knownText]);
}

const noSource =
  'The sheet of this board names no source yet: add one in Boards > Edit, under Sources.';

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
  const { job: kept, error, isLoading } = useJob(id);
  const lifted = kept ? liftedParts(kept) : [];
  const { healthy, trouble } = useHealthyBoard(kept, source, attached, lifted);
  const job = useMemo(() => (kept && healthy ? jobNow(healthy, kept) : kept), [kept, healthy]);
  const trace = useMemo(
    () => (healthy && job ? traceJob(healthy, job, (job.intake?.goal ?? '') as GoalId) : null),
    [healthy, job],
  );
  const words = error?.message ?? trouble;
  if (words !== null) return { state: 'trouble', words };
  if (isLoading || !job || !healthy || !trace) return { state: 'loading' };
  return { state: 'ready', job, healthy, trace };
}
