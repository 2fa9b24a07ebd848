import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  formatChance,
  formatQuantity,
  parseQuantity,
  quantityTroubleText,
  type Unit,
} from './index.ts';

const value = (text: string, unit: Unit): number => {
  const parsed = parseQuantity(text, unit);
  if (!parsed.ok) throw new Error(quantityTroubleText(parsed.error));
  return parsed.value;
};

describe('quantities as a meter would show them', () => {
  it.each([
    [Infinity, 'ohms', '∞ Ω'],
    [-Infinity, 'volts', '-∞ V'],
    [2.2e-12, 'farads', '2.2 pF'],
    [4.7e-6, 'henries', '4.7 µH'],
    [2.2e-9, 'farads', '2.2 nF'],
    [0.005, 'ohms', '5 mΩ'],
    [33e3, 'ohms', '33 kΩ'],
    [1.5e6, 'ohms', '1.5 MΩ'],
    [2e9, 'ohms', '2 GΩ'],
    [0.99999, 'ohms', '1 Ω'],
    [1.25, 'watts', '1.25 W'],
    [61.5, 'celsius', '61.5 °C'],
    [0.012, 'seconds', '12 ms'],
    [3.29, 'volts', '3.29 V'],
    [19.474, 'volts', '19.47 V'],
    [100.04, 'volts', '100 V'],
    [0.0004, 'volts', '0.4 mV'],
    [4e-5, 'volts', '0 V'],
    [9e-8, 'amps', '0 A'],
    [-0.0001, 'volts', '-0.1 mV'],
  ] as const)('%f %s is %s', (value, unit, text) => {
    expect(formatQuantity(value, unit)).toBe(text);
  });
  it('troubles are said whole', () => {
    const said = (text: string, unit: Unit): string => {
      const parsed = parseQuantity(text, unit);
      return parsed.ok ? 'taken' : quantityTroubleText(parsed.error);
    };
    expect(said('', 'volts')).toBe('Nothing was typed.');
    expect(said('abc', 'volts')).toMatch(/^"abc" is not a /);
    expect(said('5 A', 'volts')).toBe('"A" is not a unit of volts (in "5 A").');
    expect(said('10m', 'ohms')).toBe(
      '"10m" could be 10 mΩ or 10 MΩ: write "10m" with its unit or "10M".',
    );
    expect(said('k', 'ohms')).not.toBe('taken');
  });
});

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
    ['62 °C', 'celsius', 62],
    ['62°', 'celsius', 62],
    ['62 deg', 'celsius', 62],
    ['3 s', 'seconds', 3],
    ['3 sec', 'seconds', 3],
    ['1 second', 'seconds', 1],
    ['3 seconds', 'seconds', 3],
    ['4u7H', 'henries', 4.7e-6],
    ['1e3', 'ohms', 1000],
    ['1e+3', 'ohms', 1000],
    ['2.5E-2', 'volts', 0.025],
    ['1.5W', 'watts', 1.5],
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

describe('a chance in words', () => {
  it.each([
    [1, '> 99 %'],
    [0.995, '> 99 %'],
    [0.9949, '99 %'],
    [0.5, '50 %'],
    [0.005, '1 %'],
    [0.0049, '< 1 %'],
    [0, '0 %'],
  ])('%f is %s', (share, text) => {
    expect(formatChance(share)).toBe(text);
  });
});
