/** Which way a text runs: 0 to the right, 90 downwards, 180 upside down, 270 upwards. */
export type Turn = 0 | 90 | 180 | 270;

/** A box on a page, in points (1/72 inch) from its upper left corner, y downwards. */
export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** A piece of text as the document has it: part of a name, a name, or several words. */
export interface PageRun extends Box {
  text: string;
  turn: Turn;
}

/** A straight stroke: x1, y1, x2, y2. */
export type PageLine = readonly [number, number, number, number];

/** What one page of a document holds, as far as a schematic is read from it. */
export interface PageContent {
  /** From 1. */
  page: number;
  width: number;
  height: number;
  runs: readonly PageRun[];
  /** Strokes that lie level or upright, and belong to no closed or slanted figure: wires, most of them. */
  wires: readonly PageLine[];
  /** Closed rectangles: chips, resistors, frames. */
  boxes: readonly Box[];
}

export const middleOf = ({ x, y, w, h }: Box): { x: number; y: number } => ({
  x: x + w / 2,
  y: y + h / 2,
});

/** How far two boxes are apart, in points; 0 where they meet. */
export function apart(a: Box, b: Box): number {
  const across = Math.max(0, a.x - (b.x + b.w), b.x - (a.x + a.w));
  const down = Math.max(0, a.y - (b.y + b.h), b.y - (a.y + a.h));
  return Math.hypot(across, down);
}
