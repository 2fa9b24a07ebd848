import { describe, expect, it } from 'vitest';
import theirs from 'kicad-netlist-to-json';
import { loadSheet } from '../../board/index.ts';
import { foldName } from '../../schematic/index.ts';
import { takeNetlist } from './into-sheet.ts';
import { kicadNetlist, parseKicadNetlist, sheetNames } from './kicad.ts';
import { boardNetlist } from './board-netlist.ts';

// Names that differ by sign, value, polarity, path or case only: each is a net of its own.
const twins = [
  ['+12V', '+1.2V', '-12V', '12V0'],
  ['D+', 'D-', 'D'],
  ['CLK', 'CLK_N', 'CLK_P', 'CLK#'],
  ['/power/EN', '/cpu/EN', 'EN', '/EN'],
  ['USB_DP', 'USB_DN', 'usb_dp'],
  ['3V3_S5', '+3.3V_S5', '3V3S5'],
  ['PLTRST#', 'PLTRST_N', 'PLTRST', '~{PLTRST}'],
  ['AGND', 'GND', 'PGND', 'GNDA'],
];
/** A netlist of 2000 resistors: the twins, and chains of nets on several drawings. */
const big = (): { text: string; names: string[] } => {
  const names = twins.flat();
  for (let at = 0; names.length < 900; at++)
    names.push(`/page_${at % 7}/N${at}`, `N${at}`, `N${at}_N`, `+${at}.5V`, `+${at}5V`);
  const parts = Array.from({ length: 2000 }, (_, at) => `R${at + 1}`);
  const pins = new Map<string, string[]>(names.map((name) => [name, []]));
  parts.forEach((ref, at) => {
    const [a, b] = [names[at % names.length]!, names[(at * 7 + 1) % names.length]!];
    pins.get(a)!.push(`(node (ref "${ref}") (pin "1"))`);
    pins
      .get(a === b ? names[(at + 1) % names.length]! : b)!
      .push(`(node (ref "${ref}") (pin "2"))`);
  });
  const text = `(export (version "E")\n (components\n${parts
    .map((ref) => `  (comp (ref "${ref}") (value "10k"))`)
    .join('\n')})\n (nets\n${names
    .map((name, at) => `  (net (code "${at + 1}") (name "${name}") ${pins.get(name)!.join(' ')})`)
    .join('\n')}))`;
  return { text, names };
};
/** Nets as a reader that is not ours counts them. */
const countByOther = (text: string): number =>
  (theirs(text) as { export: { nets: { net: unknown[] } } }).export.nets.net.length;
const empty = `format: jiko-board/1
id: empty
title: Empty
depth: rails
nets:
  GND: { kind: ground }
parts: {}
chips: {}
stages: {}
points: {}
sources: {}
goals: {}
`;

describe('a netlist of 2000 parts', () => {
  const { text, names } = big();

  it('keeps every net through reading, taking in and writing', () => {
    expect(countByOther(text)).toBe(names.length);
    const read = parseKicadNetlist(text).netlist!;
    expect(read.nets).toHaveLength(names.length);
    const taken = takeNetlist(empty, read);
    if (!taken.ok) throw new Error(taken.error.join('\n'));
    const board = taken.value.board;
    expect(board.nets).toHaveLength(names.length);
    expect(board.parts).toHaveLength(2000);
    // Written again: each net with its pins, as many as came.
    const again = kicadNetlist(boardNetlist(board));
    expect(countByOther(again)).toBe(names.length);
  });
});

describe('names', () => {
  it.each(twins)('%s and its twins stay apart', (...alike) => {
    const { names } = sheetNames(alike);
    expect(new Set(names.map((name) => name.toUpperCase())).size).toBe(alike.length);
  });

  it('a label of the first drawing loses its slash, where nothing else is called so', () => {
    expect(sheetNames(['/VMAIN', '/EN', 'EN', '/a/EN']).names).toEqual([
      'VMAIN',
      '/EN',
      'EN',
      '/a/EN',
    ]);
  });

  it('what a sheet cannot hold is kept apart by a number, and said', () => {
    const long = `/${'x'.repeat(70)}/`;
    const { names, doubts } = sheetNames(['en', 'EN', `${long}A`, `/y${long}A`]);
    expect(names.map((name) => name.length).every((length) => length <= 64)).toBe(true);
    expect(new Set(names.map((name) => name.toUpperCase())).size).toBe(4);
    expect([...doubts.keys()]).toEqual([1, 2, 3]);
  });

  it.each([
    ['+12V', '+1.2V'],
    ['+12V', '-12V'],
    ['D+', 'D-'],
    ['CLK', 'CLK_N'],
    ['1V05', '10V5'],
  ])('%s and %s never fold to one', (a, b) => {
    expect(foldName(a)).not.toBe(foldName(b));
  });

  it.each([
    ['+3.3V', '3V3'],
    ['PLTRST#', 'plt_rst_n'],
    ['+3V3_ALW', '3v3alw'],
    ['1.05V_S5', '1V05_S5'],
  ])('%s and %s do, for finding', (a, b) => {
    expect(foldName(a)).toBe(foldName(b));
  });
});

it('an empty sheet of these tests loads', () => {
  expect(loadSheet(empty).ok).toBe(true);
});
