import { expect, it } from 'vitest';
import { oneOfEach } from '@jiko/testing';
import { outlineDictionary, putRows, takeRows, wholeDictionary } from './index.ts';
import { usualSetup } from '../play/index.ts';

// Rows go from the worker that played them to the page that collects, in any order and in any share.

const setup = usualSetup(oneOfEach);
const whole = wholeDictionary(oneOfEach, setup);
// As some plays say of themselves.
whole.invalid.set(4, 'it does not settle').set(5, 'nor does this');
const places = Array.from({ length: whole.rows }, (_, row) => row);

it('rows taken out and put elsewhere, in two shares and out of order, make the same dictionary', () => {
  const { dictionary } = outlineDictionary(oneOfEach, setup);
  putRows(dictionary, takeRows(whole, places.filter((row) => row % 2 === 1).reverse()));
  putRows(
    dictionary,
    takeRows(
      whole,
      places.filter((row) => row % 2 === 0),
    ),
  );
  // Some rows swing: what is tried is there.
  expect(whole.swings.size).toBeGreaterThan(0);
  expect({ ...dictionary, swings: [...dictionary.swings].sort((a, b) => a[0] - b[0]) }).toEqual({
    ...whole,
    swings: [...whole.swings].sort((a, b) => a[0] - b[0]),
  });
});

it('a share brings its own rows, and says of no other', () => {
  const { dictionary } = outlineDictionary(oneOfEach, setup);
  putRows(dictionary, takeRows(whole, [5, 7]));
  const perRow = whole.volts.length / whole.rows;
  const rowOf = (name: 'volts' | 'ohms', of: typeof whole, row: number): number[] => {
    const per = of[name].length / of.rows;
    return [...of[name].subarray(row * per, (row + 1) * per)];
  };
  for (const row of [5, 7]) {
    expect(rowOf('volts', dictionary, row)).toEqual(rowOf('volts', whole, row));
    expect(rowOf('ohms', dictionary, row)).toEqual(rowOf('ohms', whole, row));
  }
  expect(rowOf('volts', dictionary, 6).every(Number.isNaN)).toBe(true);
  expect([...dictionary.invalid]).toEqual([[5, 'nor does this']]);
  for (const place of dictionary.swings.keys())
    expect([5, 7]).toContain(Math.floor(place / perRow));
});
