import { findChip, findPart, netById, type Board, type NetId } from '../board/index.ts';
import type { Fault } from './fault.ts';

/** Pins that a cut trace or a break in the copper leaves on a net of their own. */
export interface Island {
  /** The net they were on, and the one they are on now. */
  from: NetId;
  net: NetId;
  places: { ref: string; pin: string }[];
}

/** The island a fault makes; null for faults that cut nothing off. */
export function islandOf(board: Board, fault: Fault): Island | null {
  if (fault.kind === 'trace-open') {
    const from =
      findChip(board, fault.part)?.pins.get(fault.pin) ??
      findPart(board, fault.part)?.pins.find((one) => one.name === fault.pin)?.net;
    if (!from) throw new Error(`no pin ${fault.pin} on ${fault.part}`);
    return {
      from,
      net: `${fault.part} ${fault.pin} (open)` as NetId,
      places: [{ ref: fault.part, pin: fault.pin }],
    };
  }
  if (fault.kind === 'break') {
    const along = netById(board, fault.net)?.along ?? [];
    const beyond = along.slice(fault.after + 1);
    return {
      from: fault.net,
      net: `${fault.net} (beyond the break)` as NetId,
      places: beyond.map(({ ref, pin }) => ({ ref, pin })),
    };
  }
  return null;
}
