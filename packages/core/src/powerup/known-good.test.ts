import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { type NetId } from '../board/index.ts';
import { comesFrom } from '../readings/index.ts';
import { plainBoard } from '../practice/index.ts';
import { studyHealthyBoard, withKnownGood } from './index.ts';

const board = plainBoard(cairnText);
const rail = '3V3_ALW';
const guessed = {
  ...board,
  nets: board.nets.map((net) => (net.id === rail ? { ...net, origin: 'guess' as const } : net)),
};

describe('what good boards read', () => {
  const known = (count: number) => [{ net: rail, mode: 'ohms' as const, median: 420, count }];
  const expected = (of: typeof board) => {
    const found = studyHealthyBoard(of).expect(rail as NetId, 'ohms', 'cold');
    if (found.kind !== 'value') throw new Error(found.because);
    return found;
  };

  it('stands before a guess from three boards on, with how many', () => {
    const three = expected(withKnownGood(guessed, known(3)));
    expect(three.value).toBeCloseTo(420, -1);
    expect(three.origin).toBe('known-good');
    expect(comesFrom(three)).toBe('from 3 good boards');
    expect(expected(withKnownGood(guessed, known(2))).value).toBeCloseTo(900, -2);
  });

  it('never before what somebody looked up', () => {
    const looked = {
      ...board,
      nets: board.nets.map((net) =>
        net.id === rail ? { ...net, origin: 'schematic' as const } : net,
      ),
    };
    expect(expected(withKnownGood(looked, known(9))).value).toBeCloseTo(900, -2);
  });

  it('leaves a board without lessons as it is', () => {
    expect(withKnownGood(board, []).nets).toEqual(board.nets);
  });
});
