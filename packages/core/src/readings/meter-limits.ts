// What a hand meter, its leads and its tips add to what stands at a point, and the least it shows. Common
// practice, no source.

/** A probe that touches nothing, and a net with nothing on it, show this at most, in volts. */
export const nothingVolts = 0.25;
/** A net with more than this has something on it, in volts: a diode drop below an output counts. */
export const somethingVolts = 0.3;
/** Less a meter hardly shows as swinging, in volts. */
export const leastSwingVolts = 0.4;
/** Ohms of both leads and their contacts. */
export const leadOhms = {
  /** What a meter shows beside next to nothing. */
  usual: 0.2,
  /** Some zeroes are kept worse than others. */
  often: 0.3,
  /** No better than this is a resistor known that reads low. */
  most: 0.5,
  /** With tips on solder that is not clean: less than this from end to end is whole. */
  dirty: 2,
} as const;
/** The least step of millivolts, and what a contact adds, in volts. */
export const leastStepVolts = 0.0001;
