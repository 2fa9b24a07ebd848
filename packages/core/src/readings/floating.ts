/**
 * A net that nobody feeds floats: it may show up to so many volts, and no more than a third of what it
 * has when up. Common practice, no source.
 */
export const floatingVolts = (upVolts: number): number =>
  Math.min(0.75, Math.max(0.1, 0.35 * upVolts));
