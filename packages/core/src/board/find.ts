import type { Board, Chip, Net, Part } from './board.ts';

// Parts, chips and nets by their names. A board never changes: each list is indexed once.

/** The part with this reference, fitted or not; undefined where the board has none. */
export const findPart = ({ parts }: Pick<Board, 'parts'>, ref: string | null | undefined) =>
  indexed(parts, refOf).get(ref ?? '');

/** The chip with this reference, fitted or not; undefined where the board has none. */
export const findChip = ({ chips }: Pick<Board, 'chips'>, ref: string | null | undefined) =>
  indexed(chips, refOf).get(ref ?? '');

/** Whatever has this reference; undefined where the board has nothing of that name. */
export const findPartOrChip = (board: Pick<Board, 'parts' | 'chips'>, ref: string | null) =>
  findPart(board, ref) ?? findChip(board, ref);

/** The net with exactly this id; undefined where the board has none. */
export const netById = ({ nets }: Pick<Board, 'nets'>, id: string | null | undefined) =>
  indexed(nets, idOf).get(id ?? '');

const refOf = ({ ref }: Part | Chip): string => ref;
const idOf = ({ id }: Net): string => id;

const indexes = new WeakMap<readonly object[], Map<string, unknown>>();
function indexed<T extends object>(list: readonly T[], nameOf: (item: T) => string) {
  let index = indexes.get(list) as Map<string, T> | undefined;
  if (index?.size !== list.length) {
    index = new Map();
    // The first of a name counts, as in a search from the beginning.
    for (const item of list) if (!index.has(nameOf(item))) index.set(nameOf(item), item);
    indexes.set(list, index);
  }
  return index;
}
