// What a count of runs says, and how little: intervals, paired counts and proper scores.

/** A rate with its interval of 95 in 100. */
export interface Rate {
  hits: number;
  of: number;
  rate: number;
  low: number;
  high: number;
}

/** The normal deviate that leaves 2.5 % on each side. */
const z = 1.959964;

/** Wilson's score interval (E. B. Wilson, 1927, JASA 22); the whole range where there was no run. */
export function wilson(hits: number, of: number): Rate {
  if (of === 0) return { hits, of, rate: Number.NaN, low: 0, high: 1 };
  const rate = hits / of;
  const middle = rate + (z * z) / (2 * of);
  const half = z * Math.sqrt((rate * (1 - rate)) / of + (z * z) / (4 * of * of));
  const below = 1 + (z * z) / of;
  return {
    ...{ hits, of, rate },
    low: Math.max(0, (middle - half) / below),
    high: Math.min(1, (middle + half) / below),
  };
}

export const rateText = ({ hits, of, rate, low, high }: Rate): string =>
  of === 0
    ? 'no run'
    : `${(100 * rate).toFixed(1)} % (${(100 * low).toFixed(1)} to ${(100 * high).toFixed(1)}; ${hits} of ${of})`;

/** Two ways of judging tried on the same boards and readings: how often only one of them was right. */
export interface Paired {
  onlyFirst: number;
  onlySecond: number;
  /** Chance of a split at least so uneven where neither is better. */
  p: number;
}

/** McNemar's test (Q. McNemar, 1947, Psychometrika 12), exact by the binomial, two-sided. */
export function mcnemar(pairs: readonly (readonly [first: boolean, second: boolean])[]): Paired {
  const onlyFirst = pairs.filter(([first, second]) => first && !second).length;
  const onlySecond = pairs.filter(([first, second]) => second && !first).length;
  const all = onlyFirst + onlySecond;
  const fewer = Math.min(onlyFirst, onlySecond);
  let tail = 0;
  let term = 0.5 ** all;
  for (let k = 0; k <= fewer; k++) {
    tail += term;
    term *= (all - k) / (k + 1);
  }
  return { onlyFirst, onlySecond, p: Math.min(1, 2 * tail) };
}

/** What a run put on the truth, and on what it named first. */
export interface Said {
  /** Probability put on the group the truth is in; 0 where it was not named. */
  onTruth: number;
  /** Probability of the group put first, and whether the truth was in it. */
  first: number;
  isRight: boolean;
}

/** The least a run can put on the truth: a truth that was not named is not infinitely wrong. */
const least = 1e-3;

/** Mean logarithmic score in bits (I. J. Good, 1952): 0 is certain and right, less is worse. */
export const logScore = (runs: readonly Said[]): number =>
  runs.reduce((sum, { onTruth }) => sum + Math.log2(Math.max(least, Math.min(1, onTruth))), 0) /
  Math.max(1, runs.length);

/** Of what was said with so much certainty, how much was right: by tenths, those with no run left out. */
export function calibration(runs: readonly Said[]): { from: number; said: number; right: Rate }[] {
  return Array.from({ length: 10 }, (_, tenth) => {
    const here = runs.filter(({ first }) => Math.min(9, Math.floor(first * 10 + 1e-9)) === tenth);
    const said = here.reduce((sum, one) => sum + one.first, 0) / Math.max(1, here.length);
    return {
      from: tenth / 10,
      said,
      right: wilson(here.filter(({ isRight }) => isRight).length, here.length),
    };
  }).filter(({ right }) => right.of > 0);
}
