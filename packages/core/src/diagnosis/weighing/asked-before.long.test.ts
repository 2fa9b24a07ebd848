import { describe, expect, it } from 'vitest';
import mini from '../../../../../sheets/beck-mini.yaml?raw';
import { draw, seeded } from '../../base/index.ts';
import type { GoalId, NetId } from '../../board/index.ts';
import { withFaults } from '../../faults/index.ts';
import { plainBoard, plainReading, sharedDictionary } from '@jiko/testing';
import { attachedIn, playBoard, usualSetup } from '../../play/index.ts';
import { makeRowPlayer, withRoom } from '../../dictionary/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { observations } from './observations.ts';
import { benchOfSetup } from '../evidence/bench-of.ts';
import { makeDiagnoser, noEvidence, noSigns, type Evidence, type Signs } from '../index.ts';
import { makeTable, withSets, type Table } from './table.ts';

// What is grown for one question is kept for the next, until there is too much of it: then it is
// thrown away and begun anew. Neither may change an answer by more than a hair.

const board = plainBoard(mini);
const setup = usualSetup(board);
const dictionary = sharedDictionary(board, setup);
const { stages } = studyHealthyBoard(board, setup);
const attached = attachedIn(board, setup);
const nets = board.nets.filter((one) => one.id !== board.ground);

/** Readings of four boards taken for those of one: hardly anything explains them, and much is grown. */
function questions(count: number): Evidence[] {
  const chance = seeded(11);
  return Array.from({ length: count }, (): Evidence => {
    return {
      ...noEvidence,
      goal: 'boots' as GoalId,
      readings: Array.from({ length: 4 }, (_, index) => {
        const play = playBoard(withFaults(board, [draw(dictionary.faults, chance)]), setup);
        const net = draw(nets, chance).id;
        const value = play.phases.get('trying')?.volts.get(net) ?? 0;
        return {
          id: String(index),
          reading: plainReading(
            net as NetId,
            'volts',
            'trying',
            { kind: 'number', value, trend: 'steady' },
            { attached },
          ),
        };
      }),
    };
  });
}

describe('a diagnoser that was asked much before', () => {
  it('answers as one that never was', () => {
    const old = makeDiagnoser(board, stages, dictionary, setup);
    const now = { phase: 'trying', side: '' } as const;
    let most = 0;
    for (const evidence of questions(40)) {
      const before = old.diagnose(evidence, now, 6);
      const fresh = makeDiagnoser(board, stages, dictionary, setup).diagnose(evidence, now, 6);
      const share = (of: typeof before, title: string): number =>
        of.suspects.find((one) => one.title === title)?.probability ?? 0;
      for (const { title, probability } of fresh.suspects.slice(0, 3))
        most = Math.max(most, Math.abs(share(before, title) - probability));
      most = Math.max(most, Math.abs(before.none - fresh.none));
    }
    expect(most).toBeLessThan(0.2);
  });

  it('keeps nothing of other signs, nor of readings since, for rows nor for sets', () => {
    // Two faults at once stand in a row of their own.
    const pair = dictionary.faults.slice(40, 42);
    const roomy = withRoom(dictionary, 1);
    makeRowPlayer(board, setup).write(roomy, dictionary.rows, pair);
    const rows = { ...roomy, rows: dictionary.rows + 1 };
    const tableOf = () => withSets(makeTable(board, dictionary), rows, [[41, 42]], [pair]);
    const benches = { here: benchOfSetup(board, setup), others: [], isAlike: () => false };
    const seen = (off: number | null, amps: number, lights: readonly string[]): Signs => ({
      ...noSigns,
      offAfterSeconds: off,
      draw: [{ phase: 'trying', amps, shape: 'steady' }],
      lights,
    });
    const [first, other] = questions(2) as [Evidence, Evidence];
    const asked = [
      { ...first, signs: seen(null, 0.02, []) },
      { ...first, signs: seen(1, 0.9, dictionary.lights) },
      { ...other, signs: seen(null, 0.02, []) },
      { ...other, signs: seen(20, 0.3, dictionary.lights) },
      { ...first, readings: [...first.readings, { ...first.readings[0]!, id: 'again' }] },
    ];
    const old = tableOf();
    const told = (table: Table, evidence: Evidence) =>
      observations(table, evidence, benches).used.map(({ text, byRow }) => [text, [...byRow]]);
    for (let round = 0; round < 2; round++)
      for (const evidence of asked) {
        const one = told(old, evidence);
        expect(one).toEqual(told(tableOf(), evidence));
        expect(one).toEqual(told(old, evidence));
        expect(one.length).toBeGreaterThan(3);
      }
  });
});
