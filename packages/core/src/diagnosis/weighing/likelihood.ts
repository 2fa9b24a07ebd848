import {
  floatingVolts,
  lowLevelVolts,
  type Reading,
  type ReadingValue,
} from '../../readings/index.ts';
import { leastJunctionVolts, ownPart, shortOhms } from './cold-knowledge.ts';
import type { ColdKnowledge } from './cold-knowledge.ts';

/** What a hypothesis predicts for one reading. */
export interface Prediction {
  /** NaN: it says nothing of it, and counts what "none of these" does. */
  value: number;
  /** Where it swings as far as a meter shows: lowest and highest. */
  swing: readonly [number, number] | null;
  /** All it swings over, however little; null where it is steady. */
  span: readonly [number, number] | null;
  /**
   * What the next milder and the next harder severity of the same fault predict: the real one lies
   * anywhere between. What swings there is told apart from what is steady here.
   */
  near: readonly { value: number; span: readonly [number, number] | null }[];
}

/** What is known of a point beside what hypotheses say of it. */
export interface Point {
  where: Where;
  /** What the healthy board reads there: volts in the phase, ohms or volts cold. */
  healthy: number;
  /** The highest it reads on a healthy board, whatever the phase. */
  upVolts: number;
  cold: ColdKnowledge;
  /** On a sheet of guesses: volts between these are as good as any; null where it says a value. */
  range?: readonly [number, number] | null;
  /** Core rails read near nothing by nature. */
  isCore: boolean;
  /** Held by a chip's output, whose strength no sheet states. */
  isDriven?: boolean;
  /** How often the same was read there: a slip does not repeat itself. Once where missing. */
  times?: number;
}

/** Where volts are read: a rail, another net, the end of a light, or across a part. */
export type Where = 'rail' | 'signal' | 'light' | 'across';

/** A reading that is simply wrong (slipped probe, wrong pad, typing) is about this likely. */
export const wrongReading = 0.02;
/** Cold values a board does not share with its sheet: another die, something beside it, charge left. */
const oddCold = 0.05;
/** No die and nothing beside explains a thirtieth of what is to be read, or more than a part itself has: a wrong pad. */
const wrongPad = 0.02;
const farBelow = 30;
const farOhms = 10_000;
const farAbove = 1.5;
/** Next to no ohms do not come from a slip or another die: both tips must find each other. */
const wrongShort = 0.0004;
const nearNothingOhms = 5;

const halfLog2Pi = Math.log(Math.sqrt(2 * Math.PI));
const normal = (distance: number, sigma: number): number =>
  Math.exp(-0.5 * (distance / sigma) ** 2 - halfLog2Pi) / sigma;
const uniform = (read: number, low: number, high: number): number =>
  high > low && read >= low && read <= high ? 1 / (high - low) : 0;

/** How often the real severity is about the listed one, rather than on the way to its neighbours. */
const listedShare = 0.75;

/** Where values are steady on both sides, anything between them may be read. */
function between(read: number, value: number, near: readonly number[], sigma: number): number {
  let density = 0;
  for (const one of near) {
    const [low, high] = [Math.min(value, one), Math.max(value, one)];
    // Hardly apart: nothing lies between.
    density +=
      (high - low < 2 * sigma
        ? normal(read - value, sigma)
        : uniform(read, low - sigma, high + sigma)) / near.length;
  }
  return density;
}

/** A chance as its logarithm, wrong readings allowed for. */
const chance = (p: number): number => Math.log(wrongReading / 2 + (1 - wrongReading) * p);

/** Logistic step: near 1 where `above` is well above 0, in units of `width`. */
const step = (above: number, width: number): number => 1 / (1 + Math.exp(-above / width));

const spanVolts = 25;
const spanDiode = 2;
const spanDecades = 9;

/**
 * Standard deviation of volts at a point of a good board, by what it is. A drop across a part goes
 * with the load behind it, which differs by a fifth, but it is read to millivolts.
 */
export function voltsSigma(value: number, where: Where): number {
  if (where === 'across') return Math.hypot(0.15 * value, 0.004);
  // What a light drops hangs on its colour and maker.
  return Math.hypot((where === 'rail' ? 0.018 : 0.035) * value, where === 'light' ? 0.25 : 0.03);
}
/** Dies differ from board to board: ohms to ground by about a third, junctions by some tens of millivolts. */
export const ohmsSigmaDecades = 0.14;
export const diodeSigma = 0.03;
/** Above a ceiling only the tolerance of drawn resistors and the meter's own count. */
const aboveCeilingDecades = 0.04;
/** Drawn resistors that nothing else stands beside. */
const drawnSigmaDecades = 0.05;

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

/** Read more often than this tells no more. */
const mostTimes = 2;
/** A slip does not repeat itself. */
const slipOf = ({ times = 1 }: Point): number => wrongReading ** Math.min(times, mostTimes);
/** OL where something conducts, `fits` being how well it fits all the same: else the tip did not touch. */
const untouched = (point: Point, fits: number): number =>
  Math.log(slipOf(point) + (1 - slipOf(point)) * fits);
const anySwingShare = 0.92;
/** A dead rail that is called swinging all the same, to any height. */
const deadSwingShare = 0.23;
/** Less a meter hardly shows as swinging. */
const smallSwingVolts = 0.4;

/** Density of a wrong reading in volts: half of them touch nothing and show none, the rest is anywhere. */
const wrongVolts = (read: number): number => 0.5 * normal(read, 0.03) + 0.5 / spanVolts;

/** What a fault makes of a net hangs on loads and limits that were not measured. */
const deviatingTail = 0.12;
/** Where a rail comes to stand under a short, a weak maker or a weak source hangs on limits nobody stated. */
const draggedTail = 0.6;

/** Where any volts between two are right: even between them, soft at the ends. */
function evenBetween(read: number, [low, high]: readonly [number, number]): number {
  const sigma = 0.03 * high + 0.03;
  const outside = Math.max(0, low - read, read - high);
  return Math.exp(-0.5 * (outside / sigma) ** 2) / (high - low + sigma * Math.sqrt(2 * Math.PI));
}

function steadyVolts(
  read: number,
  value: number,
  { where, healthy, upVolts, range = null }: Point,
): number {
  if (range && value >= range[0] && value <= range[1]) return evenBetween(read, range);
  const dead =
    where === 'across'
      ? 0
      : Math.max(floatingVolts(upVolts), where === 'signal' ? lowLevelVolts : 0);
  if (Math.abs(value) < dead && value > -0.1)
    return 0.65 * normal(read - value, 0.035) + 0.35 * uniform(read, -0.05, dead);
  const sigma = voltsSigma(value, where);
  const own = normal(read - value, sigma);
  if (Math.abs(value - healthy) < 3 * sigma) return own;
  const top = 1.1 * Math.max(upVolts, Math.abs(value), 1);
  const isDragged = where === 'rail' && value > dead && value < 0.95 * upVolts;
  const tail = isDragged ? draggedTail : deviatingTail;
  return (1 - tail) * own + tail * uniform(read, -0.1, top);
}

function volts(read: ReadingValue, { value, swing, span, near }: Prediction, point: Point): number {
  const slip = slipOf(point);
  const mixed = (fit: number, wrong: number): number => Math.log(slip * wrong + (1 - slip) * fit);
  if (read.kind === 'over') return chance(0.01);
  if (read.kind === 'swinging') {
    const middle = (read.low + read.high) / 2;
    // What moves by tenths of a volt about where it stands, or where nothing should be, is no swing.
    const isSmall =
      read.high - read.low < smallSwingVolts ||
      (point.where !== 'across' && read.high < floatingVolts(point.upVolts));
    const swinging = (one: readonly [number, number] | null): number => {
      const { upVolts, where } = point;
      // How high a rail gets while its maker hiccups hangs on limits nobody stated.
      const anyHeight =
        where !== 'across' && read.high < 1.1 * upVolts ? 1 / Math.max(1, upVolts) : 0;
      if (!one) {
        if (isSmall) return 0.5 * steadyVolts(middle, value, point);
        const isDead = Math.abs(value) < floatingVolts(upVolts);
        return 0.05 / spanVolts + (isDead ? deadSwingShare * anyHeight : 0);
      }
      // A slow meter sees less of the swing than there is: its ends within it, and some of its size.
      const [low, high] = one;
      const slop = 0.25 * (high - low) + 0.15;
      const inside = read.low > low - slop && read.high < high + slop;
      const fits = inside ? 1 / Math.max(0.5, high - low) : 0.1 / spanVolts;
      return (1 - anySwingShare) * fits + anySwingShare * anyHeight;
    };
    let fit = swinging(span);
    // Between two severities, one that hiccups low and one that holds on, swings of any height are met.
    const over = near.map((one): [number, number] => [
      Math.min(value, one.value, ...(span ?? []), ...(one.span ?? [])),
      Math.max(value, one.value, ...(span ?? []), ...(one.span ?? [])),
    ]);
    const wide = over.filter(([low, high]) => high - low > smallSwingVolts);
    if (wide.length > 0) {
      const other = wide.reduce((sum, one) => sum + swinging(one), 0) / wide.length;
      fit = listedShare * fit + (1 - listedShare) * 0.5 * other;
    }
    return mixed(fit, 0.1 / spanVolts);
  }
  if (read.kind !== 'number') return 0;
  const sigma = voltsSigma(value, point.where);
  // Not settled yet: what it shows is on the way, and bounds where it is going.
  if (read.trend === 'rising') return chance(value > read.value - 2 * sigma ? 0.9 : 0.08);
  if (read.trend === 'falling') return chance(value < read.value + 2 * sigma ? 0.9 : 0.08);
  const listed = steadyVolts(read.value, value, point);
  const steady = near.filter((one) => one.span === null).map((one) => one.value);
  const fit =
    steady.length === 0 || span !== null
      ? listed
      : listedShare * listed + (1 - listedShare) * between(read.value, value, steady, sigma);
  if (!swing) return mixed(fit, wrongVolts(read.value));
  // Swings, but a steady value was written down: its mean, or what was caught of it.
  const [low, high] = swing;
  // As often in the upper half as it is up there.
  const up = Math.min(0.95, Math.max(0.05, (value - low) / (high - low)));
  const half = read.value > (low + high) / 2 ? up : 1 - up;
  const isInside = read.value > low - 0.1 && read.value < high + 0.1;
  const caught = isInside ? (2 * half) / (high - low + 0.2) : 0;
  return mixed(0.5 * fit + 0.5 * caught, wrongVolts(read.value));
}

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

/** Ohms where nobody knows what stands there, and no short does: anything above what a short reads. */
function unknownOhms(read: ReadingValue, isCore: boolean, where: Where): number {
  if (read.kind === 'over') return chance(0.3);
  // Between two points a link, a fuse or copper is as likely as anything.
  const mayBeNothing = isCore || where === 'across';
  if (read.kind === 'beep') return chance(mayBeNothing ? 0.5 : 0.03);
  if (read.kind !== 'number') return 0;
  const least = decades(where === 'across' ? 0.05 : isCore ? 0.2 : where === 'signal' ? 1000 : 10);
  const wrong =
    (read.value < nearNothingOhms && !mayBeNothing ? wrongShort : oddCold) / spanDecades;
  return Math.log(wrong + 0.65 * uniform(decades(read.value), least, decades(40e6)));
}

function ohms(read: ReadingValue, { value, near }: Prediction, point: Point): number {
  const { healthy, cold, isCore, isDriven, where } = point;
  const open = value === Infinity;
  const isOwn = value < ownPart * healthy;
  const isRaised = where === 'across' && value > raised.abovePart * healthy;
  if (cold.kind === 'nothing' && !(value < Math.min(ownPart * healthy, shortOhms)))
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
  const more = isRaised ? uniform(at, decades(value), decades(40e6)) : 0;
  const mixed = (fit: number): number =>
    Math.log(
      wrong +
        (1 - wrongReading) * (isRaised ? (1 - raised.share) * fit + raised.share * more : fit),
    );
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

function diode(read: ReadingValue, { value, near }: Prediction, point: Point): number {
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
    wrong + (1 - wrongReading) * ((1 - weakDriver.share) * fit + weakDriver.share * weaker),
  );
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
  return Math.log((2.5 * wrongReading) / spanAmps + (1 - wrongReading) * all);
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
