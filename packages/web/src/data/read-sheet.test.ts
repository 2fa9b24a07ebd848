import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { contentHash } from '@jiko/core/base';
import { boardOf } from './read-sheet.ts';

const wren = readFileSync(new URL('../../../../sheets/wren-5.yaml', import.meta.url), 'utf8');
const sheet = (title: string): { hash: string; text: string } => {
  const text = wren.replace('title: Wren 5', `title: ${title}`);
  return { hash: contentHash(text), text };
};

it('a sheet is read once for all who ask, and each version on its own', () => {
  const first = boardOf(sheet('One'));
  expect(first?.title).toBe('One');
  expect(boardOf(sheet('One'))).toBe(first);
  expect(boardOf(sheet('Two'))?.title).toBe('Two');
});

it('the oldest of more than six is read anew, and what cannot be read is nothing', () => {
  const first = boardOf(sheet('A'));
  for (const title of ['B', 'C', 'D', 'E', 'F']) boardOf(sheet(title));
  expect(boardOf(sheet('A'))).toBe(first);
  boardOf(sheet('G'));
  expect(boardOf(sheet('A'))).not.toBe(first);
  expect(boardOf({ hash: 'broken', text: 'nets: [' })).toBeNull();
});
