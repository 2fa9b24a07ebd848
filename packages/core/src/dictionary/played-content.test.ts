import { describe, expect, it } from 'vitest';
import wren from '../../../../sheets/wren-5.yaml?raw';
import type { Board } from '../board/index.ts';
import { plainBoard } from '@jiko/testing';
import { dictionaryBytes, dictionaryKey, wholeDictionary } from './index.ts';
import { usualSetup } from '../play/index.ts';
import { withKnownGood } from '../expectations/index.ts';

const board = plainBoard(wren);
const keyOf = (one: Board): string => dictionaryKey(one, usualSetup(one));
const changed = (from: string, to: string): Board => {
  if (!wren.includes(from)) throw new Error(`${from} is not on the sheet`);
  return plainBoard(wren.replace(from, to));
};

/** One line of the sheet with something put behind an opening brace. */
const put = (line: string, what: string): [string, string] => [
  `  ${line}: { `,
  `  ${line}: { ${what}, `,
];

describe('two versions of a sheet', () => {
  it.each([
    ['a comment', ['nets:', '# read twice\nnets:']],
    ['the title of the board', ['title: ', 'title: New ']],
    ['another name of a net', put('3V3', 'aliases: [VCC3]')],
    ['where the volts of a net come from', put('3V3', 'origin: known-good')],
    ['what is printed on a part', put('C1', 'marking: "106"')],
  ] as [string, [string, string]][])('that differ in %s share their plays', (_, [from, to]) => {
    const other = changed(from, to);
    expect(other.hash).not.toBe(board.hash);
    expect(keyOf(other)).toBe(keyOf(board));
    // It is true: everything that is kept comes out the same.
    const [a, b] = [board, other].map((one) =>
      dictionaryBytes(wholeDictionary(one, usualSetup(one))),
    );
    expect(Buffer.from(b!).equals(Buffer.from(a!))).toBe(true);
  });

  it('ohms of good boards are read by the meter; what they say of volts is not', () => {
    const good = (mode: 'ohms' | 'volts'): Board =>
      withKnownGood(board, [{ net: '1V8', mode, phase: 'run', median: 300, spread: 0, count: 5 }]);
    expect(keyOf(good('volts'))).toBe(keyOf(board));
    expect(keyOf(good('ohms'))).not.toBe(keyOf(board));
  });

  it.each([
    ['a value', ['value: 100k', 'value: 101k']],
    ['the volts of a net', ['volts: 5', 'volts: 5.1']],
    ['what stands where', put('C1', 'x: 3, y: 4, side: top')],
    ['what is fitted', put('C1', 'fitted: false')],
    ['a goal', ['goals:', 'goals:\n  other: { title: other, reached: [3V3 > 3] }']],
  ] as [string, [string, string]][])('that differ in %s do not', (_, [from, to]) => {
    expect(keyOf(changed(from, to))).not.toBe(keyOf(board));
  });

  it('nor do two benches of one sheet', () => {
    const setup = usualSetup(board);
    expect(dictionaryKey(board, { ...setup, lifted: ['C1' as never] })).not.toBe(keyOf(board));
  });
});
