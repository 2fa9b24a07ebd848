import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import {
  findNet,
  lintBoard,
  loadSheet,
  sheetIssueText,
  sheetJsonSchema,
  type SheetIssue,
} from './index.ts';

const small = `format: jiko-board/1
id: small
title: Small
depth: full
nets:
  GND: { kind: ground }
  VIN: { kind: rail, volts: 12, aliases: [B+] }
  +3V3_ALW: { kind: rail }
  EN: {}
parts:
  R1: { kind: resistor, pins: [VIN, EN], value: 100k }
  R2: { kind: resistor, pins: [EN, GND], value: 4k7 }
  C9: { kind: capacitor, pins: [+3V3_ALW, GND], value: 1u }
chips:
  U1: { kind: ldo, pins: { VIN: VIN, EN: EN, OUT: +3V3_ALW, GND: GND } }
stages:
  in: { title: Input, gives: [VIN] }
  alw: { title: Always on, gives: [+3V3_ALW] }
sources:
  adapter: { kind: adapter, title: Adapter, net: VIN, volts: 12, limit: 3 }
goals:
  boots: { title: boots, reached: [+3V3_ALW > 3] }
`;

const issues = (text: string): SheetIssue[] => {
  const loaded = loadSheet(text);
  return loaded.ok ? [] : loaded.error;
};
const lineOf = (text: string, word: string): number =>
  text.split('\n').findIndex((line) => line.includes(word)) + 1;

describe('loading a sheet', () => {
  it.each([
    ['cairn-14', cairn],
    ['fell-13', fell],
    ['beck-mini', beck],
  ])('%s can be sent to a worker as it is', (_, text) => {
    const loaded = loadSheet(text);
    if (!loaded.ok) throw new Error('does not load');
    // What a function or an object of a class held would be missing there.
    expect(structuredClone(loaded.value)).toStrictEqual(loaded.value);
  });

  it('fills in what a short sheet leaves out', () => {
    const loaded = loadSheet(small);
    if (!loaded.ok) throw new Error(loaded.error.map(sheetIssueText).join('\n'));
    const board = loaded.value;
    // Volts come from the net's name, and say so.
    expect(findNet(board, '+3V3_ALW')).toMatchObject({ volts: 3.3, origin: 'rule-of-thumb' });
    expect(findNet(board, 'b+')?.id).toBe('VIN');
    // In the order of their names, however they are written.
    expect(board.parts.map((part) => part.ref)).toEqual(['C9', 'R1', 'R2']);
    expect(board.parts[2]).toMatchObject({ ref: 'R2', value: 4700 });
    expect(board.chips[0]?.behaviours[0]).toMatchObject({
      do: 'regulator',
      pass: 'linear',
      volts: 3.3,
    });
  });

  it('reads JSON as well, with the same outcome', () => {
    const json = JSON.stringify({
      format: 'jiko-board/1',
      id: 'json',
      title: 'J',
      depth: 'rails',
      nets: { GND: { kind: 'ground' }, A: { kind: 'rail', volts: 5 } },
      stages: { a: { title: 'A', gives: ['A'] } },
      sources: { s: { kind: 'adapter', title: 'S', net: 'A', volts: 5, limit: 1 } },
      goals: {},
    });
    expect(loadSheet(json)).toMatchObject({ ok: true, value: { id: 'json' } });
  });

  it.each([
    ['unknown net', small.replace('pins: [VIN, EN]', 'pins: [VIN, EM]'), 'R1', 'unknown-net'],
    ['unit that is none', small.replace('100k', '100x'), 'R1', 'bad-part-value'],
    ['negative limit', small.replace('limit: 3', 'limit: -3'), 'adapter', 'wrong-value'],
    ['word that is none', small.replace('depth: full', 'depht: full'), 'depth', 'wrong-value'],
    [
      'unknown part in a stage',
      small.replace('gives: [VIN] }', 'gives: [VIN], by: [U9] }'),
      'in: {',
      'unknown-part',
    ],
    ['part without a pin', small.replace('pins: [EN, GND]', 'pins: [EN]'), 'R2', 'pins-missing'],
    ['name used twice', small.replace('EN: {}', 'EN: { aliases: [VIN] }'), 'EN: {', 'name-taken'],
  ])('names the line: %s', (_name, text, word, code) => {
    const found = issues(text);
    expect(found[0]?.code).toBe(code);
    if (word !== 'depth') expect(found[0]?.line).toBe(lineOf(text, word));
    expect(sheetIssueText(found[0] as SheetIssue).length).toBeGreaterThan(15);
  });

  it('says what is wrong with what is no sheet at all', () => {
    expect(issues('{ "a": [1,')[0]).toMatchObject({ code: 'not-yaml' });
    expect(issues('hello')[0]).toMatchObject({ code: 'not-a-sheet' });
    expect(issues('nets: 3')[0]).toMatchObject({ code: 'not-a-sheet' });
  });

  it('names a sheet by its content', () => {
    const a = loadSheet(small);
    const b = loadSheet(small.replace('value: 4k7', 'value: 4k8'));
    expect(a.ok && b.ok && a.value.hash !== b.value.hash).toBe(true);
  });

  it('publishes a JSON Schema that asks for the format', () => {
    const schema = JSON.stringify(sheetJsonSchema());
    expect(schema).toContain('jiko-board/1');
  });
});

describe('lint', () => {
  const lint = (text: string): SheetIssue[] => {
    const loaded = loadSheet(text);
    if (!loaded.ok) throw new Error(loaded.error.map(sheetIssueText).join('\n'));
    return lintBoard(loaded.value, text);
  };

  it.each([
    ['Cairn 14', cairn, 60, 14],
    ['Fell 13', fell, 20, 10],
    ['Beck mini', beck, 14, 9],
  ])('%s is clean', (_name, text, nets, stages) => {
    const loaded = loadSheet(text);
    expect(loaded.ok && loaded.value.nets.length).toBeGreaterThanOrEqual(nets);
    expect(loaded.ok && loaded.value.stages.length).toBeGreaterThanOrEqual(stages);
    expect(lint(text)).toEqual([]);
  });

  it('finds a net with one pin, with its line', () => {
    const text = small
      .replace('  EN: {}', '  EN: {}\n  LOST: {}')
      .replace('parts:', 'parts:\n  C1: { kind: capacitor, pins: [LOST, GND], value: 1u }');
    expect(lint(text)).toMatchObject([
      { code: 'one-pin-net', net: 'LOST', pin: 'C1 1', line: lineOf(text, 'LOST: {}') },
    ]);
  });

  it('finds an enable that nobody drives', () => {
    const text = small.replace('pins: [VIN, EN]', 'pins: [VIN, GND]');
    expect(lint(text)).toMatchObject([
      { code: 'undriven', chip: 'U1', net: 'EN', line: lineOf(text, 'U1') },
    ]);
  });

  it('finds chips that wait for each other in a circle', () => {
    const text = small
      .replace('  EN: {}', '  EN: {}\n  A: { kind: rail, volts: 5 }\n  B: { kind: rail, volts: 5 }')
      .replace(
        'chips:',
        'chips:\n  U2: { kind: buck, pins: { VIN: VIN, EN: B, OUT: A, GND: GND } }\n  U3: { kind: buck, pins: { VIN: VIN, EN: A, OUT: B, GND: GND } }',
      );
    const found = lint(text);
    expect(found).toMatchObject([{ code: 'circular-need' }]);
    expect(sheetIssueText(found[0] as SheetIssue)).toMatch(
      /U2 OUT → U3 OUT → U2 OUT|U3 OUT → U2 OUT → U3 OUT/,
    );
  });
});

describe('pins that are nearly ones the kind knows', () => {
  it.each([
    ['EN: EN', 'ENABLE: EN', 'U1: ENABLE is not a pin of a ldo, and does nothing: EN?'],
    [
      'OUT: +3V3_ALW',
      'OUT: +3V3_ALW, PGOOD: EN',
      'PGOOD is not a pin of a ldo, and does nothing: PG?',
    ],
    ['EN: EN', 'EN: EN, NC7: EN', null],
  ])('%s written as %s', (right, wrong, said) => {
    const text = small.replace(right, wrong);
    const loaded = loadSheet(text);
    if (!loaded.ok) throw new Error('does not load');
    const found = lintBoard(loaded.value, text).filter((one) => one.code === 'misspelt-pin');
    expect(found.map((one) => one.line)).toEqual(said === null ? [] : [lineOf(text, 'U1')]);
    if (said !== null) expect(found.map(sheetIssueText).join()).toContain(said);
  });
  it('no sheet of ours has one', () => {
    for (const text of [cairn, fell, beck]) {
      const loaded = loadSheet(text);
      expect(loaded.ok && lintBoard(loaded.value, text)).toEqual([]);
    }
  });
});

describe('names that look like numbers', () => {
  const called = (name: string) =>
    small.replace('+3V3_ALW: {', '+3.3: {').replaceAll('+3V3_ALW', name);

  it('keep their sign where they are written in quotes, and as a key without', () => {
    const loaded = loadSheet(called('"+3.3"').replace('["+3.3" > 3]', '["+3.3 > 3"]'));
    expect(loaded.ok || loaded.error.map(sheetIssueText)).toBe(true);
    if (loaded.ok) expect(findNet(loaded.value, '+3.3')?.id).toBe('+3.3');
  });

  it('are named with the line, and what to do, where they are not', () => {
    const told = issues(called('+3.3')).map(sheetIssueText);
    expect(told[0]).toBe(
      'Line 13: parts › C9 › pins: must be text: a name that looks like a number, as +5 or +3.3, goes in quotes ("+5")',
    );
    expect(told).toHaveLength(3);
  });
});
