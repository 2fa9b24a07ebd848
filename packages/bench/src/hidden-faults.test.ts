import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { guessedWeight } from '@jiko/core/diagnosis';
import { outcomeOf } from '@jiko/core/dictionary';
import { usualSetup } from '@jiko/core/play';
import { plainBoard, sharedDictionary } from '@jiko/testing';
import { follow } from './closed-loop.ts';
import { makeBench, type Blocker, type Drawn } from './hidden-faults.ts';
import { goOnInTrace } from './in-trace.ts';

const sheet = new URL('../../../sheets/beck-mini.yaml', import.meta.url);
const board = plainBoard(readFileSync(sheet, 'utf8'));
const dictionary = sharedDictionary(board, usualSetup(board));
const blockers = (drawn: Drawn): Blocker[] => {
  const bench = makeBench(board, dictionary);
  return Array.from({ length: 400 }, () => bench.drawBlocker(undefined, drawn));
};
const meanWeight = (all: readonly Blocker[]): number =>
  all.reduce((sum, { fault }) => sum + guessedWeight(board, fault), 0) / all.length;

describe('faults that are hidden to be found', () => {
  it('keep a goal from being reached, however they are drawn', () => {
    const { healthy } = makeBench(board, dictionary);
    for (const drawn of ['evenly', 'as they happen'] as const)
      for (const { row, goal } of blockers(drawn).slice(0, 60))
        expect(outcomeOf(board, healthy.stages, dictionary, row).reached).not.toContain(goal);
  });

  it('are the frequent ones more often as they happen, but the rare ones too', () => {
    const [evenly, often] = [blockers('evenly'), blockers('as they happen')];
    expect(meanWeight(often)).toBeGreaterThan(1.5 * meanWeight(evenly));
    const isRare = ({ fault }: Blocker): boolean => guessedWeight(board, fault) < 0.1;
    expect(often.some(isRare)).toBe(true);
    expect(often.filter(isRare).length).toBeLessThan(evenly.filter(isRare).length / 2);
  });

  it('are not those that the drawn board, with values of its own, does without', () => {
    const bench = makeBench(board, dictionary);
    const blocker = bench.drawBlocker();
    expect(bench.reachesAllTheSame(bench.hide([]), blocker)).toBe(true);
    expect(bench.reachesAllTheSame(bench.hide([blocker.fault]), blocker)).toBe(false);
    // What no net shows keeps a board from running code all the same.
    const silent = makeBench(board, { ...dictionary, codeless: [blocker.row] });
    expect(silent.reachesAllTheSame(bench.hide([]), blocker)).toBe(false);
    const all = Array.from({ length: 100 }, () => bench.hideBlocker());
    expect(all.filter((one) => bench.reachesAllTheSame(one.hidden, one))).toEqual([]);
  });

  it('are the same ones in every run', () => {
    const rows = (): number[] => blockers('as they happen').map((one) => one.row);
    expect(rows()).toEqual(rows());
  });

  it('are asked about further as Trace does, until nothing is left to ask', () => {
    const bench = makeBench(board, dictionary);
    const fault = dictionary.faults.find(
      (one) => one.kind === 'dead' && one.part === 'core-regulator' && !one.letsGo,
    )!;
    const elsewhere = dictionary.faults.find(
      (one) => one.kind === 'dead' && one.part === 'memory-regulator',
    )!;
    const hidden = bench.hide([fault]);
    const goal = board.goals[0]!.id;
    const run = follow(bench.diagnoser, hidden, [fault], goal);
    expect(run.right).toBe(true);
    const found = goOnInTrace(bench, hidden, [fault], goal, run);
    expect(found).toMatchObject({ right: true, confidentlyWrong: false });
    // Nothing read at all: everything is still to be asked.
    const anew = goOnInTrace(bench, hidden, [fault], goal, { readings: [] });
    expect(anew.right).toBe(true);
    expect(anew.more).toBeGreaterThan(found.more);
    const wrong = goOnInTrace(bench, hidden, [elsewhere], goal, run);
    expect(wrong).toMatchObject({ right: false, confidentlyWrong: true });
  });
});
