import type { Reading, ReadingValue } from '../../readings/index.ts';
import { diode, ohms } from './cold-likelihood.ts';
import {
  between,
  listedShare,
  spanDecades,
  spanDiode,
  spanVolts,
  type Point,
  type Prediction,
} from './densities.ts';
import { normal, uniform, readingErrors } from '../../inference/index.ts';
import { volts } from './volts-likelihood.ts';

/** Natural logarithm of the likelihood of a reading under a prediction; NaN where it says nothing. */
export function logLikelihood(
  mode: Reading['mode'],
  read: ReadingValue,
  prediction: Prediction,
  point: Point,
): number {
  if (read.kind === 'unreached') return 0;
  if (Number.isNaN(prediction.value)) return NaN;
  switch (mode) {
    case 'volts':
      return volts(read, prediction, point);
    case 'ohms':
      return ohms(read, prediction, point);
    case 'diode':
      return diode(read, prediction, point);
    case 'amps':
    case 'celsius':
    case 'seconds':
      return 0;
  }
}

const spanAmps = 5;
/** Draw hangs on firmware and what is plugged in, and on loads somebody guessed: about a quarter, and some milliamps. */
const drawPart = 0.25;
/** What a fault draws hangs on limits a sheet often does not state: by a factor of two, or it is anything. */
const faultyDrawDecades = 0.3;
const anyDrawShare = 0.3;

/** Natural logarithm of the likelihood of amps at the source, `healthy` being what the whole board draws. */
export function amps(
  read: number,
  { value, near }: Pick<Prediction, 'value' | 'near'>,
  healthy: number,
): number {
  if (Number.isNaN(value)) return NaN;
  const sigma = Math.hypot(drawPart * value, 0.008);
  const isOwn = Math.abs(value - healthy) > 2 * Math.hypot(drawPart * healthy, 0.008);
  const listed = normal(read - value, sigma);
  const wide = isOwn
    ? normal(Math.log10(Math.max(read, 1e-3) / Math.max(value, 1e-3)), faultyDrawDecades) /
      (Math.max(read, 0.02) * Math.LN10)
    : listed;
  const steps = near.map((one) => one.value).filter((one) => !Number.isNaN(one));
  const any = uniform(read, 0, 1.5 * Math.max(value, healthy, 0.05));
  const fit = isOwn ? 0.35 * listed + (0.65 - anyDrawShare) * wide + anyDrawShare * any : listed;
  const all =
    steps.length === 0
      ? fit
      : listedShare * fit + (1 - listedShare) * between(read, value, steps, sigma);
  return Math.log((2.5 * readingErrors.wrong) / spanAmps + (1 - readingErrors.wrong) * all);
}

/** What a fault that is in no list reads like at a point it does not touch: mostly as the healthy board, often nothing, else anything. */
export function unknownLogLikelihood(
  mode: Reading['mode'],
  read: ReadingValue,
  point: Point,
): number {
  return mixedUnknown(mode, read, point, [0.55, 0.2, 0.25]);
}

/** The same at the point it sits at: nothing is to be expected of it. */
export function loosenedLogLikelihood(
  mode: Reading['mode'],
  read: ReadingValue,
  point: Point,
): number {
  return mixedUnknown(mode, read, point, [0.25, 0.3, 0.45]);
}

function mixedUnknown(
  mode: Reading['mode'],
  read: ReadingValue,
  point: Point,
  [whole, nothing, any]: readonly [number, number, number],
): number {
  // Cold, next to nothing is a find, not what most boards read.
  const dead = mode === 'volts' ? nothing : nothing / 6;
  const like = (value: number): number => {
    const log = logLikelihood(mode, read, { value, swing: null, span: null, near: [] }, point);
    return Number.isNaN(log) ? 0.1 : Math.exp(log);
  };
  const top = mode === 'volts' ? Math.max(2, 1.2 * point.upVolts) : 0;
  const anywhere =
    read.kind !== 'number'
      ? 0.1
      : mode === 'ohms'
        ? 1 / spanDecades
        : mode === 'diode'
          ? 1 / spanDiode
          : 0.7 * uniform(read.value, -0.1, top) + 0.3 / spanVolts;
  return Math.log(whole * like(point.healthy) + dead * like(0) + any * anywhere);
}
