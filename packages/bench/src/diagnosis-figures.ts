import { groundedNet } from '@jiko/core/faults';
import type { Diagnoser } from '@jiko/core/diagnosis';
import { firstMissingIn } from '@jiko/core/dictionary';
import { follow, type Run } from './closed-loop.ts';
import { goOnInTrace, type InTrace } from './in-trace.ts';
import {
  mean,
  percent,
  type Bench,
  type Drawn,
  type Figure,
  type Passed,
} from './hidden-faults.ts';
import { halve, walk } from './schools.ts';

/** Hidden faults of one sheet, each followed to an answer. */
export interface LoopFigures {
  title: string;
  runs: Run[];
  /** By run: whether the suspect it ended at is stopped at the stage the true fault stops at. */
  regions: boolean[];
  /** By run: whether it ended at a net pulled to ground, which is hunted to its part on Stage. */
  pulledDown: boolean[];
  /** By run: readings in all when walking, or halving, to the first wrong one and then as proposed. */
  walked: number[];
  halved: number[];
  /** Of each run that ended sure of something else: what came of it in Trace. */
  inTrace: InTrace[];
  /** Faults drawn that keep no goal from being reached. */
  passed: Record<Passed, number>;
  /** Of a fifth of the runs, by reading: milliseconds to weigh it alone, and with all that is grown. */
  weighing: number[];
  growing: number[];
}

/** The same diagnoser under a clock: what is known is weighed alone first, then with all that is grown. */
function clocked(diagnoser: Diagnoser, weighing: number[], growing: number[]): Diagnoser {
  const timed = <T>(list: number[], run: () => T): T => {
    const start = performance.now();
    const result = run();
    list.push(performance.now() - start);
    return result;
  };
  return {
    ...diagnoser,
    diagnose: (evidence, bench) => {
      timed(weighing, () => diagnoser.diagnose(evidence, bench, 0));
      // What was weighed is kept: this is a second weighing of it, and the growing.
      return timed(growing, () => diagnoser.diagnose(evidence, bench));
    },
  };
}

/** Faults are drawn with a fixed seed until `count` of them keep a goal from being reached. */
export function closedLoop(bench: Bench, count: number, drawn: Drawn = 'evenly'): LoopFigures {
  const { board, dictionary, healthy, diagnoser } = bench;
  const figures: LoopFigures = {
    title: board.title,
    runs: [],
    regions: [],
    pulledDown: [],
    walked: [],
    halved: [],
    inTrace: [],
    passed: { degrader: 0, silent: 0, harmless: 0 },
    weighing: [],
    growing: [],
  };
  const onTheClock = clocked(diagnoser, figures.weighing, figures.growing);
  while (figures.runs.length < count) {
    const { fault, goal, row, hidden } = bench.hideBlocker({
      drawn,
      passed: (kind) => figures.passed[kind]++,
    });
    const isFifth = figures.runs.length % 5 === 4;
    const run = follow(isFifth ? onTheClock : diagnoser, hidden, [fault], goal);
    figures.runs.push(run);
    if (run.end === 'sure' && !run.right)
      figures.inTrace.push(goOnInTrace(bench, hidden, [fault], goal, run));
    const firstMissing = firstMissingIn(healthy.stages, dictionary, row);
    figures.regions.push(run.right || run.leading?.firstMissing === firstMissing);
    const [first] = run.leading?.faults ?? [];
    figures.pulledDown.push(first !== undefined && groundedNet(board, first.fault) !== null);
    // A fifth of the runs is enough to hold the other schools against.
    if (isFifth)
      for (const [school, list] of [
        [walk, figures.walked],
        [halve, figures.halved],
      ] as const)
        list.push(
          follow(diagnoser, hidden, [fault], goal, (read) => school(healthy, goal, read)).probes /
            Math.max(1, run.probes),
        );
  }
  return figures;
}

/** Rows of the table of figures. */
export function loopRows(figures: LoopFigures): Figure[] {
  const { title, runs, regions, walked, halved, passed, weighing, growing } = figures;
  const probes = runs.map((run) => run.probes);
  const sure = runs.filter((run) => run.end === 'sure');
  const share = (is: (run: Run) => boolean): string => percent(runs.filter(is).length, runs.length);
  return [
    [
      `probes to a hidden fault's group on ${title}, values, dies and severities off the sheet's, 1 % noise, 2 % bad contacts`,
      '6 or fewer on average, 18 at worst; right group 95 % or more',
      `${runs.length} faults that keep a goal from being reached: ${mean(probes).toFixed(1)} on average, ${Math.max(...probes)} at worst, ${mean(runs.map((run) => run.seconds)).toFixed(0)} s; right group ${share((run) => run.right)}`,
    ],
    [
      `right at the level of the region, the group, the part put first, of faults drawn evenly, ${title}`,
      '-',
      `${percent(regions.filter(Boolean).length, runs.length)}, ${share((run) => run.right)}, ${share((run) => run.rightPart)}`,
    ],
    [
      `the same, walking from the input on, or halving, to the first wrong reading and then as proposed, on ${title}`,
      'four times as many or more when walking',
      `${mean(walked).toFixed(1)} times as many when walking, ${mean(halved).toFixed(1)} times when halving`,
    ],
    [
      `honesty on ${title}: right when it said 95 %; confidently wrong`,
      '95 times in 100; under 2 %',
      `${percent(sure.filter((run) => run.right).length, sure.length)} of ${sure.length}; ${share((run) => run.end === 'sure' && !run.right)} (drawn besides: ${passed.degrader} that take something else away, ${passed.silent} no reading shows, ${passed.harmless} whose board, drawn off its sheet, reaches the goal all the same)`,
    ],
    [
      `suspects and next probe after a reading, ${title}; with what is grown where no single fault fits`,
      'under 50 ms; under 200 ms',
      `${mean(weighing).toFixed(0)} ms; ${mean(growing).toFixed(0)} ms, at worst ${Math.max(...growing).toFixed(0)} ms`,
    ],
  ];
}

/** All sheets of a set together. */
export function summaryRows(
  all: readonly LoopFigures[],
  drawn: Drawn,
  how = 'that were only measured until 1 December 2026 and count as worked on since',
): Figure[] {
  const runs = all.flatMap((one) => one.runs);
  const sure = runs.filter((run) => run.end === 'sure');
  const share = (is: (run: Run) => boolean): string => percent(runs.filter(is).length, runs.length);
  const inTrace = all.flatMap((one) => one.inTrace);
  const still = inTrace.filter((one) => one.confidentlyWrong).length;
  const others = all.flatMap((one) => one.runs.filter((_, at) => !one.pulledDown[at]));
  return [
    [
      `faults of the list, drawn ${drawn}, hidden on sheets ${how} (${all.map((one) => one.title).join(', ')})`,
      'right group 95 %, confidently wrong under 2 %, 6 probes or fewer, part put first right 80 %',
      `${runs.length} runs: right group ${share((run) => run.right)}, confidently wrong ${share((run) => run.end === 'sure' && !run.right)} (${percent(still, runs.length)} once Trace has asked what the missing stage needs, ${inTrace.length > 0 ? mean(inTrace.map((one) => one.more)).toFixed(1) : '0'} readings more), right when it said 95 % ${percent(sure.filter((run) => run.right).length, sure.length)} of ${sure.length}, ${mean(runs.map((run) => run.probes)).toFixed(1)} probes (${Math.max(...runs.map((run) => run.probes))} at worst), part put first right ${share((run) => run.rightPart)}; of the ${others.length} that did not end at a net pulled to ground, which is hunted to its part on Stage: ${percent(others.filter((run) => run.rightPart).length, others.length)}`,
    ],
  ];
}

/** The runs that ended wrong or took longest, with what was asked last. */
export function worstRuns({ title, runs }: LoopFigures, count: number): string[] {
  return [...runs]
    .sort((a, b) => Number(a.right) - Number(b.right) || b.probes - a.probes)
    .slice(0, count)
    .map((run) => runLine(title, run));
}

/** Those that ended sure of what is not there. */
export const confidentlyWrong = ({ title, runs }: Pick<LoopFigures, 'title' | 'runs'>): string[] =>
  runs.filter((run) => run.end === 'sure' && !run.right).map((run) => runLine(title, run));

const runLine = (title: string, run: Run): string =>
  `- ${title}: ${run.name} after ${run.probes} probes: ${run.right ? 'right' : 'wrong'}, ${run.end}, "${run.answer}" at ${(run.sure * 100).toFixed(0)} %; last read ${run.trail.slice(-2).join(', then ') || 'nothing'}`;
