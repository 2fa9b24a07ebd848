import type { Box, PageContent, PageLine } from './page.ts';

/** Strokes that touch, drawn as one: most likely one net. */
export interface Wire {
  lines: PageLine[];
  /** Ends that touch no other stroke of it: where names and pins are. */
  ends: WireEnd[];
  /** It ends in the figure of ground. */
  isGround: boolean;
}

export interface WireEnd {
  x: number;
  y: number;
  way: 'level' | 'upright';
}

/** Strokes that come this near, in points, are drawn as touching. */
const touching = 0.9;
/** Shorter than this a stroke alone is part of a figure: a plate, a bar. */
const shortest = 2;

const isLevel = ([, y1, , y2]: PageLine): boolean => Math.abs(y1 - y2) < 0.5;

/** How far a point is from a stroke, in points. */
export function farFromLine(x: number, y: number, [x1, y1, x2, y2]: PageLine): number {
  const across = Math.max(0, Math.min(x1, x2) - x, x - Math.max(x1, x2));
  const down = Math.max(0, Math.min(y1, y2) - y, y - Math.max(y1, y2));
  return Math.hypot(across, down);
}

/** How far a box is from a stroke, in points. */
export function boxFromLine(box: Box, [x1, y1, x2, y2]: PageLine): number {
  const across = Math.max(0, Math.min(x1, x2) - (box.x + box.w), box.x - Math.max(x1, x2));
  const down = Math.max(0, Math.min(y1, y2) - (box.y + box.h), box.y - Math.max(y1, y2));
  return Math.hypot(across, down);
}

/**
 * Wires of a page: strokes joined where an end of one lies on another. Two that only cross stay two, as
 * draughtsmen mean it.
 */
export function wiresOf({ wires: lines, width, height }: PageContent): Wire[] {
  // Frames and rules of tables go over the whole page.
  const inside = lines.filter(
    ([x1, y1, x2, y2]) => Math.abs(x1 - x2) < 0.8 * width && Math.abs(y1 - y2) < 0.8 * height,
  );
  const plates = platesOf(inside);
  const drawn = inside.filter((one) => !plates.has(one));
  const root = drawn.map((_, at) => at);
  const find = (at: number): number => {
    let top = at;
    while (root[top] !== top) top = root[top] as number;
    return (root[at] = top);
  };
  // By place, so that a crowded page is not compared stroke by stroke.
  const cell = 24;
  const grid = new Map<string, number[]>();
  drawn.forEach(([x1, y1, x2, y2], at) => {
    for (let x = Math.floor((Math.min(x1, x2) - 1) / cell); x <= (Math.max(x1, x2) + 1) / cell; x++)
      for (
        let y = Math.floor((Math.min(y1, y2) - 1) / cell);
        y <= (Math.max(y1, y2) + 1) / cell;
        y++
      ) {
        const key = `${x} ${y}`;
        const there = grid.get(key);
        if (there) there.push(at);
        else grid.set(key, [at]);
      }
  });
  const near = (x: number, y: number): number[] =>
    (grid.get(`${Math.floor(x / cell)} ${Math.floor(y / cell)}`) ?? []).filter(
      (at) => farFromLine(x, y, drawn[at] as PageLine) < touching,
    );
  const meets = new Map<number, [boolean, boolean]>();
  drawn.forEach(([x1, y1, x2, y2], at) => {
    const ends = [
      [x1, y1],
      [x2, y2],
    ] as const;
    const met = ends.map(([x, y]) => {
      const others = near(x, y).filter((one) => one !== at);
      for (const other of others) root[find(at)] = find(other);
      return others.length > 0;
    });
    meets.set(at, [met[0] as boolean, met[1] as boolean]);
  });
  const groups = new Map<number, Wire>();
  drawn.forEach((line, at) => {
    const wire = groups.get(find(at)) ?? { lines: [], ends: [], isGround: false };
    wire.lines.push(line);
    const [first, second] = meets.get(at) as [boolean, boolean];
    const way = isLevel(line) ? 'level' : 'upright';
    if (!first) wire.ends.push({ x: line[0], y: line[1], way });
    if (!second) wire.ends.push({ x: line[2], y: line[3], way });
    groups.set(find(at), wire);
  });
  for (const wire of groups.values())
    wire.isGround = wire.ends.some((end) => endsInGround(end, plates, inside));
  return [...groups.values()].filter(
    (one) =>
      one.lines.length > 1 ||
      one.lines.some(([x1, y1, x2, y2]) => Math.hypot(x1 - x2, y1 - y2) >= shortest),
  );
}

const longestPlate = 16;
const length = ([x1, y1, x2, y2]: PageLine): number => Math.hypot(x1 - x2, y1 - y2);
const middle = ([x1, y1, x2, y2]: PageLine): [number, number] => [(x1 + x2) / 2, (y1 + y2) / 2];

/** Short strokes another one ends upon, in the middle and square to it: plates of a capacitor, bars, ground. */
function platesOf(lines: readonly PageLine[]): Set<PageLine> {
  const plates = new Set<PageLine>();
  const short = lines.filter((one) => length(one) <= longestPlate && length(one) > 1.5);
  for (const one of short) {
    const [x, y] = middle(one);
    const isOnIt = lines.some(
      (other) =>
        other !== one &&
        isLevel(other) !== isLevel(one) &&
        (Math.hypot(other[0] - x, other[1] - y) < 1.2 ||
          Math.hypot(other[2] - x, other[3] - y) < 1.2),
    );
    if (isOnIt) plates.add(one);
  }
  return plates;
}

/** A plate with one or more shorter ones beyond it. */
function endsInGround(
  { x, y, way }: WireEnd,
  plates: ReadonlySet<PageLine>,
  lines: readonly PageLine[],
): boolean {
  if (way !== 'upright') return false;
  const first = [...plates].find((one) => {
    const [u, v] = middle(one);
    return isLevel(one) && Math.hypot(u - x, v - y) < 1.2;
  });
  if (!first) return false;
  const beyond = lines.filter((one) => {
    const [u, v] = middle(one);
    return (
      one !== first &&
      isLevel(one) &&
      Math.abs(u - x) < 1.2 &&
      v - y > 0.8 &&
      v - y < 9 &&
      length(one) < length(first) - 0.8
    );
  });
  return beyond.length > 0;
}
