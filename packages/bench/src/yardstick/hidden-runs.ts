import { seeded } from '@jiko/core/base';
import { sharedDictionary } from '@jiko/testing';
import { usualSetup } from '@jiko/core/play';
import { follow, type Run } from '../closed-loop.ts';
import { makeBench } from '../hidden-faults.ts';
import { unlistedRuns } from '../unlisted-figures.ts';
import { inHand, type Slip } from './hand.ts';
import { calibration, logScore, rateText, wilson, type Said } from './rates.ts';
import { boardOf } from './repairs.ts';
import { newWays } from './ways.ts';

export interface HandledRun {
  run: Run;
  /** By what the meter was off, and what slipped. */
  factor: number;
  slipped: Slip[];
}

/** Hidden faults of the list, read by a hand that errs otherwise than the diagnosis believes. */
export function handledRuns(sheet: string, count: number, seed: number): HandledRun[] {
  const board = boardOf(sheet);
  const bench = makeBench(board, sharedDictionary(board, usualSetup(board)));
  const chance = seeded(seed);
  return Array.from({ length: count }, () => {
    // The hand has slips of its own: bad contacts are among them.
    const { fault, goal, hidden } = bench.hideBlocker({ more: { badContact: 0 } });
    const handled = inHand(hidden, board, chance);
    const run = follow(bench.diagnoser, handled, [fault], goal);
    return { run, factor: handled.factor, slipped: handled.slipped.map(({ slip }) => slip) };
  });
}

/** The same of ways of failing that nobody listed: what was said, and whether the place was right. */
export function newWayRuns(sheet: string, perWay: number): { said: Said; isSure: boolean }[] {
  const board = boardOf(sheet);
  const bench = makeBench(board, sharedDictionary(board, usualSetup(board)));
  return unlistedRuns(bench, perWay, newWays).map(({ run, right }) => ({
    said: { first: run.sure, isRight: right, onTruth: right ? run.sure : 0 },
    isSure: run.end === 'sure',
  }));
}

export const saidOf = ({ run }: HandledRun): Said => ({
  first: run.sure,
  isRight: run.right,
  onTruth: run.onTruth,
});

/** A row of the figures: rates with their intervals, a score that no threshold can tune, and calibration. */
export function rowOf(said: readonly Said[], sure: readonly boolean[]): string {
  const wrong = said.filter(({ isRight }, at) => sure[at] && !isRight).length;
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
