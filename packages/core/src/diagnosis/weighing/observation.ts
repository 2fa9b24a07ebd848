import type { PoweredPhase } from '../../readings/index.ts';

/** Something observed: its log-likelihood under each row of the dictionary, and under none of them. */
export interface Observation {
  /** The reading it is; null for signs and the complaint. */
  id: string | null;
  text: string;
  byRow: Float64Array;
  byNone: number;
  /** Where it was taken, and what a fault right there, in no list, would make of it; missing for signs. */
  at?: {
    nets: readonly number[];
    isCold: boolean;
    byLoose: number;
    /** Where it was volts to ground that stood still. */
    steady: { phase: PoweredPhase; volts: number } | null;
  };
  /** A stretch in which a fault that comes and goes was there or was not: see comes-and-goes.ts. */
  stint?: string;
  /** Denied by a reading of the same point with other parts on the board. */
  isDenied?: boolean;
  /**
   * By single row and step (`severitySteps` of them): its log-likelihood for severities on the way to
   * the next milder and the next harder one, which must explain all readings together.
   */
  between?: Float32Array;
  /** By fault, where faults of one row differ: taken on another bench. */
  byFault?: Float64Array;
}

/** An observation with how much of its log-likelihood counts. */
export interface Weighed extends Observation {
  strength: number;
}
