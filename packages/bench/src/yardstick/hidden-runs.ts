import { sharedDictionary } from '@jiko/testing';
import { usualSetup } from '@jiko/core/play';
import { follow, type Run } from '../closed-loop.ts';
import { makeBench } from '../hidden-faults.ts';
import { unlistedRuns } from '../unlisted-figures.ts';
import { inHand, seedOf, type Slip } from './hand.ts';
import { calibration, logScore, mcnemar, rateText, wilson, type Said } from '../rates.ts';
import { boardOf } from './repairs.ts';
import { newWays } from './ways.ts';

/** How a run ended, as it is kept to be held against the same run of another version. */
export interface Outcome {
  name: string;
  said: Said;
  /** It ended above 95 %. */
  isSure: boolean;
  /** The part it puts first is the one at fault; of ways nobody listed nothing is said. */
  isPartFirst: boolean;
}

export const isConfidentlyWrong = ({ said, isSure }: Outcome): boolean => isSure && !said.isRight;

export interface HandledRun {
  outcome: Outcome;
  run: Run;
  /** By what the meter was off, and what slipped. */
  factor: number;
  slipped: Slip[];
}

/** Hidden faults of the list, read by a hand that errs otherwise than the diagnosis believes. */
export function handledRuns(sheet: string, count: number, seed: number): HandledRun[] {
  const board = boardOf(sheet);
  const bench = makeBench(board, sharedDictionary(board, usualSetup(board)));
  return Array.from({ length: count }, (_, number) => {
    // Each run by itself: how one is judged changes nothing of the next.
    const own = seedOf(`${seed} ${sheet} ${number}`);
    bench.seed(own);
    // The hand has slips of its own: bad contacts are among them.
    const { fault, goal, hidden } = bench.hideBlocker({ more: { badContact: 0 } });
    const handled = inHand(hidden, board, own, bench.seed);
    const run = follow(bench.diagnoser, handled, [fault], goal);
    return {
      run,
      factor: handled.factor,
      slipped: handled.slipped.map(({ slip }) => slip),
      outcome: {
        name: `${sheet} ${number} ${run.name}`,
        said: { first: run.sure, isRight: run.right, onTruth: run.onTruth },
        isSure: run.end === 'sure',
        isPartFirst: run.rightPart,
      },
    };
  });
}

/** The same of ways of failing that nobody listed: whether the place was right. */
export function newWayRuns(sheet: string, perWay: number, seed: number): Outcome[] {
  const board = boardOf(sheet);
  const bench = makeBench(board, sharedDictionary(board, usualSetup(board)));
  let own = seed;
  const runs = unlistedRuns(bench, perWay, newWays, {
    begin(way, number) {
      own = seedOf(`${seed} ${sheet} ${way} ${number}`);
      bench.seed(own);
    },
    by: (hidden) => inHand(hidden, board, own, bench.seed),
  });
  return runs.map(({ way, failing, run, right }, number) => ({
    name: `${sheet} ${number} ${way}: ${failing.name}`,
    said: { first: run.sure, isRight: right, onTruth: right ? run.sure : 0 },
    isSure: run.end === 'sure',
    isPartFirst: false,
  }));
}

/** A row of the figures: rates with their intervals, a score that no threshold can tune, and calibration. */
export function rowOf(outcomes: readonly Outcome[]): string {
  const said = outcomes.map((outcome) => outcome.said);
  const wrong = outcomes.filter(isConfidentlyWrong).length;
  const tenths = calibration(said).map(
    ({ said: meant, right }) =>
      `${(100 * meant).toFixed(0)} -> ${(100 * right.rate).toFixed(0)} (${right.of})`,
  );
  return [
    `right group ${rateText(wilson(said.filter(({ isRight }) => isRight).length, said.length))}`,
    `confidently wrong ${rateText(wilson(wrong, said.length))}`,
    `log score ${logScore(said).toFixed(2)} bits`,
    `said -> right by tenths: ${tenths.join(', ')}`,
  ].join('; ');
}

/** Two versions on the same hidden boards and readings: how often only one of them was right, and wrong above 95 %. */
export function pairedRow(before: readonly Outcome[], now: readonly Outcome[]): string {
  const earlier = new Map(before.map((outcome) => [outcome.name, outcome]));
  const both = now.flatMap((outcome) => {
    const other = earlier.get(outcome.name);
    return other ? [[other, outcome] as const] : [];
  });
  const text = (of: (outcome: Outcome) => boolean): string => {
    const { onlyFirst, onlySecond, p } = mcnemar(both.map(([a, b]) => [of(a), of(b)] as const));
    return `only before ${onlyFirst}, only now ${onlySecond}, p ${p.toPrecision(2)}`;
  };
  const score = (which: 0 | 1): string => logScore(both.map((pair) => pair[which].said)).toFixed(2);
  return `${both.length} pairs; right: ${text(({ said }) => said.isRight)}; confidently wrong: ${text(isConfidentlyWrong)}; log score ${score(0)} -> ${score(1)} bits`;
}
