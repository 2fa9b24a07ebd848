import { describe, expect, it } from 'vitest';
import type { PartRef, SourceId } from '@jiko/core/board';
import type { Fault } from '@jiko/core/faults';
import { checkHealthyPlay } from '@jiko/core/expectations';
import { playFault, playFaulty, rehearse, usualSetup } from '@jiko/core/play';
import { strangerBoard } from './stranger-boards.ts';
import { boardOf, namingRuns, strangerRun } from './stranger-figures.ts';

// Boards drawn by chance, which share nothing with what first sheets are made from. The whole run is in
// docs/figures.md; these are a few of it, so that what they hold is noticed when it breaks.
const seeds = [201, 202, 203, 204, 205, 206];

describe('boards drawn by chance', () => {
  it('wake and boot on their own sheets', () => {
    for (const seed of seeds) {
      const { text } = strangerBoard(seed);
      expect([seed, checkHealthyPlay(boardOf(text), text)]).toEqual([seed, []]);
    }
  });

  it.each<[string, number, Fault]>([
    ['a fuse gone to 20 ohms', 250, { kind: 'high', part: 'F102' as PartRef, ohms: 20 }],
    ['a very weak adapter', 208, { kind: 'source', source: 'adapter' as SourceId, how: 'weaker' }],
  ])(
    'with %s start, lose their bus and go off, though nothing holds it on its way down',
    (_name, seed, fault) => {
      const board = boardOf(strangerBoard(seed).text);
      const play = playFault(rehearse(board, usualSetup(board)), [fault]);
      expect(play.status).toBe('settled');
      expect(play.events.filter((one) => one.what === 'has lost its supply')).not.toEqual([]);
      const off = play.events.filter((one) => one.kind === 'gives-up');
      expect(off.map((one) => one.what)).toEqual(['goes off']);
      expect(off[0]!.atSeconds).toBeLessThan(play.pressedAtSeconds + 2);
    },
  );

  it('go on where the source just holds, however the play was begun', () => {
    const board = boardOf(strangerBoard(980).text);
    const setup = usualSetup(board);
    const trips: Fault = { kind: 'source', source: 'adapter' as SourceId, how: 'limited' };
    const plays = [playFault(rehearse(board, setup), [trips]), playFaulty(board, setup, [trips])];
    for (const play of plays) {
      expect(play.status).toBe('settled');
      expect(play.events.filter((one) => one.kind === 'gives-up')).toEqual([]);
      // Its limit: 6 % of 5 A.
      expect(play.phases.get('run')?.sourceAmps).toBeCloseTo(0.3, 2);
      expect(play.phases.get('pressed')?.sourceAmps).toBeCloseTo(0.3, 2);
    }
  });

  it('a first sheet made by choices finds the stage and the need on most of them', () => {
    const runs = seeds.flatMap((seed) =>
      [0, 1, 2].flatMap((k) => strangerRun(seed, seed * 100 + k) ?? []),
    );
    expect(runs.length).toBeGreaterThanOrEqual(6);
    const right = runs.filter((one) => one.rightNeed).length / runs.length;
    const wrong = runs.filter((one) => !one.rightNeed).map((one) => [one.fault, one.said]);
    expect({ right: right >= 0.75, wrong: right >= 0.75 ? [] : wrong }).toEqual({
      right: true,
      wrong: [],
    });
  }, 120_000);

  it('names most rails right from two or three readings', () => {
    const runs = seeds.slice(0, 4).flatMap(namingRuns);
    expect(runs.filter((one) => one.right).length / runs.length).toBeGreaterThanOrEqual(0.75);
    expect(runs.reduce((sum, one) => sum + one.readings, 0) / runs.length).toBeLessThan(3);
  }, 60_000);
});
