import type { Unit } from '../units/index.ts';

/** What a figure of a sum is in; besides the units of the core those a bench speaks of. */
export type SumUnit =
  | Unit
  | 'percent'
  | 'plain'
  | 'millimetres'
  | 'square millimetres'
  | 'micrometres'
  | 'amp-hours'
  | 'joules'
  | 'text';

/** One thing a sum asks for. */
export interface SumInput {
  key: string;
  title: string;
  unit: SumUnit;
  /** What stands there first: a usual value, as typed. */
  usual: string;
}

/** One figure a sum gives; text for markings. */
export interface SumResult {
  title: string;
  value: number | string;
  unit: SumUnit;
}

export interface SumAnswer {
  results: SumResult[];
  /** What follows from the figures, a line each. */
  says: string[];
  /** What it could hurt, with its number; empty where nothing can. */
  cautions: string[];
}

/** Numbers by key in the units asked for, and texts as typed. */
export interface SumGiven {
  number(key: string): number;
  text(key: string): string;
}

/** A calculation of the bench: what it asks, how it is worked out, where that stands, where it ends. */
export interface Sum {
  id: string;
  title: string;
  /** The question it answers, as one would put it at the bench. */
  asks: string;
  formula: string;
  source: string;
  limits: string;
  inputs: readonly SumInput[];
  work(given: SumGiven): SumAnswer;
}

export const answer = (
  results: SumResult[],
  says: string[] = [],
  cautions: string[] = [],
): SumAnswer => ({ results, says, cautions });

export const input = (key: string, title: string, unit: SumUnit, usual: string): SumInput => ({
  key,
  title,
  unit,
  usual,
});

/** Resistors side by side; one of zero ohms is all there is. */
export const parallel = (...ohms: readonly number[]): number =>
  ohms.some((one) => one === 0)
    ? 0
    : 1 / ohms.filter((one) => Number.isFinite(one)).reduce((sum, one) => sum + 1 / one, 0);
