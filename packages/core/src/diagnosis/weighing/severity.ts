import type { Reading, ReadingValue } from '../../readings/index.ts';
import type { Weighed } from './observation.ts';
import type { Point, Prediction } from './densities.ts';
import { logLikelihood } from './likelihood.ts';
import { voltsSigma } from './volts-likelihood.ts';
import type { Table } from './table.ts';

// The real severity of a short or drift lies between those of the list, and it is one: all readings
// must fit the same. So each row is also held against what severities on the way would read.

/** Parts of the way to the next milder, then to the next harder severity: the middles of as many stretches. */
const parts = [0.1, 0.3, 0.5, 0.7, 0.9] as const;
const halfStretch = 0.1;
export const severitySteps = 2 * parts.length;

/** Log-likelihoods of a reading for severities about a row; `own` where nothing lies between. */
export function fillBetween(
  into: Float32Array,
  row: number,
  own: number,
  mode: Reading['mode'],
  value: ReadingValue,
  prediction: Prediction,
  point: Point,
): void {
  for (let step = 0; step < severitySteps; step++) {
    const near = prediction.near[step < parts.length ? 0 : 1];
    let log = own;
    if (near && prediction.span === null && near.span === null) {
      const part = parts[step % parts.length]!;
      const at = onTheWay(mode, prediction.value, near.value, part);
      if (!Number.isNaN(at)) {
        const half = halfStretch * Math.abs(near.value - prediction.value);
        // All of a stretch reads as well: whether its middle happens to be what was read is chance.
        const where =
          mode === 'volts' && half > voltsSigma(at, point.where, point.tolerance)
            ? { ...point, range: [at - half, at + half] as const }
            : point;
        log = logLikelihood(mode, value, { value: at, swing: null, span: null, near: [] }, where);
      }
    }
    into[row * severitySteps + step] = log;
  }
}

/** Volts change evenly on the way, ohms by decades; NaN where one end is above the meter's range. */
function onTheWay(mode: Reading['mode'], from: number, to: number, part: number): number {
  if (!Number.isFinite(from) || !Number.isFinite(to)) return NaN;
  if (mode !== 'ohms') return from + part * (to - from);
  const [a, b] = [Math.max(from, 0.02), Math.max(to, 0.02)];
  return a * (b / a) ** part;
}

/** Half of the time the real severity is about the listed one. */
const onTheWayShare = 0.5;

/** What is to be added to the log-likelihood of each single row for severities on the way that fit all readings better. */
export function severityGains(
  { singles, neighbours }: Table,
  used: readonly Weighed[],
): Float64Array {
  const gains = new Float64Array(singles);
  const readings = used.filter((one) => one.between);
  if (readings.length === 0) return gains;
  for (let row = 1; row < singles; row++) {
    const steps = parts.length * Math.min(2, neighbours[row]!.length);
    if (steps === 0) continue;
    let sum = 0;
    for (let step = 0; step < steps; step++) {
      let more = 0;
      for (const { between, byRow, strength } of readings)
        more += strength * (between![row * severitySteps + step]! - byRow[row]!);
      sum += Math.exp(Math.min(more, 300));
    }
    gains[row] = Math.log(1 - onTheWayShare + (onTheWayShare * sum) / steps);
  }
  return gains;
}
