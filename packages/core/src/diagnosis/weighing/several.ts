import { withRoom, type Dictionary, type RowPlayer } from '../../powerup/index.ts';
import type { Observation } from '../evidence/evidence.ts';
import { setLogPrior } from '../evidence/observations.ts';
import { faultAt, withSets, type Table } from './table.ts';

/** Several faults at once, grown where no single one explains what was seen. */
export interface Several {
  /** The single faults and all sets grown so far. */
  table: Table;
  /** Plays the most promising sets not played yet; false where there is none. */
  grow(weights: Float64Array, logPriors: Float64Array, used: readonly Observation[]): boolean;
}

/** So much less likely than under the best row, by natural logarithm, a reading is not explained. */
const unexplained = 4;
/** Sets are grown from so many of the best rows. */
const mostSeeds = 24;
/** Sets played at a time: some fifteen milliseconds each. */
const mostAtATime = 8;
/** Sets kept; beyond, growing begins anew from the singles. */
const mostKept = 180;
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

/** As likely as this, against what stands now, a set must look before it is played. */
const leastPromise = 1e-3;

interface Candidate {
  members: number[];
  score: number;
}

export function growSeveral(
  base: Table,
  classOf: ArrayLike<number>,
  player: () => RowPlayer,
): Several {
  const known = new Set<string>();
  let roomy: Dictionary | null = null;
  const several: Several = {
    table: base,
    grow(weights, logPriors, used) {
      if (several.table.sets.length > mostKept - mostAtATime) {
        several.table = base;
        known.clear();
        return false;
      }
      const chosen = candidates(several.table, weights, logPriors, used, known, classOf);
      if (chosen.length === 0) return false;
      for (const { members } of chosen) known.add(members.join());
      const { sets } = several.table;
      roomy ??= withRoom(base.dictionary, mostKept);
      const rows = base.singles + sets.length;
      for (const [index, { members }] of chosen.entries()) {
        const faults = members.map((row) => faultAt(base, row));
        player().write(roomy, rows + index, faults);
      }
      const grown = { ...roomy, rows: rows + chosen.length };
      several.table = withSets(base, grown, [...sets, ...chosen.map((one) => one.members)]);
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
  const fit = new Float64Array(rows);
  for (const { byRow } of used) for (let row = 0; row < rows; row++) fit[row]! += byRow[row]!;
  let bar = Math.log(weights[rows]!) + evidenceOfAll(weights, logPriors, fit);
  bar += Math.log(leastPromise);
  const seeds = [...fit.keys()]
    .filter((row) => row > 0 && logPriors[row]! > -Infinity)
    .sort((a, b) => fit[b]! + logPriors[b]! - fit[a]! - logPriors[a]!)
    .slice(0, mostSeeds);
  const found = new Map<string, Candidate>();
  for (const seed of seeds) {
    const conflict = conflictOf(seed, used);
    const members = seed < singles ? [seed] : sets[seed - singles]!;
    if (conflict.length === 0 || members.length === mostFaults) continue;
    for (let row = 1; row < singles; row++) {
      if (!(logPriors[row]! > -Infinity)) continue;
      if (!conflict.some(({ byRow }) => byRow[row]! > byRow[seed]! + 2)) continue;
      const set = [...members, row].sort((a, b) => a - b);
      const key = set.join();
      if (known.has(key) || found.has(key) || members.some((one) => sameTrouble(table, one, row)))
        continue;
      let score = setLogPrior(set, logPriors);
      for (const { byRow } of used) score += together(byRow, seed, row);
      if (score > bar) found.set(key, { members: set, score });
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

/** ln of what all rows explain together, from any of them: their posterior is known. */
function evidenceOfAll(weights: Float64Array, logPriors: Float64Array, fit: Float64Array): number {
  let row = 0;
  for (let one = 0; one < fit.length; one++) if (weights[one]! > weights[row]!) row = one;
  return logPriors[row]! + fit[row]! - Math.log(weights[row]!);
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
