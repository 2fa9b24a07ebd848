import { expect, it } from 'vitest';
import { makeAside, TookTooMuch } from './aside.ts';

const aside = makeAside(new URL('./trouble-worker.ts', import.meta.url), 64);
const limits = { seconds: 60 };

it('what goes wrong on a thread fails its own task only, and says what it was', async () => {
  expect(await aside('well', 'a', limits)).toBe('A');
  await expect(aside('throws', null, limits)).rejects.toThrow('out of range');
  expect(await aside('well', 'b', limits)).toBe('B');
  await expect(aside('ends', null, limits)).rejects.toThrow();
  expect(await aside('well', 'c', limits)).toBe('C');
  await expect(aside('eats', null, limits)).rejects.toThrow(TookTooMuch);
  expect(await aside('well', 'd', limits)).toBe('D');
  await expect(aside('hangs', null, { seconds: 1 })).rejects.toThrow('takes longer than 1 s');
  expect(await aside('well', 'e', limits)).toBe('E');
}, 60_000);

it('one that waits behind another has its whole time', async () => {
  const slow = aside('hangs', null, { seconds: 2 });
  const behind = aside('well', 'f', { seconds: 30 });
  await expect(slow).rejects.toThrow(TookTooMuch);
  expect(await behind).toBe('F');
}, 60_000);
