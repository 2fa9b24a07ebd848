import type { Board, NetId } from '../../board/index.ts';
import type { Fault } from '../../faults/index.ts';
import type { Dictionary } from '../../dictionary/index.ts';
import { baseWeight } from './priors.ts';

/** What is known before anything was played, for whoever chooses what to play first. */
export interface PlayHints {
  /** By fault, what is left of it: it was weighed before, on another bench or version of the sheet. */
  known?: Float32Array | null;
  /** Nets at which the trouble sits by what was read. */
  near?: readonly NetId[];
}

/** A fault that touches one of these nets is played as if it failed so many times as often. A guess. */
const nearTimes = 30;
/** So much of what may be it can wait; it says nothing until it is played. */
const neglectedShare = 0.05;
/** So much of what touches the nets in doubt. */
const untoldShare = 0.1;

/**
 * Rows in the order in which they are worth playing: the healthy board, then what fails most often,
 * what touches the nets in doubt before the rest; where faults were weighed before, what they left.
 * After the first `enough` of them little is left that could still be it; all of them where nothing
 * was weighed. Before the `first` are played, most of what touches the nets in doubt, one of them could
 * look like the only one.
 */
export function likeliestFirst(
  board: Board,
  { faults, rowOf, rows }: Pick<Dictionary, 'faults' | 'rowOf' | 'rows'>,
  { known = null, near = [] }: PlayHints = {},
): { order: Int32Array; first: number; enough: number } {
  const touches = touching(board, new Set(near));
  const usual = new Float64Array(rows);
  const left = new Float64Array(rows);
  const nearby = new Float64Array(rows);
  faults.forEach((fault, index) => {
    const row = rowOf[index]!;
    const weight = baseWeight(board, fault);
    const isNear = touches(fault);
    if (isNear) nearby[row]! += weight;
    usual[row]! += weight * (isNear ? nearTimes : 1);
    left[row] = Math.max(left[row]!, known?.[index] ?? 0);
  });
  usual[0] = left[0] = Infinity;
  const order = Int32Array.from(usual.keys()).sort(
    (a, b) => (left[a] === left[b] ? 0 : left[b]! - left[a]!) || usual[b]! - usual[a]! || a - b,
  );
  return {
    order,
    // What was weighed before is a better guide than where it sits.
    first: known ? 1 : until(order, nearby, untoldShare),
    enough: known ? until(order, left, neglectedShare) : rows,
  };
}

/** How many rows from the front leave no more than `share` of what the rows weigh; row 0 always. */
function until(order: Int32Array, weights: Float64Array, share: number): number {
  let rest = 0;
  for (let row = 1; row < order.length; row++) rest += weights[row]!;
  const most = share * rest;
  let count = 1;
  while (count < order.length && rest > most) rest -= weights[order[count++]!]!;
  return count;
}

/** Whether a fault is one of these nets, of a pin on them or of a part with a pin on them. */
function touching(board: Board, nets: ReadonlySet<NetId>): (fault: Fault) => boolean {
  if (nets.size === 0) return () => false;
  const pins = new Map<string, ReadonlyMap<string, NetId>>([
    ...board.parts.map(
      (one) => [one.ref, new Map(one.pins.map((pin) => [pin.name, pin.net]))] as const,
    ),
    ...board.chips.map((one) => [one.ref, one.pins] as const),
  ]);
  return (fault) => {
    if ('net' in fault) return nets.has(fault.net);
    if ('nets' in fault) return fault.nets.some((net) => nets.has(net));
    if (!('part' in fault)) return false;
    const own = pins.get(fault.part);
    const named =
      'pins' in fault ? fault.pins : 'pin' in fault ? [fault.pin] : [...(own?.keys() ?? [])];
    return named.some((pin) => nets.has(own?.get(pin) as NetId));
  };
}
