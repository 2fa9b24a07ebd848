import { describe, expect, it } from 'vitest';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { choicesSchema, composeSheetText } from '../first-sheet/index.ts';
import { loadSheet, withoutStandIns, type Board } from './index.ts';

const boardOf = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return loaded.value;
};

describe('what nobody finds on the board is called by what it stands for', () => {
  it('the regulator of a stage at rails depth', () => {
    const board = boardOf(beck);
    expect(withoutStandIns(board, 'memory-regulator dead, weak or off its volts')).toBe(
      'The regulator of 1V2_MEM dead, weak or off its volts',
    );
    expect(withoutStandIns(board, 'Check memory-regulator, then my-memory-regulator-2.')).toBe(
      'Check the regulator of 1V2_MEM, then my-memory-regulator-2.',
    );
  });

  it('what switches a converter on, on a sheet made by choices, and no guess keeps its private name', () => {
    const text = composeSheetText(
      { title: 'Hut board', marking: '', choices: choicesSchema.parse({}) },
      'hut-board',
    );
    const board = boardOf(text);
    const guesses = board.parts.filter(({ isGuess }) => isGuess).map(({ ref }) => ref as string);
    expect(guesses.length).toBeGreaterThan(3);
    const on = guesses.filter((ref) => ref.startsWith('ON_'));
    for (const ref of on)
      expect(withoutStandIns(board, `${ref} open`)).toMatch(
        /^What switches \S+ on \(not known yet\) open$/,
      );
    for (const ref of guesses.filter((one) => one.startsWith('WAY_')))
      expect(withoutStandIns(board, `${ref} open`)).toMatch(
        /^The way to the regulator of \S+ open$/,
      );
  });

  it('nothing on a sheet that draws its parts', () => {
    const board = boardOf(cairn);
    for (const { ref } of [...board.parts, ...board.chips])
      expect(withoutStandIns(board, `${ref} open`)).toBe(`${ref} open`);
  });
});
