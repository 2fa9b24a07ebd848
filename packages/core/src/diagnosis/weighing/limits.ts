import { isPlayed } from '../../dictionary/index.ts';
import type { Observation } from './observation.ts';
import { limitLogPrior } from './row-priors.ts';
import { evidenceOfAll, fitOf, type Candidate } from './candidate.ts';
import { earlyLimits } from './early-limits.ts';
import { faultAt, type Table } from './table.ts';

/** The short's own row explains this much less, by natural logarithm, than it and the dead maker together. */
const leastTorn = 2;
/** It is played where it could come to this share of all: what other answers explain as well is left. */
const leastShare = 0.02;
/** Played at a time, at most. */
export const mostLimitsAtATime = 2;

/**
 * Shorts whose rail reads as under the short, and the rest of the board as if one maker on the way to it had
 * stopped: the short's own row does not explain that, both together do.
 */
export function limitCandidates(
  table: Table,
  weights: Float64Array,
  logPriors: Float64Array,
  used: readonly Observation[],
  tried: ReadonlySet<string>,
): Candidate[] {
  const fit = fitOf(table.dictionary.rows, used);
  const bar = evidenceOfAll(weights, logPriors, fit) + Math.log(leastShare);
  const found: Candidate[] = [];
  for (const { short, dead, weak } of earlyLimits(table)) {
    const key = `limit ${short} ${dead}`;
    if (tried.has(key) || !(logPriors[short]! > -Infinity)) continue;
    if (!isPlayed(table.dictionary, short) || !isPlayed(table.dictionary, dead)) continue;
    let fits = 0;
    for (const { byRow } of used) fits += Math.max(byRow[short]!, byRow[dead]!);
    if (fits < fit[short]! + leastTorn) continue;
    const score = fits + logPriors[short]! + limitLogPrior;
    if (score > bar)
      found.push({ key, members: [short], faults: [faultAt(table, short), weak], score });
  }
  return found.sort((a, b) => b.score - a.score).slice(0, mostLimitsAtATime);
}
