import type { Fault } from '../../faults/index.ts';
import type { Observation } from './observation.ts';
import { deadMaker } from './early-limits.ts';
import { faultWeights } from './fault-weights.ts';
import type { Known } from '../evidence/finding.ts';
import type { Table } from './table.ts';

/** By what shares the faults of a row stand for it. */
export interface Mixing {
  known: Known;
  /** Replaced, or never there. */
  isOut: (fault: Fault) => boolean;
}

/**
 * What a reading taken on another bench tells of the faults and rows of this one. Faults of one row
 * here may read differently there, so each keeps its own likelihood; a row has that of its faults by
 * their shares.
 */
export function carriedOver(
  table: Table,
  other: Table,
  there: Observation,
  mixing: Mixing,
): Observation {
  const byFault = Float64Array.from(
    table.dictionary.faults,
    (_, index) => there.byRow[other.dictionary.rowOf[index]!]!,
  );
  const { id, text, byNone, at } = there;
  return {
    id,
    text,
    byNone,
    ...(at ? { at } : {}),
    byRow: mixed(table, byFault, there.byRow[0]!, mixing),
    byFault,
  };
}

/** Several readings from other benches taken together: a fault must explain them all. */
export function jointlyCarried(
  table: Table,
  carried: readonly Observation[],
  mixing: Mixing,
): Observation | null {
  const [first, ...rest] = carried;
  if (!first?.byFault) return null;
  const byFault = first.byFault.slice();
  let [healthy, byNone] = [first.byRow[0]!, first.byNone];
  for (const one of rest) {
    byFault.forEach((log, index) => (byFault[index] = log + (one.byFault?.[index] ?? 0)));
    healthy += one.byRow[0]!;
    byNone += one.byNone;
  }
  return { id: null, text: '', byRow: mixed(table, byFault, healthy, mixing), byNone, byFault };
}

/** ln likelihood of each row from that of its faults, by their shares; of sets, from their members. */
function mixed(
  table: Table,
  byFault: Float64Array,
  healthy: number,
  { known, isOut }: Mixing,
): Float64Array {
  const { dictionary, singles, sets, played } = table;
  const byKind = faultWeights(table, known);
  const weights = new Float64Array(singles);
  const sums = new Float64Array(singles);
  dictionary.faults.forEach((fault, index) => {
    if (isOut(fault)) return;
    const row = dictionary.rowOf[index]!;
    const weight = byKind[index]!;
    weights[row]! += weight;
    sums[row]! += weight * Math.exp(byFault[index]!);
  });
  const byRow = new Float64Array(dictionary.rows);
  for (let row = 1; row < singles; row++)
    byRow[row] = weights[row]! > 0 ? Math.log(sums[row]! / weights[row]!) : healthy;
  byRow[0] = healthy;
  sets.forEach((members, index) => {
    // Of several faults it is guessed from each alone: what leaves it healthy has no say.
    const said = members.map((row) => byRow[row]!).filter((log) => Math.abs(log - healthy) > 0.3);
    const guessed = said.length > 0 ? Math.max(...said) : healthy;
    // A maker that gives up early does so there too.
    const dead = deadMaker(table, played[index]![1]);
    byRow[singles + index] = dead === null ? guessed : Math.min(guessed, byRow[dead]!);
  });
  return byRow;
}
