import { splitRemarks } from './split-remarks.ts';
import { fail, ok, type Result } from '../base/index.ts';
import {
  formatQuantity,
  parseQuantity,
  quantityTroubleText,
  type QuantityTrouble,
  type Unit,
} from '../units/index.ts';
import { usualMeter, type Meter } from './meter.ts';
import type { Mode, ReadingValue } from './reading.ts';

export type EntryTrouble =
  | QuantityTrouble
  | { code: 'negative'; mode: Mode }
  | { code: 'swing-order' }
  | { code: 'beep-here'; mode: Mode }
  /** A word where only a figure says anything. */
  | { code: 'no-figure'; text: string; mode: Mode }
  | { code: 'bound-here'; mode: Mode }
  | { code: 'beyond-meter'; value: number; mode: Mode; limit: number };

export const unitOf: Record<Mode, Unit> = {
  volts: 'volts',
  diode: 'volts',
  ohms: 'ohms',
  amps: 'amps',
  celsius: 'celsius',
  seconds: 'seconds',
};

/**
 * Reads what technicians write for the mode in hand: `1.79`, `1,79`, `1v8`, `612` in diode-mode
 * (0.612 V: a whole number there is millivolts), `2k2`, `OL`, `beep`, `0.2~0.6` (swinging), `1.2^`
 * and `1.2_` (rising, falling), `1.2~` (not settled), `?` (could not reach). The keypad's own keys
 * do for the signs: `0.2/0.6` swings, `1.2+` rises, `1.2-` falls, `*` is OL. Cold, `>1k` is a lower
 * and `<5` an upper bound, and `ok` or `no short` says that the buzzer kept silent. Remarks at the end
 * (`warm`, `pushed`, `moves`, `r40m`) are left to split-remarks.ts.
 */
export function parseEntry(
  written: string,
  mode: Mode,
  meter: Meter,
): Result<ReadingValue, EntryTrouble> {
  const { text } = splitRemarks(written);
  if (text === '') return fail({ code: 'empty' });
  if (text === '?') return ok({ kind: 'unreached' });
  if (/^(ol|o\.l|0l|\*)$/i.test(text)) return ok({ kind: 'over', limit: mostOf(meter, mode) });
  if (/^(beep|bip|b)$/i.test(text)) {
    if (mode !== 'ohms' && mode !== 'diode') return fail({ code: 'beep-here', mode });
    return ok({ kind: 'beep', limit: meter.beepOhms });
  }
  const cold = mode === 'ohms' || mode === 'diode';
  if (saysNoShort(text))
    return cold
      ? ok({ kind: 'over', limit: mode === 'ohms' ? meter.beepOhms : leastDropVolts })
      : fail({ code: 'no-figure', text, mode });
  const bound = /^([<>])\s*=?\s*(.+)$/.exec(text);
  if (bound) {
    if (!cold) return fail({ code: 'bound-here', mode });
    const limit = number(bound[2] as string, mode, meter);
    if (!limit.ok) return limit;
    if (bound[1] === '>') return ok({ kind: 'over', limit: limit.value });
    return mode === 'ohms'
      ? ok({ kind: 'beep', limit: limit.value })
      : fail({ code: 'bound-here', mode });
  }
  const swing = /^(.+?)\s*[~/]\s*(.+)$/.exec(text);
  if (swing) {
    const low = number(swing[1] as string, mode, meter);
    if (!low.ok) return low;
    const high = number(swing[2] as string, mode, meter);
    if (!high.ok) return high;
    if (low.value >= high.value) return fail({ code: 'swing-order' });
    return ok({ kind: 'swinging', low: low.value, high: high.value });
  }
  const sign = /^(.*\S)\s*([\^_~+-])$/.exec(text);
  const parsed = number(sign ? (sign[1] as string) : text, mode, meter);
  if (!parsed.ok) return parsed;
  return ok({ kind: 'number', value: parsed.value, trend: trendOf(sign?.[2]) });
}

/** Words for a buzzer that kept silent; between the ends of a part they may mean the contrary. */
export const saysNoShort = (text: string): boolean =>
  /^(ok|no short|not short(ed)?|silent)$/i.test(text.trim());

/** A junction drops more; less is next to a short. */
const leastDropVolts = 0.1;

function trendOf(sign: string | undefined): 'steady' | 'rising' | 'falling' | 'unsettled' {
  switch (sign) {
    case '^':
    case '+':
      return 'rising';
    case '_':
    case '-':
      return 'falling';
    case '~':
      return 'unsettled';
    default:
      return 'steady';
  }
}

function number(text: string, mode: Mode, meter: Meter): Result<number, EntryTrouble> {
  const parsed = parseQuantity(text, unitOf[mode]);
  if (!parsed.ok) return parsed;
  // A meter on its diode range shows 612 or 0.612 for the same drop.
  const value = mode === 'diode' && /^\d+$/.test(text.trim()) ? parsed.value / 1000 : parsed.value;
  if (value < 0 && (mode === 'ohms' || mode === 'diode' || mode === 'seconds')) {
    return fail({ code: 'negative', mode });
  }
  const most = mostOf(meter, mode);
  if (Math.abs(value) > most) return fail({ code: 'beyond-meter', value, mode, limit: most });
  return ok(value);
}

function mostOf(meter: Meter, mode: Mode): number {
  switch (mode) {
    case 'volts':
      return meter.mostVolts;
    case 'diode':
      return meter.mostDiodeVolts;
    case 'ohms':
      return meter.mostOhms;
    case 'amps':
      return 20;
    case 'celsius':
      return 500;
    case 'seconds':
      return 86400;
  }
}

/** OL is above all a meter shows; a bound that was typed lies well within. */
export const isWholeRange = (limit: number, mode: Mode): boolean =>
  mode === 'diode' ? limit >= 1.2 : limit >= 1e6;

export function entryTroubleText(trouble: EntryTrouble): string {
  switch (trouble.code) {
    case 'negative':
      return `${trouble.mode === 'diode' ? 'A diode reading' : trouble.mode === 'ohms' ? 'Ohms' : 'Seconds'} cannot be negative: check what was typed, or whether the board still holds a charge.`;
    case 'swing-order':
      return 'A swinging value goes from its low to its high: write the smaller one first.';
    case 'beep-here':
      return `The buzzer belongs to ohms and diode-mode, not to ${trouble.mode}.`;
    case 'no-figure':
      return `"${trouble.text}" says nothing in ${trouble.mode}: type what the meter shows.`;
    case 'bound-here':
      return `A bound is for ohms${trouble.mode === 'diode' ? ', and in diode-mode for more than' : ' and diode-mode'}: type what the meter shows.`;
    case 'beyond-meter':
      return `${formatQuantity(trouble.value, unitOf[trouble.mode])} is beyond the meter's ${formatQuantity(trouble.limit, unitOf[trouble.mode])}: write OL if that is what it shows.`;
    default:
      return quantityTroubleText(trouble);
  }
}

/** The reading alone, for drawings: `3.29 V`, `0 ↔ 3.3 V`, `OL`. */
export function shortValue(value: ReadingValue, mode: Mode): string {
  const text = (one: number): string => formatQuantity(Number(one.toPrecision(3)), unitOf[mode]);
  switch (value.kind) {
    case 'number':
      return text(value.value);
    case 'swinging':
      return `${Number(value.low.toPrecision(2))} ↔ ${text(value.high)}`;
    case 'over':
      return isWholeRange(value.limit, mode) ? 'OL' : `>${text(value.limit)}`;
    case 'beep':
      return value.limit === usualMeter.beepOhms ? 'beep' : `<${text(value.limit)}`;
    case 'unreached':
      return '?';
  }
}

/** How a value was understood, as said back beside the entry line and in every list. */
export function valueText(value: ReadingValue, mode: Mode): string {
  const unit = unitOf[mode];
  switch (value.kind) {
    case 'number': {
      const trend = {
        steady: '',
        rising: ' rising',
        falling: ' falling',
        unsettled: ' not settled',
      };
      return formatQuantity(value.value, unit) + trend[value.trend];
    }
    case 'swinging':
      return `${formatQuantity(value.low, unit)} ↔ ${formatQuantity(value.high, unit)} swinging`;
    case 'over':
      return isWholeRange(value.limit, mode)
        ? `OL (above ${formatQuantity(value.limit, unit)})`
        : `above ${formatQuantity(value.limit, unit)}`;
    case 'beep':
      return value.limit === usualMeter.beepOhms
        ? `beep (below ${formatQuantity(value.limit, 'ohms')})`
        : `below ${formatQuantity(value.limit, 'ohms')}`;
    case 'unreached':
      return 'not reached';
  }
}
