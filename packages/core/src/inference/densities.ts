// Densities that likelihoods are made of.

const halfLog2Pi = Math.log(Math.sqrt(2 * Math.PI));

/** Gaussian density at a distance from its middle; both in the unit of what is read. */
export const normal = (distance: number, sigma: number): number =>
  Math.exp(-0.5 * (distance / sigma) ** 2 - halfLog2Pi) / sigma;

/** Even between two values, 0 outside. */
export const uniform = (read: number, low: number, high: number): number =>
  high > low && read >= low && read <= high ? 1 / (high - low) : 0;

/** Even between two values, with gaussian ends of this width. */
export function softUniform(read: number, low: number, high: number, sigma: number): number {
  const outside = Math.max(0, low - read, read - high);
  return Math.exp(-0.5 * (outside / sigma) ** 2) / (high - low + sigma * Math.sqrt(2 * Math.PI));
}

/** Logistic step: near 1 where `above` is well above 0, in units of `width`. */
export const step = (above: number, width: number): number => 1 / (1 + Math.exp(-above / width));
