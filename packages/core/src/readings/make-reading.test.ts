import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet } from '../board/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { judge, makeReading, type Mode, type ProbePlace, whyText } from './index.ts';

// The one way from what was typed to a reading: what it refuses, and what is made of bounds.

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the sheet does not load');
const board = loaded.value;
const healthy = studyHealthyBoard(board);
const at = (net: string): ProbePlace => ({ net, part: null, pin: null });
const bench = { source: 'adapter', attached: [], lifted: [] };
const make = (net: string, mode: Mode, text: string, reference: string | null = null) =>
  makeReading(
    board,
    { at: at(net), reference: reference === null ? null : at(reference), mode, text },
    { ...bench, phase: mode === 'ohms' || mode === 'diode' ? 'cold' : 'standby' },
  );
const judged = (net: string, mode: 'ohms' | 'diode', text: string) => {
  const made = make(net, mode, text);
  if (!made.ok) throw new Error(made.error.join());
  return judge(made.value, {
    net: board.nets.find((one) => one.id === net)!,
    expectation: healthy.expect(net as never, mode, 'cold'),
    series: null,
    drive: healthy.drive(net as never),
  });
};

describe('what is typed', () => {
  it('becomes a reading with all that belongs to it', () => {
    const made = make('3V3_ALW', 'volts', '3v29');
    expect(made.ok && made.value).toMatchObject({
      value: { kind: 'number', value: 3.29, trend: 'steady' },
      source: { id: 'adapter', volts: 19.5 },
      polarity: 'red-on-point',
      sheet: board.hash,
    });
    // Cold nothing feeds it, and diode-mode stands the other way round.
    const cold = make('3V3_ALW', 'diode', '360');
    expect(cold.ok && cold.value).toMatchObject({ source: null, polarity: 'black-on-point' });
  });

  it('stands on the net itself where another name of it was typed', () => {
    const made = make('b+', 'ohms', '4k7', 'DCIN');
    expect(made.ok && made.value.at.net).toBe('VMAIN');
    expect(made.ok && made.value.reference?.net).toBe('VIN_JACK');
  });

  it.each([
    ['NOWHERE', 'volts', '3.3', null, 'no net NOWHERE'],
    ['VIN', 'ohms', '1', 'NOWHERE', 'no net NOWHERE'],
    ['3V3_ALW', 'ohms', '-4', null, 'cannot be negative'],
    ['VIN_JACK', 'ohms', 'ok', 'VIN_F', 'between two points'],
    ['VIN_JACK', 'ohms', 'No short', 'VIN_F', 'between two points'],
  ] as const)('%s in %s, %s against %s, is refused: %s', (net, mode, text, reference, words) => {
    const made = make(net, mode, text, reference);
    expect(made.ok ? '' : made.error.join(' ')).toContain(words);
  });
});

describe('bounds', () => {
  // 45 kohm stand on the sheet for VMAIN, 15 to 135 are allowed; below 4.2 ohm it is a short.
  it.each([
    ['VMAIN', 'ohms', '>4', 'undecided', 'leaves a short possible'],
    ['VMAIN', 'ohms', '>5', 'undecided', 'so no short'],
    ['VMAIN', 'ohms', '>44k', 'undecided', 'so no short'],
    ['VMAIN', 'ohms', '>140k', 'high', 'a part is gone'],
    ['VMAIN', 'ohms', 'ok', 'undecided', 'so no short'],
    ['VMAIN', 'ohms', '<4', 'shorted', 'Below 4 Ω'],
    ['VMAIN', 'ohms', '<50', 'odd', 'possible short'],
    ['VMAIN', 'ohms', '<20k', 'undecided', 'how much was not read'],
    ['VMAIN', 'diode', '>0.01', 'undecided', 'leaves a short possible'],
    ['VMAIN', 'diode', '>0.03', 'undecided', 'so no short'],
    ['VMAIN', 'diode', '>0.6', 'high', 'a part is gone'],
    // Nothing drives a button line: nobody can say below what it is short.
    ['PWRBTN_SW', 'ohms', '>1k', 'undecided', 'leaves a short possible'],
  ] as const)('%s in %s, %s: %s, %s', (net, mode, text, kind, words) => {
    const verdict = judged(net, mode, text);
    expect(verdict.kind).toBe(kind);
    expect(whyText(verdict)).toContain(words);
  });
});
