import { describe, expect, it } from 'vitest';
import { plainReading } from '../practice/index.ts';
import {
  judgeAcross,
  parseEntry,
  usualMeter,
  type AcrossPart,
  type Mode,
  type Reading,
} from './index.ts';

/** The verdict on what was typed, across a part. Limits are common practice, no source. */
function kindOf(written: string, mode: Mode, across: AcrossPart): string {
  const value = parseEntry(written, mode, usualMeter);
  if (!value.ok) throw new Error(`${written} is no entry`);
  return judgeAcross({ value: value.value, mode } as Reading, across).kind;
}
const fuse: AcrossPart = { part: 'F1', kind: 'fuse', healthy: 0 };
const sense: AcrossPart = { part: 'PR1', kind: 'resistor', healthy: 0.01 };
const fet: AcrossPart = { part: 'PQ1', kind: 'pfet', healthy: 0.52 };

describe('a reading across a part', () => {
  it.each([
    ['0.3', fuse, 'good'],
    ['beep', fuse, 'good'],
    ['OL', fuse, 'open'],
    ['4k7', fuse, 'open'],
    ['12', sense, 'high'],
    ['0.2', sense, 'good'],
    // Bounds decide nothing here: above a kilohm is open, above an ohm may be whole.
    ['>1k', fuse, 'undecided'],
    ['<50k', fuse, 'undecided'],
  ] as const)('%s ohms through what carries the current', (written, part, verdict) => {
    expect(kindOf(written, 'ohms', part)).toBe(verdict);
  });

  it.each([
    ['0.51', 'good'],
    ['beep', 'shorted'],
    ['0.02', 'shorted'],
    ['0.2', 'low'],
    ['0.9', 'high'],
    ['OL', 'odd'],
  ] as const)('%s in diode-mode across a FET, along its body diode', (written, verdict) => {
    expect(kindOf(written, 'diode', fet)).toBe(verdict);
  });

  it('a FET that blocks where the play blocks is good, and one that beeps in ohms is shorted', () => {
    expect(kindOf('OL', 'diode', { ...fet, healthy: Infinity })).toBe('good');
    expect(kindOf('beep', 'ohms', { ...fet, healthy: 180e3 })).toBe('shorted');
    expect(kindOf('150k', 'ohms', { ...fet, healthy: 180e3 })).toBe('good');
    expect(kindOf('900', 'ohms', { ...fet, healthy: 180e3 })).toBe('low');
  });

  it("no drop is never called good: nothing may come in at all; a diode's drop is an off FET", () => {
    const on: AcrossPart = { ...fet, healthy: 0.01 };
    expect(kindOf('0.004', 'volts', on)).toBe('undecided');
    expect(kindOf('0.6', 'volts', on)).toBe('low');
    expect(kindOf('12', 'volts', on)).toBe('open');
  });
});

describe('a part that is one junction', () => {
  const of = (volts: number | 'OL', healthy: number | null) => {
    const value =
      volts === 'OL'
        ? ({ kind: 'over', limit: 2 } as const)
        : ({ kind: 'number', value: volts, trend: 'steady' } as const);
    return judgeAcross(
      { ...plainReading('A', 'diode', 'cold', value, { against: 'K' }) },
      { part: 'D1', kind: 'schottky', healthy },
    ).kind;
  };
  it.each([
    [0.25, 0.25, 'good'],
    [0.36, 0.25, 'good'],
    [0.38, 0.25, 'high'],
    [0.12, 0.25, 'low'],
    [0.04, 0.25, 'shorted'],
    ['OL', 0.25, 'open'],
    ['OL', Infinity, 'good'],
    // Blocks on a good board, conducts here.
    [0.5, Infinity, 'low'],
    [0.25, null, 'unjudged'],
  ] as const)('%s V where a good one reads %s: %s', (volts, healthy, kind) => {
    expect(of(volts, healthy)).toBe(kind);
  });
});
