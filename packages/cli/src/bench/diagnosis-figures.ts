import { draw, seeded } from '@jiko/core/base';
import type { Board } from '@jiko/core/board';
import { makeDiagnoser } from '@jiko/core/diagnosis';
import { hideFaults, type HiddenBoard } from '@jiko/core/practice';
import {
  outcomeOf,
  studyHealthyBoard,
  usualSetup,
  type Dictionary,
  type HealthyBoard,
} from '@jiko/core/powerup';
import { usualMeter } from '@jiko/core/readings';
import { follow, type Run } from './closed-loop.ts';

/** Hidden faults of one sheet, each followed to an answer. */
export interface LoopFigures {
  board: Board;
  runs: Run[];
  /** Readings on the walk from the input on until the first one that is wrong, by run. */
  walks: number[];
  /** Faults drawn that keep no goal from being reached: degraders, and what no reading shows. */
  degraders: number;
  silent: number;
  millisecondsPerReading: number;
}

/** Faults are drawn with a fixed seed until `count` of them keep a goal from being reached. */
export function closedLoop(board: Board, dictionary: Dictionary, count: number): LoopFigures {
  const setup = usualSetup(board);
  const healthy = studyHealthyBoard(board, setup);
  const diagnoser = makeDiagnoser(board, healthy.stages, dictionary);
  const chance = seeded(2026);
  const whole = outcomeOf(board, healthy.stages, dictionary, 0);
  const figures: LoopFigures = {
    board,
    runs: [],
    walks: [],
    degraders: 0,
    silent: 0,
    millisecondsPerReading: 0,
  };
  let spent = 0;
  let diagnoses = 0;
  while (figures.runs.length < count) {
    const fault = draw(dictionary.faults, chance);
    const row = dictionary.rowOf[dictionary.faults.indexOf(fault)] as number;
    const outcome = outcomeOf(board, healthy.stages, dictionary, row);
    const goal = whole.reached.find((one) => !outcome.reached.includes(one));
    if (goal === undefined) {
      if (outcome.changed === 0) figures.silent++;
      else figures.degraders++;
      continue;
    }
    const hidden = hideFaults(board, setup, [fault], chance, {
      badContact: 0.02,
      meter: usualMeter,
    });
    // The board's first cold reading is the simulated bench's work, not the diagnosis's.
    const first = board.nets.find((net) => net.id !== board.ground);
    if (first) hidden.read(first.id, 'ohms', 'cold');
    const start = performance.now();
    const run = follow(diagnoser, hidden, fault, goal);
    spent += performance.now() - start;
    diagnoses += run.probes + 1;
    figures.runs.push(run);
    figures.walks.push(walk(healthy, hidden, goal));
  }
  return { ...figures, millisecondsPerReading: spent / diagnoses };
}

/** Readings from the input on, stage by stage on the way to the goal, until one is wrong. */
function walk(healthy: HealthyBoard, hidden: HiddenBoard, goal: string): number {
  let readings = 0;
  for (const { stage, phase } of healthy.path(goal as never)) {
    for (const net of stage.gives) {
      readings++;
      const at = phase === 'standby' ? 'standby' : 'trying';
      const expected = healthy.expect(net, 'volts', at);
      const value = hidden.read(net, 'volts', at);
      if (value.kind === 'swinging') return readings;
      if (expected.kind === 'value' && value.kind === 'number')
        if (value.value < expected.low || value.value > expected.high) return readings;
    }
  }
  return readings;
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, one) => sum + one, 0) / Math.max(1, values.length);
const percent = (part: number, whole: number): string =>
  `${((100 * part) / Math.max(1, whole)).toFixed(1)} %`;

/** Rows of the table of figures. */
export function loopRows({
  board,
  runs,
  walks,
  degraders,
  silent,
  millisecondsPerReading,
}: LoopFigures): [string, string, string][] {
  const probes = runs.map((run) => run.probes);
  const sure = runs.filter((run) => run.end === 'sure');
  const sureWrong = sure.filter((run) => !run.right).length;
  return [
    [
      `probes to a hidden fault's group on ${board.title}, values, dies and severities off the sheet's, 1 % noise, 2 % bad contacts`,
      '6 or fewer on average, 18 at worst; right group 95 % or more',
      `${runs.length} faults that keep a goal from being reached: ${mean(probes).toFixed(1)} on average, ${Math.max(...probes)} at worst, ${mean(runs.map((run) => run.seconds)).toFixed(0)} s; right group ${percent(runs.filter((run) => run.right).length, runs.length)}`,
    ],
    [
      `the same, walking from the input on to the first wrong reading on ${board.title}`,
      'four times as many or more',
      `${mean(walks).toFixed(1)} readings to the first wrong one alone: ${(mean(walks) / mean(probes)).toFixed(1)} times`,
    ],
    [
      `honesty on ${board.title}: right when it said 95 %; confidently wrong`,
      '95 times in 100; under 2 %',
      `${percent(sure.length - sureWrong, sure.length)} of ${sure.length}; ${percent(sureWrong, runs.length)} (${degraders} degraders and ${silent} faults no reading shows were drawn besides)`,
    ],
    [
      `suspects and next probe after a reading, ${board.title}, the simulated bench's answer included`,
      'under 50 ms',
      `${millisecondsPerReading.toFixed(0)} ms`,
    ],
  ];
}

/** The runs that ended wrong or took longest, with what was asked last. */
export function worstRuns({ board, runs }: LoopFigures, count: number): string[] {
  return [...runs]
    .sort((a, b) => Number(a.right) - Number(b.right) || b.probes - a.probes)
    .slice(0, count)
    .map(
      (run) =>
        `- ${board.title}: ${run.name} after ${run.probes} probes: ${run.right ? 'right' : 'wrong'}, ${run.end}, "${run.answer}" at ${(run.sure * 100).toFixed(0)} %; last read ${run.trail.slice(-2).join(', then ') || 'nothing'}`,
    );
}
