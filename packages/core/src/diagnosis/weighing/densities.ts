import { normal, readingErrors, uniform } from '../../inference/index.ts';
import type { ColdKnowledge } from './cold-knowledge.ts';

// What likelihoods of all kinds are made of: what is predicted and known of a point, and densities.

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
  /** Volts it may have as well, where a regulator's enable stands in between: see undecided.ts. */
  or?: number | null;
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
  /** Part of its volts that a verdict allows a good board; the usual where missing. */
  tolerance?: number;
  /** Core rails read near nothing by nature. */
  isCore: boolean;
  /** Held by a chip's output, whose strength no sheet states. */
  isDriven?: boolean;
  /** Volts were read there: the tip reaches what stands behind it. */
  isTouched?: boolean;
  /** How often the same was read there: a slip does not repeat itself. Once where missing. */
  times?: number;
}

/** Where volts are read: a rail, another net, the end of a light, or across a part. */
export type Where = 'rail' | 'signal' | 'light' | 'across';

/** How often the real severity is about the listed one, rather than on the way to its neighbours. */
export const listedShare = 0.75;

/** Where values are steady on both sides, anything between them may be read. */
export function between(
  read: number,
  value: number,
  near: readonly number[],
  sigma: number,
): number {
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
export const chance = (p: number): number =>
  Math.log(readingErrors.wrong / 2 + (1 - readingErrors.wrong) * p);

export const spanVolts = 25;
export const spanDiode = 2;
export const spanDecades = 9;

const { wrong, mostTimes, missedTip } = readingErrors;
/** A slip does not repeat itself. */
export const slipOf = ({ times = 1 }: Point): number => wrong ** Math.min(times, mostTimes);
/** OL where something conducts, `fits` being how well it fits all the same: else the tip did not touch. */
export const untouched = ({ where, times = 1, isTouched = false }: Point, fits: number): number => {
  const once = where === 'signal' && !isTouched ? missedTip.atLine : missedTip.else;
  const missed = once ** Math.min(times, mostTimes);
  return Math.log(missed + (1 - missed) * fits);
};
