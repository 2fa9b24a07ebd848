import type { ReadingValue } from '../../readings/index.ts';
import { leastJunctionVolts, ownPart } from './cold-knowledge.ts';
import {
  between,
  chance,
  listedShare,
  spanDecades,
  spanDiode,
  untouched,
  type Point,
  type Prediction,
  type Where,
} from './densities.ts';
import { normal, step, uniform, readingErrors } from '../../inference/index.ts';

/** Dies differ from board to board: ohms to ground by about a third, junctions by some tens of millivolts. */
export const ohmsSigmaDecades = 0.14;
export const diodeSigma = 0.03;
/** Above a ceiling only the tolerance of drawn resistors and the meter's own count. */
const aboveCeilingDecades = 0.04;
/** Drawn resistors that nothing else stands beside. */
const drawnSigmaDecades = 0.05;

const { oddCold, wrongPad, farBelow, farOhms, farAbove, wrongShort, nearNothingOhms } =
  readingErrors;

/**
 * What pulls a driven line down to the volts that were read has the more ohms the weaker its driver is.
 * Plays know strong ones only (`outputOhms`); real ones, and what stands in series inside a controller,
 * have up to some kilohms (common practice, no source).
 */
const weakDriver = { share: 0.3, times: 125, mostOhms: 10_000, diodeVolts: 1 } as const;

/**
 * A part read above what lies beside it: what lies there, dies most of it, may be so much less than the
 * sheet says, and nothing but the part itself can raise what is read.
 */
const raised = { abovePart: 1.1, share: 0.3, over: 0.1 } as const;

const decades = (value: number): number => Math.log10(Math.max(Math.min(value, 1e9), 0.05));

/**
 * What hangs on a good rail that is no core has more ohms than this, whatever the board (common practice, no
 * source).
 */
const leastUsual = 25;

/** Ohms where nobody knows what stands there, and no short does: anything above what a short reads. */
function unknownOhms(read: ReadingValue, isCore: boolean, where: Where): number {
  if (read.kind === 'over') return chance(0.3);
  // Between two points a link, a fuse or copper is as likely as anything.
  const mayBeNothing = isCore || where === 'across';
  if (read.kind === 'beep') return chance(mayBeNothing ? 0.5 : 0.03);
  if (read.kind !== 'number') return 0;
  const least = where === 'across' ? 0.05 : isCore ? 0.2 : where === 'signal' ? 1000 : leastUsual;
  const isNothing = read.value < nearNothingOhms && !mayBeNothing;
  const isFar = !mayBeNothing && read.value < least / farBelow;
  const wrong = (isNothing ? wrongShort : isFar ? wrongPad : oddCold) / spanDecades;
  return Math.log(wrong + 0.65 * uniform(decades(read.value), decades(least), decades(40e6)));
}

/** ln likelihood of a reading in ohms, unpowered. */
export function ohms(read: ReadingValue, { value, near }: Prediction, point: Point): number {
  const { healthy, cold, isCore, isDriven, where } = point;
  const open = value === Infinity;
  const isOwn = value < ownPart * healthy;
  const isRaised = where === 'across' && value > raised.abovePart * healthy;
  if (cold.kind === 'nothing' && !(value < Math.min(ownPart * healthy, cold.shortOhms)))
    return unknownOhms(read, isCore, where);
  const ceiling = cold.kind === 'ceiling' && !isOwn;
  if (read.kind === 'over') {
    if (open) return chance(ceiling ? 0.5 : 0.97);
    const above = 0.9 * step(decades(value) - decades(read.limit), 0.2);
    return untouched(point, Math.max(above, isRaised ? raised.over : 0));
  }
  if (read.kind === 'beep') {
    if (ceiling && isCore) return chance(0.5);
    if (open) return chance(0.002);
    const sounds = (one: number): number => step(decades(read.limit) - decades(one), 0.08);
    return chance(
      Math.max(sounds(value), ceiling ? 0.03 : 0, ...near.map((one) => 0.3 * sounds(one.value))),
    );
  }
  if (read.kind !== 'number') return 0;
  // A capacitor charging: a lower bound, never a short.
  if (read.trend === 'rising')
    return chance(value >= 0.7 * read.value ? 0.9 : value >= 0.3 * read.value ? 0.4 : 0.05);
  const at = decades(read.value);
  const isFar =
    where === 'across'
      ? read.value > farAbove * Math.max(value, nearNothingOhms)
      : !isCore && read.value < Math.min(healthy, farOhms) / farBelow;
  const isNothing = read.value < nearNothingOhms && !isCore;
  const wrong = (isNothing ? wrongShort : isFar ? wrongPad : oddCold) / spanDecades;
  const higher = isRaised ? raised.share : 0;
  const anyHigher = uniform(at, decades(value), decades(40e6));
  const mixed = (fit: number): number =>
    Math.log(wrong + (1 - readingErrors.wrong) * ((1 - higher) * fit + higher * anyHigher));
  const least = decades(isCore ? 0.2 : where === 'rail' || where === 'across' ? 10 : 1000);
  if (ceiling) {
    if (open) return mixed(0.5 * uniform(at, least, decades(40e6)));
    const top = Math.max(decades(value), least + 0.3);
    // Nothing beside drawn resistors can raise them.
    const off = at - decades(value);
    const about = normal(off, off > 0 ? aboveCeilingDecades : 0.12);
    return mixed(0.35 * about + 0.6 * uniform(at, least, top));
  }
  // Leakage of a meter's leads and of dirt shows where nothing should.
  if (open) return Math.log(wrong + (read.value > 5e6 ? 0.1 : 0.002));
  // Leads and contacts add a few tenths of an ohm to what is next to nothing.
  const spread = isOwn
    ? ohmsSigmaDecades
    : cold.kind === 'stated'
      ? cold.sigmaDecades
      : drawnSigmaDecades;
  const sigma = Math.max(spread, value < 2 ? 0.25 : value < 20 ? 0.1 : 0);
  const listed = normal(at - decades(value), sigma);
  const steps = near.map((one) => decades(one.value));
  const fit =
    steps.length === 0
      ? listed
      : listedShare * listed + (1 - listedShare) * between(at, decades(value), steps, sigma);
  if (!isDriven || !isOwn || value >= weakDriver.mostOhms) return mixed(fit);
  const top = Math.min(value * weakDriver.times, weakDriver.mostOhms);
  const weaker = uniform(at, decades(value), decades(top));
  return mixed((1 - weakDriver.share) * fit + weakDriver.share * weaker);
}

/** Below this an upper display is a bound somebody wrote, not the end of the range. */
const wholeDiodeVolts = 1.2;

/** ln likelihood of a reading in diode-mode. */
export function diode(read: ReadingValue, { value, near }: Prediction, point: Point): number {
  const { cold, isCore, isDriven, healthy } = point;
  const open = value === Infinity;
  // Where nobody wrote down the chips, only a short says anything.
  const unknown =
    (cold.kind === 'ceiling' || cold.kind === 'nothing') && !(value < leastJunctionVolts);
  if (read.kind === 'over' && read.limit < wholeDiodeVolts) {
    // A bound: more than so much.
    if (open) return chance(0.97);
    return chance(unknown ? 0.9 : 0.005 + 0.9 * step(value - read.limit, 0.03));
  }
  if (read.kind === 'over') {
    if (unknown) return chance(0.35);
    return open ? chance(0.97) : untouched(point, value > wholeDiodeVolts ? 0.2 : 0);
  }
  if (read.kind === 'beep') {
    if (unknown) return chance(isCore ? 0.5 : 0.02);
    return chance(open ? 0.002 : step(0.03 - value, 0.004));
  }
  if (read.kind !== 'number') return 0;
  const wrong = (read.value < 0.02 && !isCore ? wrongShort : oddCold) / spanDiode;
  if (unknown)
    return Math.log(
      wrong +
        (read.value >= leastJunctionVolts || isCore ? 0.6 * uniform(read.value, 0, 1.2) : 0.02),
    );
  if (open) return Math.log(wrong + 0.01);
  const sigma = cold.kind === 'stated' ? Math.hypot(cold.sigmaVolts, 0.03 * value) : diodeSigma;
  const listed = normal(read.value - value, sigma);
  const steps = near.map((one) => Math.min(one.value, spanDiode));
  const fit =
    steps.length === 0
      ? listed
      : listedShare * listed + (1 - listedShare) * between(read.value, value, steps, sigma);
  // A leak of some ohms or of some hundred: at a milliamp anything up to the die beside it.
  const weaker =
    isDriven && value < ownPart * healthy
      ? uniform(read.value, value, Math.min(weakDriver.diodeVolts, healthy))
      : fit;
  return Math.log(
    wrong + (1 - readingErrors.wrong) * ((1 - weakDriver.share) * fit + weakDriver.share * weaker),
  );
}
