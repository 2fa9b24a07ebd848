import { findChip, findPart, type Board, type NetId } from '../board/index.ts';
import type { Fault } from './fault.ts';

/** The net a fault pulls to ground; null for other faults. */
export function groundedNet(board: Board, fault: Fault): NetId | null {
  switch (fault.kind) {
    case 'short':
      return fault.net;
    case 'pin-short':
      return findChip(board, fault.part)?.pins.get(fault.pin) ?? null;
    case 'pins-short': {
      const part = findPart(board, fault.part);
      const chip = findChip(board, fault.part);
      const ends = fault.pins.map(
        (pin) => chip?.pins.get(pin) ?? part?.pins.find(({ name }) => name === pin)?.net,
      );
      if (!ends.includes(board.ground)) return null;
      return ends.find((net) => net !== undefined && net !== board.ground) ?? null;
    }
    default:
      return null;
  }
}
