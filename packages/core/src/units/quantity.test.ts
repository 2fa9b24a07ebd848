import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatQuantity, parseQuantity, quantityTroubleText, type Unit } from './index.ts';

const value = (text: string, unit: Unit): number => {
  const parsed = parseQuantity(text, unit);
  if (!parsed.ok) throw new Error(quantityTroubleText(parsed.error));
  return parsed.value;
};

describe('written quantities', () => {
  // IEC 60062 marks values with the multiplier in place of the decimal point (from memory).
  it.each([
    ['R47', 'ohms', 0.47],
    ['0R47', 'ohms', 0.47],
    ['4k7', 'ohms', 4700],
    ['4K7', 'ohms', 4700],
    ['1M0', 'ohms', 1e6],
    ['10M', 'ohms', 1e7],
    ['33k', 'ohms', 33000],
    ['5mΩ', 'ohms', 0.005],
    ['1v8', 'volts', 1.8],
    ['1,79', 'volts', 1.79],
    ['.35', 'volts', 0.35],
    ['250mV', 'volts', 0.25],
    ['250m', 'volts', 0.25],
    ['-0.3', 'volts', -0.3],
    ['35mA', 'amps', 0.035],
    ['2n2', 'farads', 2.2e-9],
    ['47u', 'farads', 47e-6],
    ['1.2m', 'seconds', 0.0012],
    ['62C', 'celsius', 62],
  ] as const)('%s in %s', (text, unit, expected) => {
    const parsed = parseQuantity(text, unit);
    expect(parsed.ok && parsed.value).toBeCloseTo(expected, 12);
  });

  it('asks where milli and mega could both be meant', () => {
    expect(parseQuantity('10m', 'ohms')).toMatchObject({
      ok: false,
      error: { code: 'milli-or-mega', milli: 0.01, mega: 1e7 },
    });
    expect(parseQuantity('250M', 'volts')).toMatchObject({ error: { code: 'milli-or-mega' } });
  });

  it('never reads part of a text and drops the rest', () => {
    for (const text of ['1.2.3', '4k7k', '10f', '3..3', '12 34', '1v8v', 'k7', '1e', '--3']) {
      expect(parseQuantity(text, 'ohms').ok, text).toBe(false);
    }
    expect(parseQuantity('3.3furlong', 'volts')).toMatchObject({
      error: { code: 'unknown-unit', unit: 'furlong' },
    });
  });

  it('reads back what it writes, for every unit and size', () => {
    const units: Unit[] = ['volts', 'ohms', 'amps', 'seconds', 'watts', 'farads'];
    fc.assert(
      fc.property(
        fc.constantFrom(...units),
        fc.integer({ min: 1, max: 9999 }),
        fc.integer({ min: -6, max: 4 }),
        (unit, mantissa, exponent) => {
          const number = mantissa * 10 ** exponent;
          const written = formatQuantity(number, unit, 4);
          // Megavolts and the like are asked about, never assumed.
          if (written.includes(' M') && unit !== 'ohms') return;
          const back = value(written.replace(' ', ''), unit);
          const wobble = unit === 'volts' ? 0.006 : 0;
          expect(Math.abs(back - number)).toBeLessThanOrEqual(number * 1e-3 + wobble);
        },
      ),
    );
  });

  it('takes comma and point alike', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 999 }), fc.integer({ min: 0, max: 999 }), (a, b) => {
        expect(parseQuantity(`${a},${b}`, 'volts')).toEqual(parseQuantity(`${a}.${b}`, 'volts'));
      }),
    );
  });
});
