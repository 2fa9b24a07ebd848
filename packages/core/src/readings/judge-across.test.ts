import { describe, expect, it } from 'vitest';
import { plainReading } from '@jiko/testing';
import {
  judgeAcross,
  judgeThrough,
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

describe('what each reading across a part is held to mean, at both sides of its edge', () => {
  const diode: AcrossPart = { part: 'D1', kind: 'diode', healthy: 0.5 };
  const blocks: AcrossPart = { ...diode, healthy: Infinity };
  const nothing = { healthy: null } as const;
  const big: AcrossPart = { part: 'R1', kind: 'coil', healthy: 8 };
  const on: AcrossPart = { ...fet, healthy: 0.01 };
  const warm: AcrossPart = { ...fuse, healthy: 0.1 };
  it.each([
    // A bound decides nothing, a buzzer up to its hundred ohms does.
    ['<100', 'ohms', fuse, 'good', 'part-conducts'],
    ['<101', 'ohms', fuse, 'undecided', 'bound-through'],
    ['>1k', 'ohms', fuse, 'undecided', 'bound-through'],
    // A quarter more and two ohms of leads; past ten times and a hundred it is open.
    ['12', 'ohms', big, 'good', 'part-whole'],
    ['12.1', 'ohms', big, 'high', 'part-high'],
    ['180', 'ohms', big, 'high', 'part-high'],
    ['181', 'ohms', big, 'open', 'part-open'],
    ['2', 'ohms', { ...fuse, ...nothing }, 'good', 'part-whole'],
    ['2.1', 'ohms', { ...fuse, ...nothing }, 'high', 'part-high'],
    ['500', 'ohms', diode, 'unjudged', 'across-not-judged'],
    ['500', 'ohms', { ...diode, kind: 'tvs' }, 'unjudged', 'across-not-judged'],
    ['500', 'ohms', { ...diode, kind: 'zener' }, 'unjudged', 'across-not-judged'],
    ['500', 'ohms', { ...diode, kind: 'led' }, 'unjudged', 'across-not-judged'],
    ['4.9', 'ohms', { ...fet, healthy: 180e3 }, 'shorted', 'channel-short'],
    ['5', 'ohms', { ...fet, healthy: 180e3 }, 'low', 'channel-leaks'],
    ['59.9k', 'ohms', { ...fet, healthy: 180e3 }, 'low', 'channel-leaks'],
    ['60k', 'ohms', { ...fet, healthy: 180e3 }, 'good', 'channel-blocks'],
    ['60k', 'ohms', { ...fet, ...nothing }, 'unjudged', 'nothing-known'],
    // A junction: 0.05 V is gone, an eighth of a volt off is another.
    ['0.049', 'diode', diode, 'shorted', 'junction-gone'],
    ['0.05', 'diode', diode, 'low', 'junction-leaks'],
    ['0.379', 'diode', diode, 'low', 'junction-leaks'],
    ['0.381', 'diode', diode, 'good', 'junction'],
    ['0.619', 'diode', diode, 'good', 'junction'],
    ['0.621', 'diode', diode, 'high', 'junction-high'],
    ['OL', 'diode', diode, 'open', 'junction-open'],
    ['OL', 'diode', blocks, 'good', 'blocks-this-way'],
    ['0.5', 'diode', blocks, 'low', 'junction-leaks'],
    ['0.5', 'diode', { ...diode, ...nothing }, 'unjudged', 'across-not-judged'],
    ['0.049', 'diode', fet, 'shorted', 'junction-gone'],
    ['0.05', 'diode', fet, 'low', 'junction-leaks'],
    ['0.399', 'diode', fet, 'low', 'junction-leaks'],
    ['0.41', 'diode', fet, 'good', 'body-diode'],
    ['0.63', 'diode', fet, 'good', 'body-diode'],
    ['0.641', 'diode', fet, 'high', 'junction-high'],
    ['OL', 'diode', fet, 'odd', 'no-body-diode'],
    ['OL', 'diode', { ...fet, healthy: Infinity }, 'good', 'blocks-this-way'],
    // Nothing known of it: silicon, 0.3 to 0.75 V.
    ['0.299', 'diode', { ...fet, ...nothing }, 'low', 'junction-leaks'],
    ['0.3', 'diode', { ...fet, ...nothing }, 'good', 'body-diode'],
    ['0.75', 'diode', { ...fet, ...nothing }, 'good', 'body-diode'],
    ['0.751', 'diode', { ...fet, healthy: Infinity }, 'high', 'junction-high'],
    // Powered: three times the usual drop and 20 mV, 60 mV at least.
    ['0.06', 'volts', on, 'undecided', 'part-drop'],
    ['0.061', 'volts', on, 'open', 'part-drops-too-much'],
    ['0.319', 'volts', warm, 'undecided', 'part-drop'],
    ['0.321', 'volts', warm, 'open', 'part-drops-too-much'],
    ['-0.6', 'volts', on, 'low', 'part-diode-drop'],
    ['0.25', 'volts', on, 'low', 'part-diode-drop'],
    ['0.249', 'volts', on, 'open', 'part-drops-too-much'],
    ['1.1', 'volts', on, 'low', 'part-diode-drop'],
    ['1.11', 'volts', on, 'open', 'part-drops-too-much'],
    ['0.6', 'volts', warm, 'open', 'part-drops-too-much'],
    ['0.6', 'volts', { ...fuse, ...nothing }, 'unjudged', 'across-not-judged'],
    ['0.6', 'diode', fuse, 'unjudged', 'across-not-judged'],
  ] as const)('%s %s across %o: %s, %s', (written, mode, part, kind, is) => {
    const { value, ok } = parseEntry(written, mode, usualMeter) as { ok: true; value: never };
    expect(ok).toBe(true);
    expect(judgeAcross({ value, mode } as never, part)).toMatchObject({ kind, because: { is } });
  });

  it.each([
    ['9.9', 'shorted', 'switch-shorted'],
    ['beep', 'shorted', 'switch-shorted'],
    ['10', 'low', 'switch-little'],
    ['99', 'low', 'switch-little'],
    ['100', 'good', 'switch-blocks'],
    ['OL', 'good', 'switch-blocks'],
    ['>1k', 'undecided', 'bound-through'],
    ['?', 'unjudged', 'not-judged'],
  ] as const)(
    '%s ohms from a switching stage’s feed to its output: %s, %s',
    (written, kind, is) => {
      const entry = parseEntry(written, 'ohms', usualMeter);
      if (!entry.ok) throw new Error(`${written} is no entry`);
      const stage = { chip: 'PU9', rail: 'VCORE', feedVolts: 19 };
      expect(judgeThrough({ value: entry.value, mode: 'ohms' } as Reading, stage)).toMatchObject({
        kind,
        because: { is },
      });
      const volts = judgeThrough({ value: entry.value, mode: 'diode' } as Reading, stage);
      expect(volts).toMatchObject({ kind: 'unjudged', because: { is: 'take-ohms', chip: 'PU9' } });
    },
  );
});
