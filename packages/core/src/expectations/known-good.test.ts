import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { NetId } from '../board/index.ts';
import { comesFrom } from '../readings/index.ts';
import { plainBoard } from '@jiko/testing';
import { studyHealthyBoard, withKnownGood } from './index.ts';

const board = plainBoard(cairnText);
const rail = '3V3_ALW';
const withOrigin = (origin: 'guess' | 'schematic') => ({
  ...board,
  nets: board.nets.map((net) => (net.id === rail ? { ...net, origin } : net)),
});
const [guessed, looked] = [withOrigin('guess'), withOrigin('schematic')];

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
    expect(expected(withKnownGood(looked, known(9))).value).toBeCloseTo(900, -2);
  });

  const volts = (count: number, median: number, spread = 0) => [
    { net: rail, mode: 'volts' as const, phase: 'standby' as const, median, spread, count },
  ];
  const standby = (of: typeof board, phase: 'standby' | 'run' = 'standby') => {
    const found = studyHealthyBoard(of).expect(rail as NetId, 'volts', phase);
    if (found.kind !== 'value') throw new Error(found.because);
    return found;
  };

  it('volts of three and more stand before a guess, in their own phase only', () => {
    const three = standby(withKnownGood(guessed, volts(3, 3.42)));
    expect(three).toMatchObject({ value: 3.42, origin: 'known-good', goodBoards: 3 });
    // 5 % of a rail, as of every known-good figure.
    expect([three.low, three.high]).toEqual([3.42 - 3.42 * 0.05, 3.42 + 3.42 * 0.05]);
    expect(standby(withKnownGood(guessed, volts(3, 3.42)), 'run').value).toBeCloseTo(3.3, 2);
    expect(standby(withKnownGood(guessed, volts(2, 3.42))).value).toBeCloseTo(3.3, 2);
    expect(standby(withKnownGood(looked, volts(9, 3.42))).value).toBeCloseTo(3.3, 2);
  });

  it('good boards that differ among themselves widen it to three spreads', () => {
    const wide = standby(withKnownGood(guessed, volts(5, 3.42, 0.1)));
    expect([wide.low, wide.high]).toEqual([3.42 - 3 * 0.1, 3.42 + 3 * 0.1]);
  });

  it('cold figures say nothing of where the volts come from', () => {
    expect(standby(withKnownGood(guessed, known(3))).origin).toBe('guess');
  });

  it('leaves a board without lessons as it is', () => {
    expect(withKnownGood(board, []).nets).toEqual(board.nets);
  });
});
