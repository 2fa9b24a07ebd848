import { expect, it } from 'vitest';
import { nextPlace } from './answers.tsx';

it.each([
  ['ArrowRight', 0, 1],
  ['ArrowDown', 2, 0],
  ['ArrowLeft', 0, 2],
  ['ArrowUp', 1, 0],
  ['Home', 2, 0],
  ['End', 0, 2],
  ['Enter', 1, null],
  ['a', 1, null],
])('%s at %i of three goes to %s', (key, at, next) => {
  expect(nextPlace(key, at, 3)).toBe(next);
});
