import type { Board, Place } from './board.ts';

export type Side = 'top' | 'bottom';

/** The picture of a board drawn from the places on its sheet, where there is no photo. */
export interface DrawnPicture {
  /** In the sheet's units. */
  width: number;
  height: number;
  /** Whether the sheet gives any places at all. */
  isEmpty: boolean;
  /** Where a part, chip or point is, from 0 to 1 over the picture of its side; null where the sheet says nothing. */
  placeOf(ref: string): { side: Side; u: number; v: number } | null;
}

/** Room around the outermost places, in the sheet's units. */
const margin = 6;
/** A board nobody gave places for. */
const bare = { width: 120, height: 80 };

/**
 * The sheet's x runs to the right and y down, both seen from the top; the bottom side is drawn as it
 * is seen when the board is turned over about its upright edge: mirrored.
 */
export function drawnPicture(board: Board): DrawnPicture {
  const named = new Map<string, Place>();
  for (const one of [...board.parts, ...board.chips]) named.set(one.ref, one);
  for (const one of board.points) {
    const part = one.part === null ? undefined : named.get(one.part);
    named.set(one.id, one.x !== null ? one : (part ?? one));
  }
  const placed = [...named.values()].filter((one) => one.x !== null && one.y !== null);
  const isEmpty = placed.length === 0;
  const xs = placed.map((one) => one.x as number);
  const ys = placed.map((one) => one.y as number);
  const left = isEmpty ? 0 : Math.min(...xs) - margin;
  const up = isEmpty ? 0 : Math.min(...ys) - margin;
  const width = isEmpty ? bare.width : Math.max(...xs) + margin - left;
  const height = isEmpty ? bare.height : Math.max(...ys) + margin - up;
  return {
    width,
    height,
    isEmpty,
    placeOf(ref) {
      const at = named.get(ref);
      if (!at || at.x === null || at.y === null) return null;
      const side = at.side ?? 'top';
      const u = (at.x - left) / width;
      return { side, u: side === 'bottom' ? 1 - u : u, v: (at.y - up) / height };
    },
  };
}
