import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { plainBoard } from '@jiko/testing';
import {
  isProvoked,
  makeReading,
  oddReading,
  readingText,
  splitRemarks,
  type Mode,
} from './index.ts';

const board = plainBoard(cairnText);
const typed = (net: string, text: string, mode: Mode = 'volts') => {
  const made = makeReading(
    board,
    { at: { net, part: null, pin: null }, mode, text },
    { phase: mode === 'volts' ? 'standby' : 'cold', source: 'adapter', attached: [], lifted: [] },
  );
  if (!made.ok) throw new Error(made.error.join(' '));
  return made.value;
};

describe('what nobody would expect', () => {
  // The highest volts of this sheet are its backlight's; half as much again is the edge.
  const highest = Math.max(
    ...board.nets.map((net) => net.rangeVolts?.[1] ?? net.volts ?? 0),
    ...board.sources.map((source) => source.volts),
  );
  it.each([
    [1.49, false],
    [1.51, true],
    [-1.51, true],
  ])('%f times the highest volts: asked %s', (times, isAsked) => {
    const said = oddReading(board, typed('3V3_ALW', (times * highest).toFixed(3)));
    expect(said !== null).toBe(isAsked);
  });

  it('is taken all the same, and says what to make sure of', () => {
    const said = oddReading(board, typed('3V3_ALW', '500'));
    expect(said).toMatch(/^500 V is far above .*3V3_ALW is a 3\.3 V net/);
    expect(said).toMatch(/take the source off/);
    expect(oddReading(board, typed('3V3_ALW', '1M', 'ohms'))).toBeNull();
  });
});

describe('remarks at the end of a reading', () => {
  it.each([
    ['0.4 warm', '0.4', { state: 'warm' }],
    ['0.4 hot', '0.4', { state: 'warm' }],
    ['0.4 cold', '0.4', { state: 'cold' }],
    ['3.3 pushed', '3.3', { state: 'pushed' }],
    ['1.6 moves', '1.6', { moves: true }],
    ['1.6 still', '1.6', { moves: false }],
    ['1.6 does not move', '1.6', { moves: false }],
    ['3.3 r40m', '3.3', { ripple: 0.04 }],
    ['3.3 ripple 40m', '3.3', { ripple: 0.04 }],
    ['3.3 r0.2 warm', '3.3', { ripple: 0.2, state: 'warm' }],
    // None of them a remark.
    ['3.3 V', '3.3 V', {}],
    ['no short', 'no short', {}],
    ['pressed', 'pressed', {}],
    ['2r2', '2r2', {}],
    ['warm', 'warm', {}],
  ])('%s', (text, rest, remarks) => {
    expect(splitRemarks(text)).toEqual({ text: rest, remarks });
  });

  it('warm and pushed are kept apart from what the board does by itself, cold is as usual', () => {
    const provoked = ['3.3', '3.3 cold', '3.3 warm', '3.3 pushed'].map((text) =>
      isProvoked(typed('3V3_ALW', text)),
    );
    expect(provoked).toEqual([false, false, true, true]);
  });

  it('are kept with it and said', () => {
    const reading = typed('3V3_ALW', '3.3 r40m pushed');
    expect(reading).toMatchObject({ state: 'pushed', ripple: 0.04 });
    expect(readingText(reading)).toBe('3.3 V, taken pushed, ripple 0.04 V');
    expect(readingText(typed('3V3_ALW', '3.3'))).toBe('3.3 V');
  });
});
