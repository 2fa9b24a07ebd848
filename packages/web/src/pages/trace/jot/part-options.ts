import type { Board } from '@jiko/core/board';

/** Parts and chips of a board to choose from, by reference and title. */
export const partOptions = (board: Board): { value: string; label: string }[] =>
  [...board.parts, ...board.chips.filter((chip) => !chip.virtual)].map((one) => ({
    value: one.ref,
    label: one.title ? `${one.ref} ${one.title}` : one.ref,
  }));
