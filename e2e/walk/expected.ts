import type { APIRequestContext } from '@playwright/test';
import {
  boardDetailSchema,
  boardHistorySchema,
  habitsSchema,
  jobDetailSchema,
  api,
} from '@jiko/contract';
import { loadSheet, schemeOf, withoutStandIns, type Board, type GoalId } from '@jiko/core/board';
import { evidenceOf, makeDiagnoser, type Diagnosis } from '@jiko/core/diagnosis';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import { dictionaryKey, wholeDictionary, type Dictionary } from '@jiko/core/dictionary';
import { studyHealthyBoard, withKnownGood } from '@jiko/core/expectations';
import { deriveJob, knownNetsOf, liftedParts } from '@jiko/core/record';
import { timelineOf, withoutEffect } from '@jiko/core/repair';
import { jobNow, probePlace, traceJob, type Trace } from '@jiko/core/trace';
import type { Seen } from './look.ts';

// What the page is to say, worked out by the core from what the server holds.

export interface Expected {
  /** Newest first, as the page lists them. */
  entries: { id: string; standing: string; verdict: string }[];
  missing: { net: string; stage: string } | null;
  trace: Trace;
  board: Board;
  /** Parts that are off the board. */
  lifted: string[];
  /** Likeliest first; null where it is not asked for. */
  suspects: { title: string; probability: number }[] | null;
}

const played = new Map<string, Dictionary>();
function dictionaryOf(board: Board, bench: BenchSetup): Dictionary {
  const setup = benchSetup(board, bench);
  const key = dictionaryKey(board, setup);
  let dictionary = played.get(key);
  if (!dictionary) played.set(key, (dictionary = wholeDictionary(board, setup)));
  return dictionary;
}

/** `seen` says how the bench strip of the page stands: the record does not hold that. */
export async function expectedOf(
  request: APIRequestContext,
  id: string,
  seen: Pick<Seen, 'strip'>,
  withSuspects: boolean,
): Promise<Expected> {
  const read = async <T>(schema: { parse(value: unknown): T }, path: string): Promise<T> =>
    schema.parse(await (await request.get(path)).json());
  const { events } = await read(jobDetailSchema, api.job(id));
  const kept = deriveJob(events);
  const boardId = kept.intake?.board ?? '';
  const sheet = await read(boardDetailSchema, api.board(boardId, kept.sheet ?? undefined));
  const loaded = loadSheet(sheet.text);
  if (!loaded.ok) throw new Error(`the sheet of ${boardId} does not load`);
  const { known } = await read(boardHistorySchema, api.history(boardId));
  const { source, attached, phase } = seen.strip;
  const bench: BenchSetup = { source, attached, lifted: liftedParts(kept) };
  const board = withKnownGood(loaded.value, knownNetsOf(known, source));
  const healthy = studyHealthyBoard(board, benchSetup(board, bench));
  const job = jobNow(healthy, kept);
  const trace = traceJob(healthy, job, (job.intake?.goal ?? '') as GoalId);
  const { firstMissing } = trace;
  let suspects: Expected['suspects'] = null;
  if (withSuspects) {
    const habits = await read(habitsSchema, api.habits(boardId, schemeOf(board)));
    const doubted =
      job.repairs.length > 0
        ? withoutEffect(timelineOf(healthy, events, Date.parse)).map((one) => one.part)
        : [];
    const evidence = evidenceOf(job, habits, [...new Set(doubted)], trace.goalReached);
    const plain = loaded.value;
    const setup = benchSetup(plain, bench);
    const { stages } = studyHealthyBoard(plain, setup);
    const diagnoser = makeDiagnoser(plain, stages, dictionaryOf(plain, bench), setup);
    const last = trace.readings.at(-1);
    const side = last ? probePlace(plain, last.reading.at.net as never).side : '';
    let diagnosis: Diagnosis;
    const taught = new Set<string>();
    for (;;) {
      diagnosis = diagnoser.diagnose(evidence, { phase, side });
      const next = diagnosis.unused.find(
        (one) => one.bench !== null && !taught.has(JSON.stringify(one.bench)),
      )?.bench;
      if (!next) break;
      taught.add(JSON.stringify(next));
      const other = { ...next, source: next.source ?? source };
      diagnoser.alsoKnow(other, dictionaryOf(plain, other));
    }
    suspects = diagnosis.suspects.map(({ title, probability }) => ({
      title: withoutStandIns(plain, title),
      probability,
    }));
  }
  return {
    entries: trace.readings
      .map((one) => ({ id: one.id, standing: one.standing.kind, verdict: one.verdict.kind }))
      .reverse(),
    missing: firstMissing && { net: firstMissing.net, stage: firstMissing.stage ?? '' },
    trace,
    board,
    lifted: liftedParts(kept),
    suspects,
  };
}
