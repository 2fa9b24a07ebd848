import { formatQuantity } from '../units/index.ts';
import { answer, input, type Sum } from './sum.ts';

// Preferred values and what is printed on parts.

/** IEC 60063: the series of 3, 6, 12 and 24 are rounded in a way of their own; 96 by the formula. */
const e24 = [
  10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91,
];
export const e96 = Array.from({ length: 96 }, (_, at) => Math.round(100 * 10 ** (at / 96)));

/** The value of a series nearest to a given one, on a scale of ratios. */
export function preferred(value: number, series: 12 | 24 | 96): number {
  const values =
    series === 96
      ? e96.map((one) => one / 10)
      : e24.filter((_, at) => series === 24 || at % 2 === 0);
  const decade = 10 ** Math.floor(Math.log10(value) - 1);
  const all = [-1, 0, 1].flatMap((step) => values.map((one) => one * decade * 10 ** step));
  const far = (one: number): number => Math.abs(Math.log(one / value));
  const nearest = all.reduce((best, one) => (far(one) < far(best) ? one : best));
  return Number(nearest.toPrecision(4));
}

export const preferredValues: Sum = {
  id: 'preferred',
  title: 'Preferred values',
  asks: 'Which value that is made is nearest to the one worked out?',
  formula: 'nearest on a scale of ratios in E12, E24 and E96',
  source: 'IEC 60063',
  limits: 'What a drawer holds is another matter.',
  inputs: [input('value', 'Wanted', 'ohms', '4k85')],
  work(given) {
    const value = given.number('value');
    if (!(value > 0)) return answer([], ['More than 0 is wanted.']);
    return answer(
      ([12, 24, 96] as const).map((series) => ({
        title: `E${series}`,
        value: preferred(value, series),
        unit: 'ohms' as const,
      })),
      ([12, 24, 96] as const).map((series) => {
        const off = 100 * (preferred(value, series) / value - 1);
        return `E${series}: ${off >= 0 ? '+' : '−'}${Math.abs(off).toFixed(1)} %`;
      }),
    );
  },
};

/** Letters of EIA-96 and the factor each stands for; two letters of some are the same. */
const eia96Factors: Readonly<Record<string, number>> = {
  Z: 0.001,
  Y: 0.01,
  R: 0.01,
  X: 0.1,
  S: 0.1,
  A: 1,
  B: 10,
  H: 10,
  C: 100,
  D: 1000,
  E: 10_000,
  F: 100_000,
};

/** What is printed on a chip resistor, in ohms, by every code it could be. */
export function resistorMarking(marking: string): { ohms: number; code: string }[] {
  const text = marking.trim().toUpperCase();
  const found: { ohms: number; code: string }[] = [];
  const eia = /^(\d\d)([A-FHRSXYZ])$/.exec(text);
  const index = eia ? Number(eia[1]) : 0;
  if (eia && index >= 1 && index <= 96)
    found.push({
      ohms: Number(
        ((e96[index - 1] as number) * (eia96Factors[eia[2] as string] as number)).toPrecision(6),
      ),
      code: 'EIA-96',
    });
  const digits = /^(\d{2,3})(\d)$/.exec(text);
  if (digits)
    found.push({
      ohms: Number(digits[1]) * 10 ** Number(digits[2]),
      code: `IEC 60062, ${text.length} digits`,
    });
  const point = /^(\d*)([RKML])(\d*)$/.exec(text);
  if (point && (point[1] !== '' || point[3] !== '')) {
    const factor = { R: 1, K: 1e3, M: 1e6, L: 1e-3 }[point[2] as 'R' | 'K' | 'M' | 'L'];
    found.push({
      ohms: Number((Number(`${point[1] || 0}.${point[3] || 0}`) * factor).toPrecision(6)),
      code:
        point[2] === 'L'
          ? 'L for the point of milliohms, common practice'
          : 'IEC 60062, a letter for the point',
    });
  }
  if (/^0{1,4}$/.test(text)) return [{ ohms: 0, code: 'a link' }];
  return found;
}

/** Three digits on a capacitor or coil: two figures and the power of ten, in picofarads or microhenries. */
export function threeDigits(marking: string): number | null {
  const text = marking.trim().toUpperCase();
  const found = /^(\d\d)(\d)[A-Z]?$/.exec(text);
  if (found) return Number(found[1]) * 10 ** Number(found[2]);
  const point = /^(\d*)R(\d+)[A-Z]?$/.exec(text);
  return point ? Number(`${point[1] || 0}.${point[2]}`) : null;
}

export const markingSum: Sum = {
  id: 'marking',
  title: 'Markings',
  asks: 'What does the print on a resistor, capacitor or coil say?',
  formula:
    'three or four digits: figures and a power of ten; a letter for the point; EIA-96: number of the E96 value and a letter',
  source: 'IEC 60062 (digits and letters); EIA-96 (from memory)',
  limits: 'Ceramic capacitors mostly carry no print at all.',
  inputs: [input('marking', 'Printed', 'text', '01C')],
  work(given) {
    const marking = given.text('marking');
    const ohms = resistorMarking(marking);
    const other = threeDigits(marking);
    const results = ohms.map(({ ohms: value, code }) => ({
      title: `Resistor (${code})`,
      value,
      unit: 'ohms' as const,
    }));
    return answer(
      [
        ...results,
        ...(other === null
          ? []
          : [
              { title: 'Capacitor', value: other * 1e-12, unit: 'farads' as const },
              { title: 'Coil', value: other * 1e-6, unit: 'henries' as const },
            ]),
      ],
      results.length === 0 && other === null
        ? [`"${marking.trim()}" is none of these codes.`]
        : ohms.length > 1
          ? [`Two codes fit: ${ohms.map((one) => formatQuantity(one.ohms, 'ohms')).join(' or ')}.`]
          : [],
    );
  },
};
