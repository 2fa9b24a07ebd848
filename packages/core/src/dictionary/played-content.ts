import { contentHash } from '../base/index.ts';
import type { Board } from '../board/index.ts';

/** What no play reads: words, names besides the first, where a figure comes from. */
const words = new Set([
  'title',
  'notes',
  'valueText',
  'marking',
  'numbers',
  'aliases',
  'origin',
  'good',
]);
/** Nor these of the board as a whole. */
const ofTheBoard = new Set(['id', 'revision', 'hash', 'guessed', 'choices', 'points']);

const known = new WeakMap<Board, string>();

/**
 * Names what a play of every fault depends on, so that two versions of a sheet that differ in words
 * or points alone share their plays. What is not known to be without effect counts.
 */
export function playedContent(board: Board): string {
  const before = known.get(board);
  if (before !== undefined) return before;
  const electrical = Object.fromEntries(
    Object.entries(board).filter(([key]) => !ofTheBoard.has(key)),
  );
  const text = JSON.stringify(electrical, (key, value: unknown) =>
    words.has(key)
      ? undefined
      : value instanceof Map
        ? [...(value as Map<unknown, unknown>)]
        : value,
  );
  const name = contentHash(text);
  known.set(board, name);
  return name;
}
