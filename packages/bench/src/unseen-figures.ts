import { loadSheet } from '@jiko/core/board';
import { usualSetup } from '@jiko/core/play';
import { wholeDictionary } from '@jiko/core/dictionary';
import {
  closedLoop,
  confidentlyWrong,
  summaryRows,
  worstRuns,
  type LoopFigures,
} from './diagnosis-figures.ts';
import { makeBench, type Figure } from './hidden-faults.ts';
import { roughLoop, roughRow } from './rough-figures.ts';
import type { Run } from './closed-loop.ts';
import { strangerBoard } from './stranger-boards.ts';

/** Boards drawn by chance, taken as sheets in full, that nobody looked at before they were measured. */
const unseen = { from: 941, to: 980 } as const;
const runsPerBoard = { evenly: 8, often: 8, rough: 4 } as const;
const title = `boards ${unseen.from} to ${unseen.to} of those drawn by chance`;

/** The rows of the table, the runs that ended worst, and those of a rough hand that ended sure and wrong. */
export function unseenFigures(): { rows: Figure[]; worst: string[]; worstRough: string[] } {
  const evenly: LoopFigures[] = [];
  const often: LoopFigures[] = [];
  const rough: Run[] = [];
  const plays = { all: 0, flagged: 0 };
  for (let seed: number = unseen.from; seed <= unseen.to; seed++) {
    const loaded = loadSheet(strangerBoard(seed).text);
    if (!loaded.ok) throw new Error(`board ${seed} does not load`);
    const board = loaded.value;
    const dictionary = wholeDictionary(board, usualSetup(board));
    plays.all += dictionary.rows;
    plays.flagged += dictionary.invalid.size;
    const bench = makeBench(board, dictionary);
    evenly.push(closedLoop(bench, runsPerBoard.evenly));
    often.push(closedLoop(bench, runsPerBoard.often, 'as they happen'));
    rough.push(...roughLoop(bench, runsPerBoard.rough).runs);
  }
  return {
    rows: [
      ...summaryRows([together(evenly)], 'evenly', 'nobody looked at before'),
      ...summaryRows([together(often)], 'as they happen', 'nobody looked at before'),
      roughRow({ title, runs: rough }),
      [
        `flagged: plays of ${title} that did not settle or end`,
        '0',
        `${plays.flagged} of ${plays.all}`,
      ],
    ],
    worst: worstRuns(together(evenly), 12),
    worstRough: confidentlyWrong({ title, runs: rough }),
  };
}

const together = (all: readonly LoopFigures[]): LoopFigures => ({
  title,
  runs: all.flatMap((one) => one.runs),
  regions: all.flatMap((one) => one.regions),
  pulledDown: all.flatMap((one) => one.pulledDown),
  walked: all.flatMap((one) => one.walked),
  halved: all.flatMap((one) => one.halved),
  inTrace: all.flatMap((one) => one.inTrace),
  passed: {
    degrader: all.reduce((sum, one) => sum + one.passed.degrader, 0),
    silent: all.reduce((sum, one) => sum + one.passed.silent, 0),
    harmless: all.reduce((sum, one) => sum + one.passed.harmless, 0),
  },
  weighing: all.flatMap((one) => one.weighing),
  growing: all.flatMap((one) => one.growing),
});
