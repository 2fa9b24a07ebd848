import type { Fault } from '../../faults/index.ts';
import type { Weighed } from './observation.ts';
import { faultsAt, type Table } from './table.ts';

// A fault may come and go: a joint opens when it is warm and closes under a finger. What was read while the board
// was pushed or warm, and readings of one point that deny each other, are stints: in each the fault is there or it
// is not, and then the board reads as a healthy one.

/**
 * So many of the faults of a kind come and go: cracked joints and copper more than parts, shorts seldom. Guesses
 * by common practice, no source.
 */
const share = { joint: 0.2, part: 0.1, short: 0.04 } as const;
/** A fault of no list. */
export const unlistedShare = 0.05;

function shareOf(fault: Fault | undefined): number {
  switch (fault?.kind) {
    case 'open':
    case 'high':
    case 'trace-open':
    case 'break':
      return share.joint;
    case 'pins-short':
    case 'all-short':
    case 'pin-short':
    case 'short':
    case 'nets-joined':
      return share.short;
    default:
      return share.part;
  }
}

/** ln of two likelihoods at their shares; `part`: that of the second. */
const mix = (first: number, second: number, part: number): number => {
  const most = Math.max(first, second);
  return most === -Infinity
    ? -Infinity
    : most + Math.log((1 - part) * Math.exp(first - most) + part * Math.exp(second - most));
};

/** ln likelihood of all stints under a fault that is there throughout or comes and goes. */
export function stintsLog(
  stints: ReadonlyMap<string, readonly Weighed[]>,
  /** ln likelihood under the fault while it is there. */
  logOf: (observation: Weighed) => number,
  part: number,
): number {
  let [throughout, changing] = [0, 0];
  for (const list of stints.values()) {
    let [there, away] = [0, 0];
    for (const observation of list) {
      there += observation.strength * logOf(observation);
      away += observation.strength * observation.byRow[0]!;
    }
    throughout += there;
    changing += mix(there, away, 0.5);
  }
  return mix(throughout, changing, part);
}

/** What belongs to a stint, by stint; empty where nothing does. */
export function stintsOf(used: readonly Weighed[]): Map<string, Weighed[]> {
  const stints = new Map<string, Weighed[]>();
  for (const observation of used) {
    const { stint } = observation;
    if (stint !== undefined) stints.set(stint, [...(stints.get(stint) ?? []), observation]);
  }
  return stints;
}

/** By row: the ln likelihood of all stints together. */
export function stintsByRow(
  table: Table,
  stints: ReadonlyMap<string, readonly Weighed[]>,
): Float64Array | null {
  if (stints.size === 0) return null;
  return Float64Array.from({ length: table.dictionary.rows }, (_, row) =>
    stintsLog(stints, ({ byRow }) => byRow[row]!, shareOf(faultsAt(table, row)[0])),
  );
}
