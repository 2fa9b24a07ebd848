import { useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { useEffect, useMemo, useSyncExternalStore } from 'react';
import type { BoardDetail } from '@jiko/contract';
import type { Board, NetId } from '@jiko/core/board';
import { evidenceOf, type Evidence } from '@jiko/core/diagnosis';
import type { DrawStop } from '@jiko/core/prepare';
import type { BenchSetup } from '@jiko/core/play';
import type { Dictionary } from '@jiko/core/dictionary';
import type { HealthyBoard } from '@jiko/core/expectations';
import { liftedParts, type Job, type KeptEvent } from '@jiko/core/record';
import { netsInDoubt, probePlace, type Trace } from '@jiko/core/trace';
import type { DiagnosisWorker } from '../workers/diagnosis.worker.ts';
import type { BenchState } from './bench-state.ts';
import { makeDesk } from './diagnosis-desk.ts';
import {
  makeDiagnosisStore,
  type DiagnosisStore,
  type JobDiagnosis,
  type Question,
} from './diagnosis-store.ts';
import { joinPlays } from './dictionaries.ts';
import { useDoubted } from './doubted.ts';
import { useHabits } from './habits.ts';
import { jobSheetQuery } from './queries.ts';
import { boardOf } from './read-sheet.ts';

export type { JobDiagnosis } from './diagnosis-store.ts';

let worker: Remote<DiagnosisWorker> | null = null;
const desk = makeDesk(
  () =>
    (worker ??= wrap<DiagnosisWorker>(
      new Worker(new URL('../workers/diagnosis.worker.ts', import.meta.url), { type: 'module' }),
    )),
);

/** Jobs whose diagnosis is kept though no page shows them: each holds some megabytes of plays. */
const mostLeft = 1;
const open = new Map<string, { store: DiagnosisStore; users: number }>();

/** The diagnosis of a job: one, whichever views show it. */
function storeOf(job: string): DiagnosisStore {
  const known = open.get(job);
  if (known) return known.store;
  const store = makeDiagnosisStore({
    join: joinPlays,
    desk,
    after: (milliseconds, run) => {
      const timer = setTimeout(run, milliseconds);
      return () => clearTimeout(timer);
    },
  });
  open.set(job, { store, users: 0 });
  return store;
}

function enter(job: string): () => void {
  storeOf(job);
  const entry = open.get(job)!;
  entry.users++;
  // The one used last stands last.
  open.delete(job);
  open.set(job, entry);
  const unused = [...open].filter(([, { users }]) => users === 0);
  for (const [old] of unused.slice(0, Math.max(0, unused.length - mostLeft))) open.delete(old);
  return () => {
    entry.users--;
    if (entry.users === 0) entry.store.rest();
  };
}

/** A job on its board, as every view of it has it. */
export interface JobSeen {
  id: string;
  job: Job;
  events: readonly KeptEvent[];
  healthy: HealthyBoard;
  trace: Trace;
  bench: BenchState;
}

/** The side of the board that faces up: where the last reading was taken. */
function lastSide(board: Board, trace: Trace): string {
  const last = trace.readings.at(-1);
  return last ? probePlace(board, last.reading.at.net as NetId).side : '';
}

/** How a job's bench stands, the same object while nothing of it changes. */
export function useSetup(job: Job, { source, attached }: BenchState): BenchSetup {
  const key = JSON.stringify([source, attached, liftedParts(job)]);
  return useMemo(() => {
    const [on, plugged, lifted] = JSON.parse(key) as [string, string[], string[]];
    return { source: on, attached: plugged, lifted };
  }, [key]);
}

function useQuestion({ job, events, healthy, trace, bench }: JobSeen): {
  question: Question | null;
  evidence: Evidence;
} {
  const { board } = healthy;
  const sheet = useQuery(jobSheetQuery(job)).data;
  const setup = useSetup(job, bench);
  const habits = useHabits(board);
  const doubted = useDoubted(healthy, job, events);
  const { goalAsPlayed } = trace;
  const evidence = useMemo(
    () => evidenceOf(job, habits, doubted, goalAsPlayed),
    [job, habits, doubted, goalAsPlayed],
  );
  const evidenceKey = useMemo(() => JSON.stringify(evidence), [evidence]);
  const { phase } = bench;
  const side = lastSide(board, trace);
  const question = useMemo((): Question | null => {
    const read = sheet ? boardOf(sheet) : null;
    return sheet && read
      ? {
          sheet,
          board: read,
          bench: setup,
          evidence,
          evidenceKey,
          now: { phase, side },
          near: netsInDoubt(trace),
        }
      : null;
  }, [sheet, setup, evidence, evidenceKey, phase, side, trace]);
  return { question, evidence };
}

function useAsked(id: string, question: Question | null): DiagnosisStore {
  const store = storeOf(id);
  useEffect(() => {
    desk.wake();
    return enter(id);
  }, [id]);
  useEffect(() => {
    if (question) store.ask(question);
  }, [store, question]);
  return store;
}

/**
 * Suspects and next probes of a job, for all its views: weighed from everything recorded, what closed
 * jobs teach and what was worked on without effect, as the bench stands now.
 */
export function useJobDiagnosis(view: JobSeen): JobDiagnosis & { evidence: Evidence } {
  const { question, evidence } = useQuestion(view);
  const store = useAsked(view.id, question);
  useSyncExternalStore(store.subscribe, store.state);
  return { ...store.of(question), evidence };
}

/** The same without a look at it: what the next view shows is made meanwhile, and nothing is drawn anew. */
export function useDiagnosisAhead(view: JobSeen): void {
  const { question } = useQuestion(view);
  useAsked(view.id, question);
}

/** What boards draw that stop at each stage of the bench as it stands; null until every fault was played. */
export function useDrawStops(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
  dictionary: Dictionary | null,
): DrawStop[] | null {
  const board = sheet ? boardOf(sheet) : null;
  const query = useQuery({
    queryKey: ['draws', sheet?.hash, dictionary?.key],
    queryFn: () =>
      desk.draws({ board: board as Board, bench, dictionary: dictionary as Dictionary }),
    enabled: board !== null && dictionary !== null,
    staleTime: Infinity,
  });
  return query.data ?? null;
}
