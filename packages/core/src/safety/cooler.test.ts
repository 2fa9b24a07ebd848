import { expect, it } from 'vitest';
import { coolerCount } from './index.ts';

it.each([
  [-3, 'count', 5],
  [0, 'count', 5],
  [0.1, 'count', 5],
  [2.9, 'count', 3],
  [3, 'warn', 2],
  [4.9, 'warn', 1],
  [5, 'off', 0],
  [60, 'off', 0],
] as const)('%f s after the press with the cooler off: %s, %i s left', (seconds, word, left) => {
  expect(coolerCount(seconds)).toEqual({ word, left });
});
