import { formatQuantity, parseQuantity, quantityTroubleText, type Unit } from '../units/index.ts';
import type { Sum, SumAnswer, SumUnit } from './sum.ts';

/** A sum worked out from what was typed, or what is wrong with it, by input. */
export type Worked =
  | { ok: true; answer: SumAnswer }
  | { ok: false; troubles: Readonly<Record<string, string>> };

const coreUnits: readonly SumUnit[] = [
  'volts',
  'ohms',
  'amps',
  'seconds',
  'watts',
  'celsius',
  'farads',
  'henries',
];
const isCore = (unit: SumUnit): unit is Unit => coreUnits.includes(unit);

/** Least a figure may be, where less means nothing. */
const notNegative: readonly SumUnit[] = [
  'ohms',
  'farads',
  'henries',
  'seconds',
  'percent',
  'millimetres',
  'micrometres',
  'square millimetres',
  'amp-hours',
];

/** Reads what was typed (`4k7`, `0R01`, `470u`, `12m`) and works the sum out. */
export function workSum(sum: Sum, typed: Readonly<Record<string, string>>): Worked {
  const troubles: Record<string, string> = {};
  const numbers = new Map<string, number>();
  for (const { key, unit } of sum.inputs) {
    const text = (typed[key] ?? '').trim();
    if (unit === 'text') {
      if (text === '') troubles[key] = 'Nothing was typed.';
      continue;
    }
    const read = readNumber(text, unit);
    if (typeof read === 'string') troubles[key] = read;
    else if (notNegative.includes(unit) && read < 0) troubles[key] = 'It cannot be less than 0.';
    else numbers.set(key, read);
  }
  if (Object.keys(troubles).length > 0) return { ok: false, troubles };
  const answer = sum.work({
    number: (key) => numbers.get(key) ?? 0,
    text: (key) => (typed[key] ?? '').trim(),
  });
  return { ok: true, answer };
}

function readNumber(text: string, unit: SumUnit): number | string {
  if (isCore(unit)) {
    const parsed = parseQuantity(text, unit);
    return parsed.ok ? parsed.value : quantityTroubleText(parsed.error);
  }
  if (text === '') return 'Nothing was typed.';
  const number = Number(text.replace(',', '.').replace(/\s*(?:%|mm|Ah|AWG)$/i, ''));
  return Number.isFinite(number) ? number : `"${text}" is not a value.`;
}

/** A figure as the bench writes it. */
export function formatSum(value: number | string, unit: SumUnit): string {
  if (typeof value === 'string') return value;
  if (Number.isNaN(value)) return 'no value';
  if (isCore(unit))
    return unit === 'seconds' && value >= 120 ? hours(value) : formatQuantity(value, unit, 4);
  const digits = Number.isFinite(value) ? String(Number(value.toPrecision(3))) : '∞';
  switch (unit) {
    case 'percent':
      return `${digits} %`;
    case 'millimetres':
      return `${digits} mm`;
    case 'square millimetres':
      return `${digits} mm²`;
    case 'micrometres':
      return `${digits} µm`;
    case 'amp-hours':
      return `${digits} Ah`;
    case 'joules':
      return `${digits} J`;
    default:
      return digits;
  }
}

const hours = (seconds: number): string => {
  if (!Number.isFinite(seconds)) return 'never';
  const minutes = Math.round(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
};
