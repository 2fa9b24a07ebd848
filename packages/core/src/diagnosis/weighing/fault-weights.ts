import { knownFactor } from './known-factor.ts';
import type { Known } from '../evidence/finding.ts';
import type { Table } from './table.ts';

/** Weight of each fault of the list, with what is known beside the readings. */
export function faultWeights(table: Table, known: Known): Float64Array {
  const { findings, tried, habits, doubted = [] } = known;
  if (findings.length + tried.length + habits.length + doubted.length === 0) return table.base;
  let weights = table.weighed.get(known);
  if (!weights) {
    weights = table.base.map(
      (weight, index) => weight * knownFactor(table.board, table.dictionary.faults[index]!, known),
    );
    table.weighed.set(known, weights);
  }
  return weights;
}
