import type { Fault } from '../../faults/index.ts';
import type { Observation } from './observation.ts';

/** A size that was played, or listed: how far from one listed row to the next, and its row. */
export interface Size {
  part: number;
  row: number;
}
/** From the row of a listed size to that of the next, which may be the healthy board, open or dead. */
export interface Way {
  from: number;
  to: number;
  sizes: Size[];
}

/** What may be worth a play of its own: faults that are in no row yet. */
export interface Candidate {
  key: string;
  /** Rows of the listed faults. */
  members: number[];
  /** What is played. */
  faults: Fault[];
  score: number;
  /** Of another size: where it lies. */
  size?: { way: Way; part: number };
}

/** By row: how well everything seen fits, as a sum of logarithms. */
export function fitOf(rows: number, used: readonly Observation[]): Float64Array {
  const fit = new Float64Array(rows);
  for (const { byRow } of used) for (let row = 0; row < rows; row++) fit[row]! += byRow[row]!;
  return fit;
}

/** As likely as this, against what stands now, a candidate must look before it is played. */
const leastPromise = 1e-3;

/** ln weight below which nothing is worth its play. */
export const leastScore = (
  weights: Float64Array,
  logPriors: Float64Array,
  fit: Float64Array,
): number =>
  Math.log(weights.at(-1)!) + evidenceOfAll(weights, logPriors, fit) + Math.log(leastPromise);

/** ln of what all rows explain together, from any of them: their posterior is known. */
export function evidenceOfAll(
  weights: Float64Array,
  logPriors: Float64Array,
  fit: Float64Array,
): number {
  let row = 0;
  for (let one = 0; one < fit.length; one++) if (weights[one]! > weights[row]!) row = one;
  return logPriors[row]! + fit[row]! - Math.log(weights[row]!);
}
