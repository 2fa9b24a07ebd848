import {
  alignPictures,
  frameOf,
  onPicture,
  onSheet,
  type Frame,
  type Pair,
  type Side,
} from '@jiko/core/board';
import type { SheetRow } from '@jiko/core/sheet-edit';

/** From a picture to the sheet and back. */
export interface PlaceMap {
  toSheet(at: { u: number; v: number }): { x: number; y: number };
  toPicture(at: { x: number; y: number }): { u: number; v: number };
}

export interface Placed {
  ref: string;
  side: Side;
  x: number;
  y: number;
}

/** Rows that have a place; a side nobody wrote is the top. */
export const placedOf = (rows: readonly SheetRow[]): Placed[] =>
  rows.flatMap((row) => {
    const [x, y] = [Number(row['x'] || NaN), Number(row['y'] || NaN)];
    return row['name'] && Number.isFinite(x) && Number.isFinite(y)
      ? [{ ref: row['name'], side: row['side'] === 'bottom' ? 'bottom' : 'top', x, y }]
      : [];
  });

/**
 * What the picture shows: what is placed, and while most parts are not (`isSparse`) the whole of a board so wide,
 * or there would be no room for them.
 */
export function frameFor(
  placed: readonly Placed[],
  { wide, aspect, isSparse }: { wide: number; aspect: number; isSparse: boolean },
): Frame {
  const bare = { left: 0, up: 0, width: wide, height: wide / aspect };
  const own = frameOf(placed);
  if (!own) return bare;
  if (!isSparse) return own;
  const [left, up] = [Math.min(own.left, 0), Math.min(own.up, 0)];
  return {
    left,
    up,
    width: Math.max(own.left + own.width, bare.width) - left,
    height: Math.max(own.up + own.height, bare.height) - up,
  };
}

/**
 * How a picture of one side lies on the sheet. The drawing, and a photo of a board without any place yet, are
 * the frame itself; any other photo is fitted by parts that are placed on both (`anchors`), and null while
 * those do not decide it.
 */
export function placeMap(
  frame: Frame,
  side: Side,
  photo: { aspect: number; anchors: readonly Pair[] } | null,
): PlaceMap | null {
  const straight = {
    toSheet: (at: { u: number; v: number }) => onSheet(frame, side, at),
    toPicture: (at: { x: number; y: number }) => onPicture(frame, side, at),
  };
  if (!photo) return straight;
  const drawn = frame.width / frame.height;
  const back = photo.anchors.map(({ from, to }) => ({ from: to, to: from }));
  const there = alignPictures(photo.anchors, { from: photo.aspect, to: drawn });
  const here = alignPictures(back, { from: drawn, to: photo.aspect });
  if (!there || !here) return null;
  return {
    toSheet: (at) => straight.toSheet(there(at)),
    toPicture: (at) => here(straight.toPicture(at)),
  };
}
