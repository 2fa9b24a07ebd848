import { divider, dividerFault, feedback, fetState, follower, pullUp } from './levels.ts';
import { markingSum, preferredValues } from './markings.ts';
import { boost, capacitorEnergy, charge, inCircuit, injection, senseResistor } from './power.ts';
import type { Sum } from './sum.ts';
import { rcTime } from './timing.ts';
import { dropDistance, fuse, gauge, traceCurrent } from './wires.ts';

export type { Sum, SumAnswer, SumInput, SumResult, SumUnit } from './sum.ts';
export { formatSum, workSum, type Worked } from './work.ts';

/** Every calculation of the bench, in the order they are listed. */
export const sums: readonly Sum[] = [
  divider,
  dividerFault,
  feedback,
  fetState,
  follower,
  pullUp,
  senseResistor,
  inCircuit,
  rcTime,
  dropDistance,
  injection,
  fuse,
  gauge,
  traceCurrent,
  boost,
  charge,
  capacitorEnergy,
  preferredValues,
  markingSum,
];
export { resistorMarking, threeDigits } from './markings.ts';
export { copperOhmMetres, gaugeMillimetres } from './wires.ts';
