/**
 * A net that nobody feeds floats: it may show up to so many volts, and no more than a third of what it
 * has when up. Common practice, no source.
 */
export const floatingVolts = (upVolts: number): number =>
  Math.min(0.75, Math.max(0.1, 0.35 * upVolts));

/** An output that holds a line low leaves up to so much on it: VOL of 3.3 V logic (JESD8C.01, from memory). */
export const lowLevelVolts = 0.4;
