import type { Board, Part } from './board.ts';
import type { NetId } from './ids.ts';

/**
 * Parts that carry a rail on with next to no loss: judged by the drop across them, not by a rail's
 * tolerance. Resistors count up to 1 ohm (sense resistors, links).
 */
export function isSeriesPart(part: Part): boolean {
  if (!part.fitted || part.isGuess) return false;
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

/** The fuse, coil, ferrite, link or sense resistor between two nets. */
function seriesPartBetween(board: Board, a: NetId, b: NetId): Part | null {
  return (
    board.parts.find(
      (part) =>
        isSeriesPart(part) &&
        part.pins.some((pin) => pin.net === a) &&
        part.pins.some((pin) => pin.net === b),
    ) ?? null
  );
}

/** What joins two nets in the way of a current: a series part, or a FET from drain to source. */
export function partBetween(board: Board, a: NetId, b: NetId): Part | null {
  const isOn = (part: Part, net: NetId): boolean =>
    part.pins.some((pin) => pin.name !== 'G' && pin.net === net);
  return (
    seriesPartBetween(board, a, b) ??
    board.parts.find((part) => part.fitted && isFet(part) && isOn(part, a) && isOn(part, b)) ??
    null
  );
}
