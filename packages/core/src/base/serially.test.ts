import { expect, it } from 'vitest';
import { serially } from './serially.ts';

it('works in turn, and what fails holds up nobody', async () => {
  const inTurn = serially();
  const seen: string[] = [];
  const slow =
    (name: string, fails = false) =>
    (): Promise<string> =>
      new Promise((resolve, reject) => {
        seen.push(`${name} begins`);
        setTimeout(() => {
          seen.push(`${name} ends`);
          if (fails) reject(new Error(name));
          else resolve(name);
        }, 2);
      });
  const [first, broken, thrown, last] = [
    inTurn(slow('first')),
    inTurn(slow('broken', true)),
    // Breaks before it gives a promise.
    inTurn(() => {
      throw new Error('at once');
    }),
    inTurn(slow('last')),
  ];
  await expect(broken).rejects.toThrow('broken');
  await expect(thrown).rejects.toThrow('at once');
  expect([await first, await last]).toEqual(['first', 'last']);
  expect(seen).toEqual([
    'first begins',
    'first ends',
    'broken begins',
    'broken ends',
    'last begins',
    'last ends',
  ]);
});
