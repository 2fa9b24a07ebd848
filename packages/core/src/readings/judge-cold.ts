import { memoryName, type Net } from '../board/index.ts';
import { isWholeRange } from './entry-line.ts';
import type { Expectation } from './expectation.ts';
import type { Reading } from './reading.ts';
import { verdict, type Held, type Verdict } from './verdict.ts';

/** What the maker of a rail can do at most: a short is judged against it. */
export interface Drive {
  volts: number;
  amps: number;
}

/** Less in diode-mode is next to no drop. */
const leastJunctionVolts = 0.02;
/** A rail that is no core and reads less is shorted, whoever feeds it (common practice, no source). */
const leastRailOhms = 1;
/** No buzzer sounds above this: an upper bound somebody wrote. */
const mostBuzzOhms = 100;

/** Ohms and diode-mode on the unpowered board. */
export function judgeCold(
  reading: Reading,
  context: { net: Net; expectation: Expectation; drive: Drive | null },
): Verdict {
  const held = context.expectation.kind === 'value' ? context.expectation : null;
  return reading.mode === 'diode'
    ? judgeDiode(reading, context.net, held)
    : judgeOhms(reading, context.net, held, context.drive);
}

function judgeDiode({ value }: Reading, net: Net, held: Held | null): Verdict {
  if (value.kind === 'over' && !isWholeRange(value.limit, 'diode'))
    return judgeBound(value.limit, held, 'diode', leastJunctionVolts);
  if (value.kind === 'over')
    return held
      ? verdict('open', { is: 'no-junction', held })
      : verdict('unjudged', { is: 'over-unknown' });
  if (value.kind === 'beep' || (value.kind === 'number' && value.value < leastJunctionVolts))
    return lowByNature(net)
      ? verdict('unjudged', { is: 'core-diode' })
      : verdict('shorted', { is: 'no-drop' });
  return value.kind === 'number' && held
    ? inRange(value.value, held)
    : verdict('unjudged', { is: 'nothing-known', shortOhms: null });
}

function judgeOhms({ value }: Reading, net: Net, held: Held | null, drive: Drive | null): Verdict {
  const least = drive && drive.amps > 0 ? drive.volts / drive.amps : null;
  if (value.kind === 'over' && !isWholeRange(value.limit, 'ohms'))
    return judgeBound(value.limit, held, 'ohms', least);
  if (value.kind === 'over')
    return held
      ? verdict('open', { is: 'open-to-ground', held })
      : verdict('unjudged', { is: 'over-unknown' });
  const isBound = value.kind === 'beep';
  const ohms = value.kind === 'beep' ? value.limit : value.kind === 'number' ? value.value : NaN;
  if (drive && least !== null && ohms < least)
    return verdict('shorted', { is: 'cannot-hold', ohms, isBound, ...drive, least });
  if (isBound) {
    const isCoreBuzz = lowByNature(net) && ohms <= mostBuzzOhms;
    if (held && ohms >= held.low && !isCoreBuzz)
      return verdict('undecided', { is: 'below', ohms, held });
    if (ohms > mostBuzzOhms) return verdict('unjudged', { is: 'below', ohms, held: null });
    return isCoreBuzz
      ? verdict('unjudged', { is: 'core-buzz', ohms })
      : verdict('odd', { is: 'buzz', ohms });
  }
  if (!held && ohms < leastRailOhms && isRailOfKnownVolts(net))
    return verdict('shorted', { is: 'near-nothing', ohms });
  // A core is low by nature, but no tenth of what it is known to read.
  if (held && net.kind === 'rail' && ohms < leastRailOhms && ohms < held.value / 10)
    return verdict('shorted', { is: 'far-below', ohms, held });
  return held
    ? inRange(ohms, held)
    : verdict('unjudged', { is: 'nothing-known', shortOhms: least });
}

function inRange(value: number, held: Held): Verdict {
  if (value < held.low) return verdict('low', { is: 'leaks', held });
  if (value > held.high) return verdict('high', { is: 'path-broken', held });
  return verdict('good', { is: 'as-expected', held });
}

/**
 * More than so much, and how much was not read: never good, for less than what is expected would read
 * the same. `least` is what a short is below; null where nobody knows.
 */
function judgeBound(
  limit: number,
  held: Held | null,
  mode: 'ohms' | 'diode',
  least: number | null,
): Verdict {
  if (least === null || limit < least)
    return verdict('undecided', { is: 'bound-may-be-short', limit, mode });
  return held && limit > held.high
    ? verdict('high', { is: 'bound-too-high', limit, mode, held })
    : verdict('undecided', { is: 'bound-no-short', limit, mode, held });
}

/** Core rails are a few ohms to a few hundred by nature and are no shorts (common practice). */
export function lowByNature({ kind, volts, rangeVolts }: Net): boolean {
  const highest = rangeVolts?.[1] ?? volts;
  return kind === 'rail' && highest !== null && highest < (rangeVolts ? 2 : 1.1);
}

/** Memory reads tens of ohms and more, however low its volts (common practice). */
const isRailOfKnownVolts = (net: Net): boolean =>
  net.kind === 'rail' &&
  (net.rangeVolts !== null || net.volts !== null) &&
  (!lowByNature(net) || memoryName.test(net.id));
