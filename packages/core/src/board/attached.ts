import type { Board } from './board.ts';

/** What is off the board for now: attachments unplugged, parts lifted or taken off. */
export interface OffBoard {
  unplugged?: readonly string[] | undefined;
  lifted?: readonly string[] | undefined;
}

/** Whether a part or chip is off the board; what a fault adds to a part (`C50 short`) goes with it. */
export const isOff = (
  { unplugged = [], lifted = [] }: OffBoard,
  part: { ref: string; on: string | null },
): boolean =>
  lifted.some((ref) => part.ref === ref || part.ref.startsWith(`${ref} `)) ||
  (part.on !== null && unplugged.includes(part.on));

/** The board as it stands on the bench: what is off it is as if not fitted. */
export function asOnBench(board: Board, off: OffBoard): Board {
  if (!off.unplugged?.length && !off.lifted?.length) return board;
  const as = <T extends { ref: string; on: string | null; fitted: boolean }>(part: T): T =>
    isOff(off, part) ? { ...part, fitted: false } : part;
  return { ...board, parts: board.parts.map(as), chips: board.chips.map(as) };
}
