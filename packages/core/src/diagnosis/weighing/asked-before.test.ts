import { describe, expect, it } from 'vitest';
import mini from '../../../../../sheets/beck-mini.yaml?raw';
import { draw, seeded } from '../../base/index.ts';
import type { GoalId, NetId } from '../../board/index.ts';
import { withFaults } from '../../faults/index.ts';
import { plainBoard, plainReading, sharedDictionary } from '../../practice/index.ts';
import { attachedIn, playBoard, studyHealthyBoard, usualSetup } from '../../powerup/index.ts';
import { makeDiagnoser, noEvidence, type Evidence } from '../index.ts';

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
});
