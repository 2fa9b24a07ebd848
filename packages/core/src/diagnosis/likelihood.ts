import type { Reading, ReadingValue } from '../readings/index.ts';

/** What a hypothesis predicts for one reading. */
export interface Prediction {
  value: number;
  /** Where it swings: lowest and highest. */
  swing: readonly [number, number] | null;
  /** All it may swing over, however little, in this or a neighbouring severity; null where none swings. */
  span: readonly [number, number] | null;
  /**
   * What the next milder and the next harder severity of the same fault predict: the real one lies
   * anywhere between.
   */
  between: readonly number[];
  /** Cold: the sheet does not say what the chips on this net read, so OL is only what the drawn parts give. */
  unstated?: boolean;
}

/** A reading that is simply wrong (slipped probe, wrong pad, typing) is about this likely. */
export const wrongReading = 0.02;

const halfLog2Pi = Math.log(Math.sqrt(2 * Math.PI));
const normal = (distance: number, sigma: number): number =>
  Math.exp(-0.5 * (distance / sigma) ** 2 - halfLog2Pi) / sigma;

/** How often the real severity is about the listed one, rather than on the way to its neighbours. */
const listedShare = 0.75;

/**
 * Density of a number under a prediction: mostly about the listed value, else anywhere on the way to
 * the neighbouring severities. Numbers on a linear scale of the mode.
 */
function density(read: number, value: number, between: readonly number[], sigma: number): number {
  const own = normal(read - value, sigma);
  const low = Math.min(value, ...between);
  const high = Math.max(value, ...between);
  if (high - low < 2 * sigma) return own;
  const within = read > low - sigma && read < high + sigma ? 1 / (high - low + 2 * sigma) : 0;
  return listedShare * own + (1 - listedShare) * within;
}

/** Density of a wrong reading in volts: half of them touch nothing and show none, the rest is anywhere. */
const wrongVolts = (read: number): number => 0.5 * normal(read, 0.03) + 0.5 / spanVolts;

/** A chance as its logarithm, wrong readings allowed for. */
const chance = (p: number): number => Math.log(wrongReading / 2 + (1 - wrongReading) * p);

/** Logistic step: near 1 where `above` is well above 0, in units of `width`. */
const step = (above: number, width: number): number => 1 / (1 + Math.exp(-above / width));

const spanVolts = 25;
const spanDiode = 2;
const spanDecades = 9;

/** Where volts are read: a rail, another net, or across a part. */
export type Where = 'rail' | 'signal' | 'across';

/**
 * Standard deviation of volts at a point of a good board, by what it is. A drop across a part goes
 * with the load behind it, which differs by a fifth, but it is read to millivolts.
 */
export function voltsSigma(value: number, where: Where): number {
  if (where === 'across') return Math.hypot(0.15 * value, 0.004);
  return Math.hypot((where === 'rail' ? 0.018 : 0.035) * value, 0.03);
}
/** Dies differ from board to board: ohms to ground by about a third, junctions by some tens of millivolts. */
export const ohmsSigmaDecades = 0.14;
export const diodeSigma = 0.03;

/** Natural logarithm of the likelihood of a reading under a prediction. */
export function logLikelihood(
  mode: Reading['mode'],
  read: ReadingValue,
  prediction: Prediction,
  where: Where,
): number {
  if (read.kind === 'unreached' || Number.isNaN(prediction.value)) return 0;
  switch (mode) {
    case 'volts':
      return volts(read, prediction, where);
    case 'ohms':
      return ohms(read, prediction, where);
    case 'diode':
      return diode(read, prediction);
    case 'amps':
      return read.kind === 'number' ? amps(read.value, prediction) : 0;
    case 'celsius':
    case 'seconds':
      return 0;
  }
}

function volts(
  read: ReadingValue,
  { value, swing, span, between }: Prediction,
  where: Where,
): number {
  const sigma = voltsSigma(value, where);
  const mixed = (fit: number, wrong: number): number =>
    Math.log(wrongReading * wrong + (1 - wrongReading) * fit);
  if (read.kind === 'over') return chance(0.01);
  if (read.kind === 'swinging') {
    if (!span) return mixed(0.05 / spanVolts, 0.1 / spanVolts);
    // A slow meter sees less of the swing than there is: its ends within it, and some of its size.
    const [low, high] = span;
    const slop = 0.25 * (high - low) + 0.15;
    const inside = read.low > low - slop && read.high < high + slop;
    return mixed(inside ? 1 / Math.max(0.5, high - low) : 0.1 / spanVolts, 0.1 / spanVolts);
  }
  if (read.kind !== 'number') return 0;
  // Not settled yet: what it shows is on the way.
  if (read.trend === 'rising' || read.trend === 'falling') return 0;
  const steady = density(read.value, value, between, sigma);
  if (!swing) return mixed(steady, wrongVolts(read.value));
  // Swings, but a steady value was written down: its mean, or what was caught of it.
  const [low, high] = swing;
  const caught = read.value > low - 0.1 && read.value < high + 0.1 ? 1 / (high - low + 0.2) : 0;
  return mixed(0.5 * steady + 0.5 * caught, wrongVolts(read.value));
}

const decades = (ohms: number): number => Math.log10(Math.max(Math.min(ohms, 1e9), 0.05));

/** Past an open part the meter reads whatever joins its ends another way round: anything but next to nothing. */
const leastAroundOhms = 20;

function ohms(read: ReadingValue, { value, between, unstated }: Prediction, where: Where): number {
  const open = value === Infinity;
  if (open && unstated && read.kind === 'over') return chance(0.6);
  if (read.kind === 'over')
    return chance(open ? 0.97 : step(decades(value) - decades(read.limit), 0.2) * 0.9 + 0.005);
  if (read.kind === 'beep')
    return chance(
      open
        ? 0.002
        : Math.max(
            step(decades(read.limit) - decades(value), 0.08),
            ...between.map((one) => 0.3 * step(decades(read.limit) - decades(one), 0.08)),
          ),
    );
  if (read.kind !== 'number') return 0;
  const wrong = wrongReading / spanDecades;
  if (open && where === 'across')
    return Math.log(wrong + (read.value > leastAroundOhms ? 0.9 / spanDecades : 0));
  // Chips nobody wrote down read anything but a short.
  if (open && unstated)
    return Math.log(wrong + (read.value > leastAroundOhms ? 0.35 / spanDecades : 0.002));
  // Leakage of a meter's leads and of dirt shows where nothing should.
  if (open) return Math.log(wrong + (read.value > 5e6 ? 0.1 : 0.002));
  // Leads and contacts add a few tenths of an ohm to what is next to nothing.
  const sigma = value < 2 ? 0.25 : ohmsSigmaDecades;
  const fit = density(decades(read.value), decades(value), between.map(decades), sigma);
  return Math.log(wrong + (1 - wrongReading) * fit);
}

function diode(read: ReadingValue, { value, between }: Prediction): number {
  const open = value === Infinity;
  if (read.kind === 'over') return chance(open ? 0.97 : value > 1.2 ? 0.2 : 0.01);
  if (read.kind === 'beep') return chance(open ? 0.002 : step(0.03 - value, 0.004));
  if (read.kind !== 'number') return 0;
  const wrong = wrongReading / spanDiode;
  if (open) return Math.log(wrong + 0.01);
  const finite = between.map((one) => Math.min(one, spanDiode));
  return Math.log(wrong + (1 - wrongReading) * density(read.value, value, finite, diodeSigma));
}

const spanAmps = 5;
/** Draw differs with firmware and what is plugged in: about a fifth, and some milliamps. */
export function amps(read: number, { value, between }: Prediction): number {
  const sigma = Math.hypot(0.2 * value, 0.006);
  return Math.log(
    wrongReading / spanAmps + (1 - wrongReading) * density(read, value, between, sigma),
  );
}

/** What a fault that is in no list reads like: mostly as the healthy board, often nothing, else anything. */
export function unknownLogLikelihood(
  mode: Reading['mode'],
  read: ReadingValue,
  healthy: number,
  where: Where,
): number {
  const like = (value: number): number =>
    logLikelihood(mode, read, { value, swing: null, span: null, between: [] }, where);
  const span = mode === 'ohms' ? spanDecades : mode === 'diode' ? spanDiode : spanVolts;
  const anywhere = read.kind === 'number' ? 1 / span : 0.1;
  return Math.log(0.6 * Math.exp(like(healthy)) + 0.2 * Math.exp(like(0)) + 0.2 * anywhere);
}
