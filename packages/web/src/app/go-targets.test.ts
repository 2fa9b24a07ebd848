import { expect, it } from 'vitest';
import { groupsFor, type GoTarget } from './go-targets.ts';

const target = (kind: GoTarget['kind'], title: string, ...also: string[]): GoTarget => ({
  kind,
  title,
  beside: '',
  also,
  to: `/${title}`,
});
const all = [
  target('page', 'New job'),
  target('page', 'Report'),
  target('net', 'PLTRST#', 'platform reset'),
  target('net', 'BUF_PLTRST#'),
  target('part', 'R47', 'pull-down of PLTRST#'),
  target('job', 'Cairn 14 of Hollow Hut', 'no picture'),
  target('sum', 'Voltage divider'),
];
const found = (typed: string): string[] =>
  groupsFor(typed, all).flatMap(({ targets }) => targets.map(({ title }) => title));

it('nothing typed offers the pages', () => {
  expect(found('')).toEqual(['New job', 'Report']);
});

it('the whole name comes before its beginning, that before a word in it', () => {
  expect(found('pltrst')).toEqual(['PLTRST#', 'BUF_PLTRST#', 'R47']);
  expect(found('r').slice(0, 2)).toEqual(['R47', 'Report']);
  expect(found('report')[0]).toBe('Report');
});

it('a net is found as a schematic may write it, and by what it is', () => {
  expect(found('pltrst_n')[0]).toBe('PLTRST#');
  expect(found('/PLTRST')[0]).toBe('PLTRST#');
  expect(found('platform')).toEqual(['PLTRST#']);
});

it('every word must be there, in any order; nothing is made up', () => {
  expect(found('hut cairn')).toEqual(['Cairn 14 of Hollow Hut']);
  expect(found('hut fell')).toEqual([]);
  expect(found('div')).toEqual(['Voltage divider']);
});

it('jobs that the server found stand behind what is called so', () => {
  const job = target('job', 'Fell of the saddle');
  const kinds = (typed: string): string[] => groupsFor(typed, all, [job]).map(({ title }) => title);
  expect(kinds('divider')).toEqual(['Sums', 'Jobs']);
  expect(kinds('fell')).toEqual(['Jobs']);
});
