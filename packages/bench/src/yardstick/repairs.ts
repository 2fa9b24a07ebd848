import { readFileSync } from 'node:fs';
import { parse } from 'yaml';
import { z } from 'zod';
import { findNet, loadSheet, type Board, type GoalId } from '@jiko/core/board';
import { evidenceOf, makeDiagnoser, nextStep } from '@jiko/core/diagnosis';
import { plainIntake, plainJob, sharedDictionary } from '@jiko/testing';
import { stepLine } from '@jiko/bench';
import { attachedIn, usualSetup } from '@jiko/core/play';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { makeReading, type Mode, type Phase } from '@jiko/core/readings';
import { jobNow, traceJob } from '@jiko/core/trace';

// Repairs in words, scored strictly: forty.yaml says how they are written.

/** The job begins with the first. */
const schools = ['walk', 'shortest', 'looks'] as const;

const lines = z.array(z.string().min(2));
const repairSchema = z.strictObject({
  name: z.string(),
  of: z.number().int().min(1).max(20),
  sheet: z.string(),
  story: z.string().min(20),
  signs: z.strictObject({
    goal: z.string(),
    draw: z
      .record(
        z.string(),
        z.strictObject({ amps: z.number(), shape: z.enum(['steady', 'pulsing']) }),
      )
      .default({}),
    tried: z.array(z.strictObject({ thing: z.string(), result: z.string() })).default([]),
  }),
  findings: z
    .array(z.strictObject({ kind: z.string(), part: z.string(), text: z.string() }))
    .default([]),
  readings: lines.min(1),
  deeds: z.array(z.strictObject({ part: z.string(), action: z.string() })).default([]),
  after: lines.default([]),
  cause: lines.min(1),
  accepted: lines.min(1),
  forbidden: lines.min(1),
});
export type ToldRepair = z.output<typeof repairSchema>;

export const toldRepairs = (): ToldRepair[] =>
  z
    .array(repairSchema)
    .parse(parse(readFileSync(new URL('./forty.yaml', import.meta.url), 'utf8')));

/** Sheets nobody developed on: until the end only lint and the healthy play are run on them. */
export const unseenSheets = [
  'slate-9',
  'osprey-17',
  'skiff-3',
  'anvil-ms',
  'marmot-12',
  'gorge-rc',
] as const;

/** The sheets nobody developed on, and those of the demo. */
export function sheetText(id: string): string {
  for (const folder of ['./sheets/', '../../../../sheets/'])
    try {
      return readFileSync(new URL(`${folder}${id}.yaml`, import.meta.url), 'utf8');
    } catch {
      // It is the other one's.
    }
  throw new Error(`there is no sheet ${id}`);
}

export function boardOf(id: string): Board {
  const loaded = loadSheet(sheetText(id));
  if (!loaded.ok) throw new Error(`${id} does not load`);
  return loaded.value;
}

/** A reading as a line says it; an error names what is wrong with it. */
export function eventOfLine(board: Board, line: string): Record<string, unknown> {
  const [net = '', against = '', phase = '', mode = '', text = '', ...more] = line
    .split(',')
    .map((word) => word.trim());
  const placeOf = (name: string) => {
    const found = findNet(board, name);
    if (!found) throw new Error(`${line}: there is no net ${name}`);
    return { net: found.id, part: null, pin: null };
  };
  const bench = new Map(more.map((word) => word.split('=') as [string, string]));
  const setup = usualSetup(board);
  const attached = bench.get('attached');
  const made = makeReading(
    board,
    {
      at: placeOf(net),
      reference: against === '' ? null : placeOf(against),
      mode: mode as Mode,
      text,
    },
    {
      phase: phase as Phase,
      source: bench.get('source') ?? setup.source,
      attached:
        attached === undefined
          ? attachedIn(board, setup)
          : attached === 'none'
            ? []
            : attached.split(' '),
      lifted: bench.get('lifted')?.split(' ') ?? [],
    },
  );
  if (!made.ok) throw new Error(`${line}: ${made.error.join(' ')}`);
  return { type: 'reading', reading: made.value, supersedes: [] };
}

/** The job as it would have been written down. */
export function eventsOf(board: Board, told: ToldRepair): Record<string, unknown>[] {
  const { signs, findings, readings, deeds, after } = told;
  return [
    ...Object.entries(signs.draw).map(([phase, { amps, shape }]) => ({
      ...{ type: 'sign', phase, drawAmps: amps, drawShape: shape, text: '' },
    })),
    ...signs.tried.map((tried) => ({ type: 'tried', ...tried })),
    ...findings.map((finding) => ({ type: 'finding', ...finding })),
    ...readings.map((line) => eventOfLine(board, line)),
    ...deeds.map(({ part, action }) => ({ type: 'repair', action, parts: [part], text: '' })),
    ...after.map((line) => eventOfLine(board, line)),
  ];
}

export type Score = 'right' | 'half' | 'wrong';
export interface Scored {
  told: ToldRepair;
  score: Score;
  /** What it put first, and what it says is to be done next in each school. */
  first: string;
  steps: string[];
  forbidden: string[];
}

/**
 * Right: the first group and the next step are both accepted. Half: the cause is among the first three, and
 * no school's step is forbidden.
 */
export function scoreRepair(told: ToldRepair): Scored {
  const board = boardOf(told.sheet);
  const setup = usualSetup(board);
  const healthy = studyHealthyBoard(board, setup);
  const goal = told.signs.goal as GoalId;
  const job = jobNow(
    healthy,
    plainJob(
      plainIntake({ board: board.id, goal, source: setup.source }),
      ...eventsOf(board, told),
    ),
  );
  const trace = traceJob(healthy, job, goal);
  const diagnosis = makeDiagnoser(
    board,
    healthy.stages,
    sharedDictionary(board, setup),
    setup,
  ).diagnose(
    evidenceOf(job, [], [], trace.goalAsPlayed),
    { phase: job.readings.at(-1)?.reading.phase ?? 'standby', side: '' },
    6,
  );
  const named = diagnosis.suspects
    .slice(0, 3)
    .map(({ title, faults }) => [title, ...faults.slice(0, 2).map(({ name }) => name)].join(' / '));
  const isNothing = diagnosis.healthy > (diagnosis.suspects[0]?.probability ?? 0);
  const first = isNothing ? 'nothing wrong' : (named[0] ?? 'none of these');
  const steps = schools.map((school) => stepLine(nextStep(board, trace, diagnosis, school, [])));
  const forbidden = steps.filter((step) => matches(told.forbidden, step));
  const isRight =
    matches(told.cause, first) && matches(told.accepted, steps[0] ?? '') && forbidden.length === 0;
  const isHalf = named.some((suspect) => matches(told.cause, suspect)) && forbidden.length === 0;
  return { told, score: isRight ? 'right' : isHalf ? 'half' : 'wrong', first, steps, forbidden };
}

const matches = (patterns: readonly string[], text: string): boolean =>
  patterns.some((pattern) => new RegExp(pattern).test(text));
