import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { entryTroubleText, parseEntry, usualMeter, valueText, type Mode } from './index.ts';

const read = (text: string, mode: Mode) => parseEntry(text, mode, usualMeter);

describe('the entry line', () => {
  it.each([
    ['1.79', 'volts', { kind: 'number', value: 1.79, trend: 'steady' }],
    ['1,79', 'volts', { kind: 'number', value: 1.79, trend: 'steady' }],
    ['1v8', 'volts', { kind: 'number', value: 1.8, trend: 'steady' }],
    ['612', 'diode', { kind: 'number', value: 0.612, trend: 'steady' }],
    ['0.612', 'diode', { kind: 'number', value: 0.612, trend: 'steady' }],
    ['2k2', 'ohms', { kind: 'number', value: 2200, trend: 'steady' }],
    ['33k', 'ohms', { kind: 'number', value: 33000, trend: 'steady' }],
    ['OL', 'ohms', { kind: 'over', limit: 40e6 }],
    ['>1k', 'ohms', { kind: 'over', limit: 1000 }],
    ['> 0.3', 'diode', { kind: 'over', limit: 0.3 }],
    ['<5', 'ohms', { kind: 'beep', limit: 5 }],
    ['ok', 'ohms', { kind: 'over', limit: 30 }],
    ['No short', 'ohms', { kind: 'over', limit: 30 }],
    ['ok', 'diode', { kind: 'over', limit: 0.1 }],
    ['*', 'diode', { kind: 'over', limit: 2 }],
    ['beep', 'ohms', { kind: 'beep', limit: 30 }],
    ['0.2~0.6', 'volts', { kind: 'swinging', low: 0.2, high: 0.6 }],
    ['0,2/0,6', 'volts', { kind: 'swinging', low: 0.2, high: 0.6 }],
    ['1.2^', 'volts', { kind: 'number', value: 1.2, trend: 'rising' }],
    ['1.2_', 'volts', { kind: 'number', value: 1.2, trend: 'falling' }],
    ['1.2~', 'volts', { kind: 'number', value: 1.2, trend: 'unsettled' }],
    ['-0.4', 'volts', { kind: 'number', value: -0.4, trend: 'steady' }],
    ['?', 'volts', { kind: 'unreached' }],
    ['350mA', 'amps', { kind: 'number', value: 0.35, trend: 'steady' }],
  ] as const)('%s in %s', (text, mode, value) => {
    expect(read(text, mode)).toEqual({ ok: true, value });
  });

  it.each([
    ['', 'volts', 'empty'],
    ['-5', 'ohms', 'negative'],
    ['-300', 'diode', 'negative'],
    ['3.3 bananas', 'volts', 'unknown-unit'],
    ['3.3zz', 'volts', 'unknown-unit'],
    ['4k7', 'volts', 'beyond-meter'],
    ['10m', 'ohms', 'milli-or-mega'],
    ['beep', 'volts', 'beep-here'],
    ['ok', 'volts', 'no-figure'],
    ['>3', 'volts', 'bound-here'],
    ['<0.3', 'diode', 'bound-here'],
    ['>x', 'ohms', 'not-a-number'],
    ['0.6~0.2', 'volts', 'swing-order'],
    ['9999', 'volts', 'beyond-meter'],
    ['12.3.4', 'volts', 'not-a-number'],
  ] as const)('refuses "%s" in %s and says why', (text, mode, code) => {
    const parsed = read(text, mode);
    if (parsed.ok) throw new Error('was taken');
    expect(parsed.error.code).toBe(code);
    expect(entryTroubleText(parsed.error)).toMatch(/\w{3}.*[.]$/);
  });

  it('says back every number as it would be typed again', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 59999 }), (millivolts) => {
        const value = millivolts / 1000;
        const parsed = read(String(value), 'volts');
        if (!parsed.ok) throw new Error(entryTroubleText(parsed.error));
        const said = valueText(parsed.value, 'volts');
        const again = read(said.replace(' ', ''), 'volts');
        expect(
          again.ok && again.value.kind === 'number' && Math.abs(again.value.value - value),
        ).toBeLessThan(0.0051);
      }),
    );
  });

  it('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom('volts', 'diode', 'ohms', 'amps'), (text, mode) => {
        const parsed = read(text, mode as Mode);
        if (parsed.ok && parsed.value.kind === 'number')
          expect(Number.isFinite(parsed.value.value)).toBe(true);
      }),
      { numRuns: 500 },
    );
  });
});
