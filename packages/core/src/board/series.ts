import type { Part } from './board.ts';

/**
 * Parts that carry a rail on with next to no loss: judged by the drop across them, not by a rail's
 * tolerance. Resistors count up to 1 ohm (sense resistors, links).
 */
export function isSeriesPart(part: Part): boolean {
  if (!part.fitted) return false;
  switch (part.kind) {
    case 'fuse':
    case 'coil':
    case 'ferrite':
    case 'jumper':
      return true;
    case 'resistor':
      return part.value !== null && part.value <= 1;
    default:
      return false;
  }
}

export const isFet = (part: Part): boolean => part.kind === 'pfet' || part.kind === 'nfet';

/** Logic-level FETs for signals, by their small packages; the rest carry rails. */
export function isSmallFet(part: Part): boolean {
  return isFet(part) && /^(SOT-?(23|323|363|523|563)|SC-?70)/i.test(part.package);
}
