import type { Node } from './device.ts';

export type OperatingPoint =
  | {
      status: 'settled';
      /** Volts per node, ground included as 0. */
      volts: Float64Array;
      iterations: number;
    }
  | {
      status: 'stalled';
      iterations: number;
      worstDevice: string;
      worstNode: Node;
      residualAmps: number;
      /** Where a bus that cannot be held was last seen on its way down or up, all else at rest. */
      onTheWay?: Float64Array;
    };

/** How Newton is run: with a regulator's input power in the matrix, or lagging behind. */
export interface Manner {
  exact: boolean;
  ground: number;
  scale: number;
  mostIterations: number;
  /** Every node drawn to where it was by this many siemens: a step of time with capacitors. */
  anchor?: { siemens: number; volts: Float64Array };
  /** Something that holds one node at some volts: a meter at none. */
  lead?: { node: Node; siemens: number; volts: number };
}
