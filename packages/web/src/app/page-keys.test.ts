import { expect, it } from 'vitest';
import { keysOf } from './page-keys.ts';

it('names the keys of the view, and those of every page', () => {
  expect(keysOf('/jobs/1/cold').map((one) => one.title)).toEqual(['Cold readings', 'Everywhere']);
  expect(keysOf('/boards/cairn-14/schematic')[0]?.keys.some(({ keys }) => keys[0] === 'F3')).toBe(
    true,
  );
  expect(keysOf('/jobs').map((one) => one.title)).toEqual(['Everywhere']);
  expect(keysOf('/').at(-1)?.keys[0]?.keys).toEqual(['F1']);
});
