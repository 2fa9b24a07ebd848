import { fail, ok, type Result } from '../base/index.ts';

/** What a number measures. The core keeps volts, ohms, amps, seconds, watts, celsius, farads. */
export type Unit =
  | 'volts'
  | 'ohms'
  | 'amps'
  | 'seconds'
  | 'watts'
  | 'celsius'
  | 'farads'
  | 'henries';

export type QuantityTrouble =
  | { code: 'empty' }
  | { code: 'not-a-number'; text: string }
  | { code: 'unknown-unit'; text: string; unit: string; wanted: Unit }
  | { code: 'milli-or-mega'; text: string; milli: number; mega: number; unit: Unit };

const prefixes: Record<string, number> = {
  p: 1e-12,
  n: 1e-9,
  u: 1e-6,
  µ: 1e-6,
  μ: 1e-6,
  m: 1e-3,
  '': 1,
  k: 1e3,
  K: 1e3,
  M: 1e6,
  G: 1e9,
};

/** Letters that may stand for a unit, after the prefix, in any case unless it would be ambiguous. */
const unitWords: Record<Unit, readonly string[]> = {
  volts: ['v', 'volt', 'volts'],
  ohms: ['r', 'ohm', 'ohms', 'ω', 'Ω', 'Ω'],
  amps: ['a', 'amp', 'amps'],
  seconds: ['s', 'sec', 'second', 'seconds'],
  watts: ['w', 'watt', 'watts'],
  celsius: ['c', '°c', '°', 'deg'],
  farads: ['f'],
  henries: ['h'],
};

/** A letter standing in the place of the decimal point tells the unit or the prefix: 4k7, 1v8, 0R05. */
const inPlaceOfPoint = /^([+-]?)(\d*)(°c|[a-zA-ZµμΩΩ])(\d+)([a-zA-Z°ΩΩω]*)$/u;
const plain = /^([+-]?(?:\d+[.,]?\d*|[.,]\d+)(?:[eE][+-]?\d+)?)\s*([a-zA-ZµμΩΩω°]*)$/u;
/** As spreadsheets write large and small numbers. */
const exponent = /\d[eE][+-]?\d/;

/**
 * Reads a written quantity in the wanted unit: `1.79`, `1,79`, `1v8`, `2k2`, `250mV`, `0R05`, `47u`.
 * The decimal comma is read as a point; a comma is never a thousands mark. Prefixes keep their case
 * where it matters: for ohms a bare `m` could be milli or mega, so the answer asks (`milli-or-mega`).
 * Errors are data; quantityTroubleText words them.
 */
export function parseQuantity(written: string, wanted: Unit): Result<number, QuantityTrouble> {
  const text = written.trim();
  if (text === '') return fail({ code: 'empty' });

  const split = exponent.test(text) ? null : inPlaceOfPoint.exec(text);
  if (split) {
    const [, sign = '', whole = '', letter = '', fraction = '', tail = ''] = split;
    const number = Number(`${sign}${whole}.${fraction}`);
    if (isUnitWord(letter, wanted) && tail === '') return ok(number);
    // R47 is 0.47 ohm; k7 is nothing anyone writes.
    if (whole === '') return fail({ code: 'not-a-number', text });
    return scaled(text, number, letter + tail, wanted);
  }
  const match = plain.exec(text);
  if (!match) return fail({ code: 'not-a-number', text });
  const [, digits = '', suffix = ''] = match;
  return scaled(text, Number(digits.replace(',', '.')), suffix, wanted);
}

function scaled(
  text: string,
  number: number,
  suffix: string,
  wanted: Unit,
): Result<number, QuantityTrouble> {
  if (suffix === '' || isUnitWord(suffix, wanted)) return ok(number);
  const prefix = suffix.slice(0, 1);
  const unit = suffix.slice(1);
  const factor = prefixes[prefix];
  if (factor === undefined || (unit !== '' && !isUnitWord(unit, wanted))) {
    return fail({ code: 'unknown-unit', text, unit: suffix, wanted });
  }
  const asks =
    (wanted === 'ohms' && prefix === 'm' && unit === '') || (wanted !== 'ohms' && prefix === 'M');
  if (asks) {
    return fail({
      code: 'milli-or-mega',
      text,
      milli: times(number, 1e-3),
      mega: times(number, 1e6),
      unit: wanted,
    });
  }
  return ok(times(number, factor));
}

/** 4.7 x 1e-3 without the last-bit noise that would show in an echo. */
function times(number: number, factor: number): number {
  return factor < 1 ? number / Math.round(1 / factor) : number * factor;
}

function isUnitWord(word: string, wanted: Unit): boolean {
  return unitWords[wanted].includes(word.toLowerCase()) || unitWords[wanted].includes(word);
}

/** The trouble in a technician's words. */
export function quantityTroubleText(trouble: QuantityTrouble): string {
  switch (trouble.code) {
    case 'empty':
      return 'Nothing was typed.';
    case 'not-a-number':
      return `"${trouble.text}" is not a value.`;
    case 'unknown-unit':
      return `"${trouble.unit}" is not a unit of ${trouble.wanted} (in "${trouble.text}").`;
    case 'milli-or-mega':
      return `"${trouble.text}" could be ${formatQuantity(trouble.milli, trouble.unit)} or ${formatQuantity(trouble.mega, trouble.unit)}: write ${milliWay(trouble.text)} or ${megaWay(trouble.text, trouble.unit)}.`;
  }
}

const bare = (text: string): string => text.replace(/[a-zA-ZΩΩω°]+$/u, '').trim();
const milliWay = (text: string): string => `"${bare(text)}m" with its unit`;
const megaWay = (text: string, unit: Unit): string =>
  unit === 'ohms' ? `"${bare(text)}M"` : `the number in full`;

const symbols: Record<Unit, string> = {
  volts: 'V',
  ohms: 'Ω',
  amps: 'A',
  seconds: 's',
  watts: 'W',
  celsius: '°C',
  farads: 'F',
  henries: 'H',
};

/** A chance (0 to 1) in per cent. Nothing is ever said to be certain, and nothing that stands to be out of it. */
export function formatChance(share: number): string {
  if (share >= 0.995) return '> 99 %';
  if (share > 0 && share < 0.005) return '< 1 %';
  return `${Math.round(share * 100)} %`;
}

/**
 * Writes a quantity the way a bench meter would: 1.79 V, 33 kΩ, 250 mA, 12 ms. Volts stay in volts
 * down to 1 mV, since that is how they are spoken of. Rounds to `digits` significant digits.
 */
export function formatQuantity(value: number, unit: Unit, digits = 4): string {
  const symbol = symbols[unit];
  if (!Number.isFinite(value)) return `${value > 0 ? '∞' : '-∞'} ${symbol}`;
  const size = Math.abs(value);
  // Less than any meter resolves: what a solver leaves where nothing is.
  if (size < 1e-13 || (size < 5e-5 && unit === 'volts') || (size < 1e-7 && unit === 'amps'))
    return `0 ${symbol}`;
  if (unit === 'celsius') return `${rounded(value, digits)} ${symbol}`;
  if (unit === 'volts' && size >= 0.0005) return `${volts(value)} ${symbol}`;
  // The finest digit of a hand meter is a tenth of a millivolt.
  if (unit === 'volts') return `${Number((value * 1000).toFixed(1))} m${symbol}`;
  for (const [limit, factor, prefix] of scale) {
    // What rounds up to the next prefix belongs to it: 1 ohm, not 1000 milliohms.
    if (Number(size.toPrecision(digits)) >= limit)
      return `${rounded(value / factor, digits)} ${prefix}${symbol}`;
  }
  return `${rounded(value / 1e-12, digits)} p${symbol}`;
}

const scale: readonly (readonly [number, number, string])[] = [
  [1e9, 1e9, 'G'],
  [1e6, 1e6, 'M'],
  [1e3, 1e3, 'k'],
  [1, 1, ''],
  [1e-3, 1e-3, 'm'],
  [1e-6, 1e-6, 'µ'],
  [1e-9, 1e-9, 'n'],
];

/** Down to a millivolt below 10 V, as a meter's ranges do; no zeros at the end. */
function volts(value: number): string {
  const size = Math.abs(value);
  return String(Number(value.toFixed(size >= 99.95 ? 1 : size >= 9.9995 ? 2 : 3)));
}

function rounded(value: number, digits: number): string {
  return String(Number(value.toPrecision(digits)));
}

export const formatVolts = (value: number): string => formatQuantity(value, 'volts');
export const formatOhms = (value: number): string => formatQuantity(value, 'ohms', 3);
export const formatAmps = (value: number): string => formatQuantity(value, 'amps', 3);
export const formatWatts = (value: number): string => formatQuantity(value, 'watts', 2);
