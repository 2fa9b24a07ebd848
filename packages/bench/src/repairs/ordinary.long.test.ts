import { parse } from 'yaml';
import { describe, expect, it } from 'vitest';
import { loadSheet, type Board, type GoalId } from '@jiko/core/board';
import { evidenceOf, makeDiagnoser, nextStep } from '@jiko/core/diagnosis';
import { choicesSchema, composeSheetText } from '@jiko/core/first-sheet';
import { attachedIn, usualSetup } from '@jiko/core/play';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { parseEntry, usualMeter, type Mode, type Phase } from '@jiko/core/readings';
import { jobNow, traceJob } from '@jiko/core/trace';
import { plainBoard, plainIntake, plainJob, plainReading, sharedDictionary } from '@jiko/testing';
import { stepLine } from '../hidden/step-line.ts';
import first from './ordinary.yaml?raw';
import second from './second-set.yaml?raw';

// Ordinary repairs, each stopped at one moment: the step on the page is one that a good technician takes.
interface Repair {
  name: string;
  sheet?: string;
  first?: object;
  signs?: { goal?: string; picture?: boolean };
  readings: string[];
  cause: string[];
  accepted: string[];
  forbidden: string[];
}

const sheets = import.meta.glob<string>('../../../../sheets/*.yaml', {
  query: '?raw',
  import: 'default',
  eager: true,
});

const boards = new Map<string, Board>();
function boardOf({ sheet, first }: Repair): Board {
  const key = sheet ?? JSON.stringify(first);
  let board = boards.get(key);
  if (!board) {
    const text =
      sheet === undefined
        ? composeSheetText(
            { title: 'Unknown', marking: '', choices: choicesSchema.parse(first) },
            'unknown',
          )
        : sheets[`../../../../sheets/${sheet}.yaml`]!;
    const loaded = loadSheet(text);
    board = loaded.ok ? loaded.value : plainBoard(text);
    boards.set(key, board);
  }
  return board;
}

const schools = ['walk', 'shortest', 'looks'] as const;

function answer(repair: Repair): { first: string; steps: string[] } {
  const board = boardOf(repair);
  const setup = usualSetup(board);
  const healthy = studyHealthyBoard(board, setup);
  const attached = attachedIn(board, setup);
  const { goal: asked, picture } = repair.signs ?? {};
  const goal = (asked ?? board.goals[0]!.id) as GoalId;
  const recorded = repair.readings.map((line) => {
    const [net = '', reference = '', phase = '', mode = '', text = ''] = line.split(',');
    const value = parseEntry(text, mode as Mode, usualMeter);
    if (!value.ok || !board.nets.some((one) => one.id === net)) throw new Error(line);
    const reading = plainReading(net, mode as Mode, phase as Phase, value.value, {
      attached,
      against: reference || null,
    });
    return { type: 'reading', reading, supersedes: [] };
  });
  const seen =
    picture === undefined
      ? []
      : [
          {
            type: 'sign',
            phase: 'run',
            drawAmps: null,
            drawShape: null,
            seen: { picture },
            text: '',
          },
        ];
  const job = jobNow(
    healthy,
    plainJob(plainIntake({ board: board.id, goal, source: setup.source }), ...recorded, ...seen),
  );
  const trace = traceJob(healthy, job, goal);
  const diagnosis = makeDiagnoser(
    board,
    healthy.stages,
    sharedDictionary(board, setup),
    setup,
  ).diagnose(
    evidenceOf(job, [], [], trace.goalReached),
    { phase: job.readings.at(-1)!.reading.phase, side: '' },
    6,
  );
  const [top] = diagnosis.suspects;
  const first =
    !top || diagnosis.healthy > top.probability
      ? 'nothing wrong'
      : [top.title, ...top.faults.slice(0, 2).map((one) => one.name)].join(' / ');
  return {
    first,
    steps: schools.map((school) => stepLine(nextStep(board, trace, diagnosis, school, []))),
  };
}

const matches = (patterns: readonly string[], text: string): boolean =>
  patterns.some((one) => new RegExp(one).test(text));

// The true cause need not lead where the readings leave it open; it does so in so many.
describe.each([
  { set: 'twenty ordinary repairs', text: first, count: 20, leastLeading: 17 },
  { set: 'sixteen more', text: second, count: 16, leastLeading: 14 },
])('$set', ({ text, count, leastLeading }) => {
  const repairs = parse(text) as Repair[];
  let leading = 0;
  it.each(repairs)('$name', (repair) => {
    const { first: leader, steps } = answer(repair);
    if (matches(repair.cause, leader)) leading++;
    // The school a job begins with.
    expect(matches(repair.accepted, steps[0]!), steps[0]).toBe(true);
    expect(steps.filter((one) => matches(repair.forbidden, one))).toEqual([]);
  });

  it('the true cause leads', () => {
    expect(repairs).toHaveLength(count);
    expect(leading).toBeGreaterThanOrEqual(leastLeading);
  });
});
