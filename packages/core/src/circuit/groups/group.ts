import type { Node } from '../device.ts';

/**
 * All devices of one kind, laid out in typed arrays: what each adds to the equations, and the amps
 * through it. Newton's iteration around them is in operating-point.ts. Node 0 is ground; its row
 * and its slots are kept and never read.
 */
export interface Group {
  /** Takes over the devices' present values: siemens, volts, limits, on or off. */
  refresh(): void;
  /** Adds the devices, linearised at `volts`, to matrix and right-hand side. */
  stamp(volts: Float64Array, at: Stamping): void;
  /** Adds the amps into each node to `flow.sum` and their sizes to `flow.size`. */
  tally(volts: Float64Array, scale: number, flow: Flow): void;
  /** Amps through each device by its place in the circuit; what that means stands at `Solver.currents`. */
  currents(volts: Float64Array, scale: number, amps: Float64Array): void;
}

/** A group whose devices have knees that Newton may not jump across. */
export interface KneeGroup extends Group {
  /** Puts every device back into its regulated region. */
  reset(): void;
  /** Puts every device that is on into the region where these volts have it. */
  place(volts: Float64Array): void;
  /**
   * Moves each device at most one region on, so that the knee is landed on, never jumped. With
   * `oneOnly` it stops after one, which ends every merry-go-round. Returns whether any moved.
   */
  settle(volts: Float64Array, scale: number, oneOnly: boolean): boolean;
}

export interface Stamping {
  values: Float64Array;
  /** By node, ground included. */
  rhs: Float64Array;
  /** Sources at this part of their volts. */
  scale: number;
  /** Whether a switching regulator's input power stands in the matrix with its slope. */
  exact: boolean;
  /** How much of a regulator's new input amps is believed when not exact: less when it goes to and fro. */
  trust: number;
  /** In the first iteration of all: nothing is known but the volts. */
  isFirst: boolean;
  /** In the first iterations, while volts are still far off. */
  early: boolean;
}

export interface Flow {
  sum: Float64Array;
  size: Float64Array;
}

export type SlotOf = (row: Node, column: Node) => number;

/** One device with its place in the circuit. */
export interface Placed<D> {
  device: D;
  index: number;
}

export const zero = 0;
export const holding = 1;
export const limiting = 2;

/** Plain loops: the `from` of typed arrays goes by an iterator and is many times slower. */
export function floats<T>(items: readonly T[], value: (item: T) => number): Float64Array {
  const array = new Float64Array(items.length);
  for (let i = 0; i < items.length; i++) array[i] = value(items[i]!);
  return array;
}
export function integers<T>(items: readonly T[], value: (item: T) => number): Int32Array {
  const array = new Int32Array(items.length);
  for (let i = 0; i < items.length; i++) array[i] = value(items[i]!);
  return array;
}

/** Slots of a two-node conductance: aa, ab, ba, bb for each device. */
export function pairSlots(a: Int32Array, b: Int32Array, slot: SlotOf): Int32Array {
  const slots = new Int32Array(a.length * 4);
  for (let d = 0; d < a.length; d++) {
    const from = a[d]!;
    const to = b[d]!;
    slots[d * 4] = slot(from, from);
    slots[d * 4 + 1] = slot(from, to);
    slots[d * 4 + 2] = slot(to, from);
    slots[d * 4 + 3] = slot(to, to);
  }
  return slots;
}

export function addPair(
  values: Float64Array,
  slots: Int32Array,
  device: number,
  siemens: number,
): void {
  const at = device * 4;
  values[slots[at] as number]! += siemens;
  values[slots[at + 1] as number]! -= siemens;
  values[slots[at + 2] as number]! -= siemens;
  values[slots[at + 3] as number]! += siemens;
}

export function addFlow(flow: Flow, from: Node, to: Node, amps: number): void {
  const size = Math.abs(amps);
  flow.sum[from]! -= amps;
  flow.sum[to]! += amps;
  flow.size[from]! += size;
  flow.size[to]! += size;
}
