import { withRoom, type Dictionary, type RowPlayer } from '../../dictionary/index.ts';
import type { Observation } from './observation.ts';
import { setLogPrior } from './row-priors.ts';
import { blownLogPrior } from './blown.ts';
import { fitOf, leastScore, type Candidate } from './candidate.ts';
import { limitCandidates, mostLimitsAtATime } from './limits.ts';
import { mostSizesAtATime, noteSizes, sizeCandidates, type Ways } from './sizes.ts';
import { faultAt, withSets, type Table } from './table.ts';

/** Several faults at once, and sizes between the listed ones, grown where no row explains what was seen. */
export interface Several {
  /** The single faults and all sets grown so far. */
  table: Table;
  /**
   * Plays the most promising sets and sizes not played yet; false where there is none. Where what
   * stands explains all that was seen, only what has the same right to be looked at as closely.
   */
  grow(
    weights: Float64Array,
    logPriors: Float64Array,
    used: readonly Observation[],
    isExplained?: boolean,
  ): boolean;
}

/** So much less likely than under the best row, by natural logarithm, a reading is not explained. */
const unexplained = 4;
/** Sets are grown from so many of the best rows. */
const mostSeeds = 24;
/** Sets played at a time: some fifteen milliseconds each. */
const mostAtATime = 8;
/** Sets kept; beyond, growing begins anew from the singles. */
const mostKept = 280;
const mostFaults = 3;

/** Readings and signs a row does not explain though some other does: its conflict. */
export function conflictOf(row: number, used: readonly Observation[]): Observation[] {
  return used.filter((one) => one.byRow[row]! < bestOf(one) - unexplained);
}

const best = new WeakMap<Float64Array, number>();
function bestOf({ byRow }: Observation): number {
  let most = best.get(byRow);
  if (most === undefined)
    best.set(byRow, (most = byRow.reduce((a, b) => Math.max(a, b), -Infinity)));
  return most;
}

/** Whether what was seen wants more than one fault: every single one leaves something unexplained. */
export function fitsBadly(weights: Float64Array, used: readonly Observation[]): boolean {
  const none = weights.at(-1)!;
  if (none > 0.15) return true;
  let conflicts = 0;
  for (let row = 0; row < weights.length - 1; row++)
    if (weights[row]! > 0.01) conflicts += weights[row]! * conflictOf(row, used).length;
  return conflicts > 0.5;
}

/** Of a list by row with "none of these" at its end: the single rows, and that end. */
const singlesOf = ({ singles }: Table, list: Float64Array): Float64Array =>
  Float64Array.from({ length: singles + 1 }, (_, row) =>
    row < singles ? list[row]! : list.at(-1)!,
  );

export function growSeveral(
  base: Table,
  classOf: ArrayLike<number>,
  player: () => RowPlayer,
): Several {
  const known = new Set<string>();
  const ways: Ways = new Map();
  let roomy: Dictionary | null = null;
  const several: Several = {
    table: base,
    grow(weights, logPriors, used, isExplained = false) {
      let [standing, priors] = [weights, logPriors];
      const most = mostAtATime + mostSizesAtATime + mostLimitsAtATime;
      if (several.table.sets.length > mostKept - most) {
        several.table = base;
        known.clear();
        ways.clear();
        // What stood without them is where it begins anew.
        [standing, priors] = [singlesOf(base, weights), singlesOf(base, logPriors)];
      }
      const limits = limitCandidates(several.table, standing, priors, used, known);
      const chosen = [
        ...sizeCandidates(several.table, standing, priors, used, ways, isExplained),
        ...limits,
        ...(isExplained ? [] : candidates(several.table, standing, priors, used, known, classOf)),
      ];
      if (chosen.length === 0) return false;
      const { sets, played } = several.table;
      roomy ??= withRoom(base.dictionary, mostKept);
      const rows = base.singles + sets.length;
      for (const [index, { key, faults }] of chosen.entries()) {
        known.add(key);
        player().write(roomy, rows + index, faults);
      }
      noteSizes(ways, chosen, rows);
      const grown = { ...roomy, rows: rows + chosen.length };
      several.table = withSets(
        base,
        grown,
        [...sets, ...chosen.map((one) => one.members)],
        [...played, ...chosen.map((one) => one.faults)],
      );
      return true;
    },
  };
  return several;
}

/**
 * Sets that could explain what the best rows leave open, by what their members explain alone: for
 * each of the best rows only faults that explain some of its conflict are added, so that pairs are
 * never enumerated.
 */
function candidates(
  table: Table,
  weights: Float64Array,
  logPriors: Float64Array,
  used: readonly Observation[],
  known: ReadonlySet<string>,
  classOf: ArrayLike<number>,
): Candidate[] {
  const { singles, sets, dictionary } = table;
  const rows = dictionary.rows;
  const fit = fitOf(rows, used);
  const bar = leastScore(weights, logPriors, fit);
  const seeds = [...fit.keys()]
    .filter((row) => row > 0 && logPriors[row]! > -Infinity)
    .sort((a, b) => fit[b]! + logPriors[b]! - fit[a]! - logPriors[a]!)
    .slice(0, mostSeeds);
  const found = new Map<string, Candidate>();
  for (const seed of seeds) {
    const conflict = conflictOf(seed, used);
    const members = seed < singles ? [seed] : sets[seed - singles]!;
    // Another size stands for its row, which is a seed itself.
    if (seed >= singles && members.length === 1) continue;
    if (conflict.length === 0 || members.length === mostFaults) continue;
    for (let row = 1; row < singles; row++) {
      if (!(logPriors[row]! > -Infinity)) continue;
      if (!conflict.some(({ byRow }) => byRow[row]! > byRow[seed]! + 2)) continue;
      const set = [...members, row].sort((a, b) => a - b);
      const key = set.join();
      if (known.has(key) || found.has(key) || members.some((one) => sameTrouble(table, one, row)))
        continue;
      const caused = blownLogPrior(table, set, logPriors);
      let score = setLogPrior(set, logPriors, undefined, caused);
      for (const { byRow } of used) score += together(byRow, seed, row);
      const faults = set.map((one) => faultAt(table, one));
      if (score > bar) found.set(key, { key, members: set, faults, score });
    }
  }
  // One severity of each kind of pair first: the others follow where it fits.
  const perKind = new Map<string, number>();
  return [...found.values()]
    .sort((a, b) => b.score - a.score)
    .filter(({ members }) => {
      const kind = members
        .map((row) => classOf[row])
        .sort()
        .join();
      perKind.set(kind, (perKind.get(kind) ?? 0) + 1);
      return perKind.get(kind)! <= 2;
    })
    .slice(0, mostAtATime);
}

/**
 * What two faults would make of a reading, guessed from each alone: the one that leaves it healthy
 * has no say.
 */
function together(byRow: Float64Array, a: number, b: number): number {
  const [healthy, left, right] = [byRow[0]!, byRow[a]!, byRow[b]!];
  if (Math.abs(left - healthy) < 0.3) return right;
  if (Math.abs(right - healthy) < 0.3) return left;
  return Math.max(left, right);
}

/** Two sizes of the same short are one trouble, and so is the same failing of one part twice; a part may fail in two ways. */
function sameTrouble(table: Table, a: number, b: number): boolean {
  if (a === b || table.neighbours[a]!.includes(b)) return true;
  const [left, right] = [faultAt(table, a), faultAt(table, b)];
  const isSamePart = 'part' in left && 'part' in right && left.part === right.part;
  return isSamePart && left.kind === right.kind && !('pin' in left);
}
