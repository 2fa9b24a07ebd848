import type { NetId } from '../../board/index.ts';
import type { Reading } from '../../readings/index.ts';
import type { Evidence } from '../evidence/evidence.ts';
import { valuesAt, type Table } from './table.ts';

// A meter is off by one factor for all the volts it shows: many readings that are each a little high are one
// error, not many. Each row is weighed under several such factors, and the whole of its readings under each.

/** Factors with their shares. Hand meters are good to a per cent or two; worn ones to more. Guesses, no source. */
const gains = [
  { gain: 1, share: 0.88 },
  { gain: 0.97, share: 0.025 },
  { gain: 1.03, share: 0.025 },
  { gain: 0.945, share: 0.02 },
  { gain: 1.055, share: 0.02 },
  { gain: 0.92, share: 0.015 },
  { gain: 1.08, share: 0.015 },
] as const;

const alone = [{ gain: 1, share: 1 }];

/** Fewer readings cannot tell a meter that is off from a board that is. */
const leastReadings = 3;
/** Below this many volts a factor shows less than the meter's own digits. */
const leastVolts = 0.7;
/** Whatever the fault, most points that read within this part of a healthy board's are as they should be. */
const nearHealthy = 0.12;
/** A meter this near to right makes no difference; factors further from what is read weigh nothing. */
const rightEnough = 0.012;
const farFactor = 0.035;

/**
 * The factors worth weighing: by how much the readings near a healthy board's are off together (their median).
 * The others would have next to no weight, and each costs as much as all readings once more.
 */
export function gainsFor(
  table: Table,
  { readings }: Evidence,
): readonly { gain: number; share: number }[] {
  const factors = readings
    .flatMap(({ reading: { at, reference, mode, phase, value } }) => {
      const place = table.placeOf.get(at.net as NetId);
      if (mode !== 'volts' || value.kind !== 'number' || reference || place === undefined)
        return [];
      const healthy = valuesAt(table, mode, phase, place).value(0);
      const factor = value.value / healthy;
      return healthy > leastVolts && Math.abs(factor - 1) < nearHealthy ? [factor] : [];
    })
    .sort((a, b) => a - b);
  if (factors.length < leastReadings) return alone;
  const middle = factors[factors.length >> 1]!;
  return Math.abs(middle - 1) < rightEnough
    ? alone
    : gains.filter(({ gain }) => gain === 1 || Math.abs(gain - middle) < farFactor);
}

const corrected = new WeakMap<Reading, Map<number, Reading>>();

/** The reading as a meter without this factor would have shown it; the same object each time. */
function withoutGain(reading: Reading, gain: number): Reading {
  const { mode, value } = reading;
  if (mode !== 'volts' || (value.kind !== 'number' && value.kind !== 'swinging')) return reading;
  let by = corrected.get(reading);
  if (!by) corrected.set(reading, (by = new Map()));
  let made = by.get(gain);
  if (!made) {
    made = {
      ...reading,
      value:
        value.kind === 'number'
          ? { ...value, value: value.value / gain }
          : { ...value, low: value.low / gain, high: value.high / gain },
    };
    by.set(gain, made);
  }
  return made;
}

/** The evidence as a meter without this factor would have given it. */
export const evidenceWithoutGain = (evidence: Evidence, gain: number): Evidence =>
  gain === 1
    ? evidence
    : {
        ...evidence,
        readings: evidence.readings.map(({ id, reading }) => ({
          id,
          reading: withoutGain(reading, gain),
        })),
      };

/** ln of the mean of likelihoods, by row, with the share of each. */
export function mixedLogs(logs: readonly Float64Array[], shares: readonly number[]): Float64Array {
  const [first] = logs as [Float64Array];
  if (logs.length === 1) return first;
  return first.map((_, row) => {
    let most = -Infinity;
    for (const list of logs) most = Math.max(most, list[row]!);
    if (most === -Infinity) return -Infinity;
    let sum = 0;
    logs.forEach((list, at) => (sum += shares[at]! * Math.exp(list[row]! - most)));
    return most + Math.log(sum);
  });
}
