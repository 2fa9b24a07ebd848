import {
  floatingVolts,
  lowLevelVolts,
  type ReadingValue,
  leastSwingVolts,
  usualTolerance,
} from '../../readings/index.ts';
import {
  between,
  chance,
  listedShare,
  slipOf,
  spanVolts,
  type Point,
  type Prediction,
  type Where,
} from './densities.ts';
import { normal, uniform, softUniform } from '../../inference/index.ts';

/** What a verdict allows a good board is so many standard deviations: one in two hundred strays further. */
const allowedSpreads = 2.8;
/** What any rail, and anything else, is allowed: where a sheet promises less, the meter still errs. */
const leastTolerance = {
  rail: usualTolerance('play', 'rail'),
  else: usualTolerance('play', 'other'),
};

/**
 * Standard deviation of volts at a point of a good board, by what it is and what its verdict allows
 * (`tolerance`, a part of its volts). A drop across a part goes with the load behind it, which differs by a
 * fifth, but it is read to millivolts.
 */
export function voltsSigma(value: number, where: Where, tolerance = 0): number {
  if (where === 'across') return Math.hypot(0.15 * value, 0.004);
  // What a light drops hangs on its colour and maker.
  const allowed = Math.max(tolerance, leastTolerance[where === 'rail' ? 'rail' : 'else']);
  return Math.hypot((allowed / allowedSpreads) * value, where === 'light' ? 0.25 : 0.03);
}

const anySwingShare = 0.92;
/** A dead rail that is called swinging all the same, to any height. */
const deadSwingShare = 0.23;

/** Density of a wrong reading in volts: half of them touch nothing and show none, the rest is anywhere. */
const wrongVolts = (read: number): number => 0.5 * normal(read, 0.03) + 0.5 / spanVolts;

/** What a fault makes of a net hangs on loads and limits that were not measured. */
const deviatingTail = 0.12;
/** Where a rail comes to stand under a short, a weak maker or a weak source hangs on limits nobody stated. */
const draggedTail = 0.6;
/** Nothing that drags a rail down leaves it above its own volts: what a meter adds, and no more. */
const draggedTop = 1.02;

/** Where any volts between two are right: even between them, soft at the ends. */
function evenBetween(read: number, [low, high]: readonly [number, number]): number {
  return softUniform(read, low, high, 0.03 * high + 0.03);
}

function steadyVolts(
  read: number,
  value: number,
  { where, healthy, upVolts, range = null, tolerance }: Point,
): number {
  if (range && value >= range[0] && value <= range[1]) return evenBetween(read, range);
  const dead =
    where === 'across'
      ? 0
      : Math.max(floatingVolts(upVolts), where === 'signal' ? lowLevelVolts : 0);
  if (Math.abs(value) < dead && value > -0.1)
    return 0.65 * normal(read - value, 0.035) + 0.35 * evenBetween(read, [-0.05, dead]);
  const sigma = voltsSigma(value, where, tolerance);
  const own = normal(read - value, sigma);
  if (Math.abs(value - healthy) < 3 * sigma) return own;
  const isDragged = where === 'rail' && value > dead && value < 0.95 * upVolts;
  const top = isDragged ? draggedTop * upVolts : 1.1 * Math.max(upVolts, Math.abs(value), 1);
  const tail = isDragged ? draggedTail : deviatingTail;
  return (1 - tail) * own + tail * uniform(read, -0.1, top);
}

/** So often a regulator whose enable stands in between decides the other way than the sheet has it. A guess. */
const otherWayShare = 0.4;

/** ln likelihood of a reading in volts. */
export function volts(read: ReadingValue, prediction: Prediction, point: Point): number {
  const played = voltsAsPlayed(read, prediction, point);
  if (prediction.or === undefined || prediction.or === null) return played;
  const other = { value: prediction.or, swing: null, span: null, near: [] };
  return Math.log(
    (1 - otherWayShare) * Math.exp(played) +
      otherWayShare * Math.exp(voltsAsPlayed(read, other, point)),
  );
}

function voltsAsPlayed(
  read: ReadingValue,
  { value, swing, span, near }: Prediction,
  point: Point,
): number {
  const slip = slipOf(point);
  const mixed = (fit: number, wrong: number): number => Math.log(slip * wrong + (1 - slip) * fit);
  if (read.kind === 'over') return chance(0.01);
  if (read.kind === 'swinging') {
    const middle = (read.low + read.high) / 2;
    // What moves by tenths of a volt about where it stands, or where nothing should be, is no swing.
    const isSmall =
      read.high - read.low < leastSwingVolts ||
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
    const wide = over.filter(([low, high]) => high - low > leastSwingVolts);
    if (wide.length > 0) {
      const other = wide.reduce((sum, one) => sum + swinging(one), 0) / wide.length;
      fit = listedShare * fit + (1 - listedShare) * 0.5 * other;
    }
    return mixed(fit, 0.1 / spanVolts);
  }
  if (read.kind !== 'number') return 0;
  const sigma = voltsSigma(value, point.where, point.tolerance);
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
