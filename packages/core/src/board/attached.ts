import type { Board } from './board.ts';

/** The board with some of its attachments unplugged: their parts and chips are as if not fitted. */
export function withoutAttachments(board: Board, unplugged: readonly string[]): Board {
  if (unplugged.length === 0) return board;
  const stays = (on: string | null): boolean => on === null || !unplugged.includes(on);
  return {
    ...board,
    parts: board.parts.map((part) => (stays(part.on) ? part : { ...part, fitted: false })),
    chips: board.chips.map((chip) => (stays(chip.on) ? chip : { ...chip, fitted: false })),
  };
}
