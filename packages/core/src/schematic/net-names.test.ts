import { describe, expect, it } from 'vitest';
import { parse } from 'papaparse';
import namesText from '../board/net-names.csv?raw';
import { readNetName } from '../board/index.ts';
import { netKindByName, netRoleByName } from './guess-kind.ts';

// Names as boards write them with what they mean, written before the reader. Naming habits: common practice,
// no source. `ask`: the name may mean two things, or nothing: no volts are read from it.
const names = parse<{ name: string; kind: string; volts: string; role: string }>(namesText, {
  header: true,
  skipEmptyLines: true,
}).data;

it('is a list of its size', () => {
  expect(names.length).toBeGreaterThanOrEqual(120);
  expect(names.filter((one) => one.volts === 'ask')).toHaveLength(20);
});

describe('names of nets', () => {
  it.each(names.map((one) => [one.name, one] as const))('%s', (name, { kind, volts, role }) => {
    expect({
      kind: netKindByName(name),
      // What a line is called after is the rail it speaks of, not its own volts.
      volts: kind === 'rail' ? readNetName(name).volts : null,
      role: netRoleByName(name),
    }).toEqual({
      kind,
      volts: volts === '' || volts === 'ask' ? null : Number(volts),
      role: role || null,
    });
  });
});
