import type { Board, Place } from './board.ts';

export type Side = 'top' | 'bottom';

/** The part of the sheet's plane a picture shows, in the sheet's units. */
export interface Frame {
  left: number;
  up: number;
  width: number;
  height: number;
}

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

/** What shows all of these places, with room around; null where there are none. */
export function frameOf(places: readonly { x: number; y: number }[]): Frame | null {
  if (places.length === 0) return null;
  const [xs, ys] = [places.map((one) => one.x), places.map((one) => one.y)];
  const [left, up] = [Math.min(...xs) - margin, Math.min(...ys) - margin];
  return {
    left,
    up,
    width: Math.max(...xs) + margin - left,
    height: Math.max(...ys) + margin - up,
  };
}

/** Where a place of the sheet lies on the picture of a side, from 0 to 1: the bottom side is mirrored. */
export function onPicture(
  { left, up, width, height }: Frame,
  side: Side,
  { x, y }: { x: number; y: number },
): { u: number; v: number } {
  const u = (x - left) / width;
  return { u: side === 'bottom' ? 1 - u : u, v: (y - up) / height };
}

/** The place of the sheet under a click on the picture of a side, to a tenth of its unit. */
export function onSheet(
  { left, up, width, height }: Frame,
  side: Side,
  { u, v }: { u: number; v: number },
): { x: number; y: number } {
  const tenth = (value: number): number => Math.round(value * 10) / 10;
  return {
    x: tenth(left + (side === 'bottom' ? 1 - u : u) * width),
    y: tenth(up + v * height),
  };
}

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
  const placed = [...named.values()].flatMap(({ x, y }) =>
    x !== null && y !== null ? [{ x, y }] : [],
  );
  const shown = frameOf(placed);
  const frame = shown ?? { left: 0, up: 0, ...bare };
  return {
    width: frame.width,
    height: frame.height,
    isEmpty: shown === null,
    placeOf(ref) {
      const at = named.get(ref);
      if (!at || at.x === null || at.y === null) return null;
      const side = at.side ?? 'top';
      return { side, ...onPicture(frame, side, { x: at.x, y: at.y }) };
    },
  };
}
