// What a fed short warms, and what of it is seen. Kelvin a watt on a board: common practice, no source.

/** A small part on a board spreads its heat into it: so many kelvin for a watt at its own spot. */
export const kelvinPerWatt = 30;
/** The least a camera tells from its own noise, in kelvin: a usual figure of hand-held ones, from memory. */
export const cameraFloorKelvin = 0.5;
/** Warm spots run together nearer than this. */
export const spreadMillimetres = 6;
/** Known to about so much of itself. */
const riseSpread = 0.6;

/** Kelvin above the board around it, for so many watts in one part. */
export const expectedRise = (watts: number): number => watts * kelvinPerWatt;

/** How likely a camera shows a part that turns so many watts to heat: clear at four times its floor. */
export function seenChance(watts: number): number {
  const rise = expectedRise(watts);
  if (rise <= 0) return 0;
  return logistic((Math.log(rise) - Math.log(3 * cameraFloorKelvin)) / (riseSpread / 1.6));
}

export type Seen = 'clearly' | 'perhaps' | 'hardly';
export const seenWord = (watts: number): Seen => {
  const chance = seenChance(watts);
  return chance >= 0.85 ? 'clearly' : chance >= 0.35 ? 'perhaps' : 'hardly';
};

const logistic = (x: number): number => 1 / (1 + Math.exp(-x));
