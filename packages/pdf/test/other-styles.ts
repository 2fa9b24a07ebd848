import type { Board } from '@jiko/core/board';
import { pageHigh, pageWide, type Pen } from '../src/demo/pen.ts';
import { emptyTruth, note, planPages, type DrawnPart, type DrawnTruth } from '../src/demo/plan.ts';

// Three ways of drawing that are not the demo's: what the reader of schematics is measured on. They were
// written before the reader, and it is not tuned on them.

type Pins = DrawnPart['pins'];
type Cell = { part: DrawnPart; x: number; y: number };

/** Cells of one size, so many a page, one page group after the other. */
function cellsOf(
  board: Board,
  { wide, high, perPage }: { wide: number; high: (part: DrawnPart) => number; perPage: number },
): { title: string; cells: Cell[] }[] {
  const columns = Math.floor((pageWide - 60) / wide);
  return planPages(board, perPage).flatMap(({ title, parts }) => {
    const made: { title: string; cells: Cell[] }[] = [{ title, cells: [] }];
    const rows = Array.from({ length: columns }, () => 70);
    for (const part of parts) {
      let column = rows.indexOf(Math.min(...rows));
      if (rows[column]! + high(part) > pageHigh - 60) {
        made.push({ title, cells: [] });
        rows.fill(70);
        column = 0;
      }
      made.at(-1)!.cells.push({ part, x: 40 + column * wide, y: rows[column]! });
      rows[column]! += high(part);
    }
    return made;
  });
}

function record(truth: DrawnTruth, part: DrawnPart, page: number): void {
  note(truth.parts, part.ref, page);
  for (const { net, name } of part.pins) {
    note(truth.nets, net, page);
    truth.pins.push({ ref: part.ref, pin: name, net, page });
  }
}

const isTwoEnded = (part: DrawnPart): boolean => part.pins.length === 2;
const sides = (part: DrawnPart): { left: Pins; right: Pins } => ({
  left: part.pins.filter((one) => one.side === 'left'),
  right: part.pins.filter((one) => one.side === 'right').toReversed(),
});
const tallest = (part: DrawnPart): number =>
  Math.max(sides(part).left.length, sides(part).right.length);

/**
 * Upright parts with names written along their wires, each name in two or three pieces; chips with names
 * at the far end of a wire; values beside the reference; lower case units left away (10K, 4.7U).
 */
export function drawUpright(pen: Pen, board: Board): DrawnTruth {
  const truth = emptyTruth();
  const pages = cellsOf(board, {
    wide: 126,
    high: (part) => (isTwoEnded(part) ? 150 : tallest(part) * 16 + 50),
    perPage: 24,
  });
  pages.forEach(({ title, cells }, index) => {
    pen.page();
    pen.box(24, 24, pageWide - 48, pageHigh - 48);
    pen.text(36, 44, title.toUpperCase(), 11);
    pen.text(
      560,
      562,
      `SCHEMATIC ${board.title.toUpperCase()}  SHEET ${index + 1} OF ${pages.length}`,
      8,
    );
    pen.text(40, 562, 'NOTE: ALL PARTS 0402 UNLESS OTHERWISE STATED', 6);
    for (const { part, x, y } of cells) {
      record(truth, part, index + 1);
      if (isTwoEnded(part)) {
        const [a, b] = part.pins as [Pins[0], Pins[0]];
        const middle = x + 40;
        pen.line([
          [middle, y],
          [middle, y + 52],
        ]);
        pen.box(middle - 4, y + 52, 8, 20);
        pen.line([
          [middle, y + 72],
          [middle, y + 124],
        ]);
        pieces(pen, middle - 2, y + 51, a.net, 6, 270);
        pieces(pen, middle - 2, y + 123, b.net, 6, 270);
        pen.text(middle + 8, y + 60, part.ref, 6);
        pen.text(middle + 8, y + 68, short(part.value), 6);
        if (!part.isFitted) pen.text(middle + 8, y + 76, 'DNP', 6);
      } else {
        const { left, right } = sides(part);
        const [from, to] = [x + 38, x + 84];
        pen.text(from, y + 4, part.ref, 7);
        pen.box(from, y + 10, to - from, tallest(part) * 16 + 6);
        left.forEach(({ name, number, net }, at) => {
          const line = y + 22 + at * 16;
          pen.line([
            [from - 12, line],
            [from, line],
          ]);
          pieces(pen, from - 13 - pen.width(net, 5), line + 2, net, 5, 0);
          pen.text(from - 8, line - 1, number, 4);
          pen.text(from + 2, line + 2, name, 4.5);
        });
        right.forEach(({ name, number, net }, at) => {
          const line = y + 22 + at * 16;
          pen.line([
            [to, line],
            [to + 12, line],
          ]);
          pieces(pen, to + 13, line + 2, net, 5, 0);
          pen.text(to + 3, line - 1, number, 4);
          pen.text(to - 2 - pen.width(name, 4.5), line + 2, name, 4.5);
        });
      }
    }
  });
  return truth;
}

/** A name written in pieces, as some programs split what they kern. */
function pieces(pen: Pen, x: number, y: number, text: string, size: number, turn: 0 | 270): void {
  const parts = text.match(/^.{1,3}|.{1,4}/g) ?? [];
  let along = 0;
  for (const part of parts) {
    if (turn === 0) pen.text(x + along, y, part, size);
    else pen.text(x, y - along, part, size, 270);
    along += pen.width(part, size);
  }
}

const short = (value: string): string =>
  value
    .toUpperCase()
    .replace(/µ/g, 'U')
    .replace(/^(\d+)(K|U|N|P|M)(\d)$/, '$1.$3$2');

/**
 * Crowded rows: names in arrows at the ends of wires, references below the part, values with size and
 * rating run together (`10K_4`, `0.1U/16V_4`), rails with a plus before them, active low as `_N`, and
 * page marks grown on to the names.
 */
export function drawCrowded(pen: Pen, board: Board): DrawnTruth {
  const truth = emptyTruth();
  const pages = cellsOf(board, {
    wide: 196,
    high: (part) => (isTwoEnded(part) ? 24 : tallest(part) * 10 + 34),
    perPage: 70,
  });
  const rails = new Set(
    board.nets.filter((one) => one.kind === 'rail').map((one) => one.id as string),
  );
  const spelt = (net: string): string =>
    (rails.has(net) && !net.startsWith('+') ? `+${net}` : net).replace(/#$/, '_N');
  pages.forEach(({ title, cells }, index) => {
    pen.page();
    pen.text(40, 40, title, 10);
    pen.text(40, 580, `${board.title} main board`, 7);
    pen.text(700, 580, `Rev ${board.revision} Page ${index + 1}`, 7);
    for (const { part, x, y } of cells) {
      record(truth, part, index + 1);
      if (isTwoEnded(part)) {
        const [a, b] = part.pins as [Pins[0], Pins[0]];
        const line = y + 8;
        port(pen, x, line, spelt(a.net), 'left');
        pen.line([
          [x + 70, line],
          [x + 84, line],
        ]);
        if (part.kind === 'capacitor') {
          pen.line([
            [x + 84, line],
            [x + 91, line],
          ]);
          pen.line([
            [x + 91, line - 4],
            [x + 91, line + 4],
          ]);
          pen.line([
            [x + 95, line - 4],
            [x + 95, line + 4],
          ]);
          pen.line([
            [x + 95, line],
            [x + 102, line],
          ]);
        } else pen.box(x + 84, line - 3, 18, 6);
        pen.line([
          [x + 102, line],
          [x + 116, line],
        ]);
        port(pen, x + 116, line, spelt(b.net), 'right');
        pen.text(x + 84, line + 9, part.ref, 5);
        const size = part.value
          ? `${short(part.value)}${part.kind === 'capacitor' ? '/16V' : ''}_4`
          : '';
        pen.text(x + 84, line - 4.5, part.isFitted ? size : `*${size}`, 4.5);
      } else {
        const { left, right } = sides(part);
        const [from, to] = [x + 72, x + 118];
        pen.box(from, y + 8, to - from, tallest(part) * 10 + 4);
        pen.text(from + 6, y + tallest(part) * 10 + 19, part.ref, 6);
        left.forEach(({ name, number, net }, at) => {
          const line = y + 16 + at * 10;
          pen.line([
            [from - 8, line],
            [from, line],
          ]);
          port(pen, from - 78, line, spelt(net), 'left');
          pen.text(from - 6, line - 0.6, number, 3.5);
          pen.text(from + 2, line + 1.6, name, 4);
        });
        right.forEach(({ name, number, net }, at) => {
          const line = y + 16 + at * 10;
          pen.line([
            [to, line],
            [to + 8, line],
          ]);
          port(pen, to + 8, line, spelt(net), 'right');
          pen.text(to + 1, line - 0.6, number, 3.5);
          pen.text(to - 2 - pen.width(name, 4), line + 1.6, name, 4);
        });
      }
    }
  });
  return truth;
}

/** An arrow 70 points long with a name in it. */
function port(pen: Pen, x: number, y: number, name: string, side: 'left' | 'right'): void {
  const [tip, back] = side === 'left' ? [x + 70, x] : [x, x + 70];
  const neck = side === 'left' ? tip - 4 : tip + 4;
  pen.line(
    [
      [tip, y],
      [neck, y - 4],
      [back, y - 4],
      [back, y + 4],
      [neck, y + 4],
      [tip, y],
    ],
    0.4,
  );
  const wide = pen.width(name, 5);
  pen.text(side === 'left' ? neck - 1 - wide : neck + 1, y + 1.8, name, 5);
}

/**
 * Wires that go across the page: parts in rows between two long upright wires with the name at the top of
 * each, values inside the body, references turned upwards, numbers of pins in the box and names of pins
 * outside; GND by its figure alone, a table of words in capitals beside.
 */
export function drawLongWires(pen: Pen, board: Board): DrawnTruth {
  const truth = emptyTruth();
  const groups = planPages(board, 26);
  groups.forEach(({ title, parts }, index) => {
    const page = index + 1;
    pen.page();
    pen.box(15, 15, pageWide - 30, pageHigh - 30);
    pen.text(30, 36, `${page}. ${title}`, 10);
    pen.text(640, 36, 'REV  DATE  CHANGE', 6);
    pen.text(640, 46, 'B  2026-01-05  FIRST BUILD', 6);
    let y = 78;
    // Capacitors of one rail hang side by side between its wire and ground.
    const hung = new Map<string, DrawnPart[]>();
    for (const part of parts) {
      const [a, b] = part.pins;
      const rail =
        part.kind === 'capacitor' && part.pins.length === 2
          ? a!.net === board.ground
            ? b!.net
            : b!.net === board.ground
              ? a!.net
              : null
          : null;
      if (rail) hung.set(rail, [...(hung.get(rail) ?? []), part]);
    }
    for (const [rail, caps] of hung) {
      if (y > 470) break;
      const ends = 60 + Math.min(caps.length, 8) * 44;
      pen.line([
        [40, y],
        [ends, y],
      ]);
      pen.text(41, y - 2, rail, 7);
      note(truth.nets, rail, page);
      caps.slice(0, 8).forEach((part, at) => {
        const x = 70 + at * 44;
        pen.line([
          [x, y],
          [x, y + 12],
        ]);
        pen.line([
          [x - 6, y + 12],
          [x + 6, y + 12],
        ]);
        pen.line([
          [x - 6, y + 16],
          [x + 6, y + 16],
        ]);
        pen.line([
          [x, y + 16],
          [x, y + 28],
        ]);
        ground(pen, x, y + 28);
        pen.text(x + 8, y + 12, part.ref, 6);
        pen.text(x + 8, y + 20, part.value, 5);
        if (!part.isFitted) pen.text(x + 8, y + 26, 'NF', 5);
        record(truth, part, page);
      });
      y += 52;
    }
    const rest = parts.filter((one) => ![...hung.values()].flat().includes(one));
    const columns = [480, 660];
    const rows = [78, 78];
    let below = y;
    for (const part of rest) {
      const high = isTwoEnded(part) ? 36 : tallest(part) * 12 + 30;
      // Two columns at the right, then what room is left below at the left.
      const column = rows[0]! + high < 550 ? 0 : rows[1]! + high < 550 ? 1 : -1;
      const x = column >= 0 ? columns[column]! : 60;
      const top = column >= 0 ? rows[column]! : below;
      if (top + high > 570) continue;
      if (column >= 0) rows[column]! += high;
      else below += high;
      record(truth, part, page);
      if (isTwoEnded(part)) {
        const [a, b] = part.pins as [Pins[0], Pins[0]];
        const line = top + 14;
        pen.line([
          [x, line],
          [x + 50, line],
        ]);
        pen.box(x + 50, line - 5, 30, 10);
        pen.line([
          [x + 80, line],
          [x + 130, line],
        ]);
        pen.text(x + 52, line + 2, part.value, 5);
        pen.text(x + 48, line - 2, part.ref, 6, 270);
        named(pen, board, x, line, a.net, 'left');
        named(pen, board, x + 130, line, b.net, 'right');
      } else {
        const { left, right } = sides(part);
        const [from, to] = [x + 46, x + 84];
        pen.box(from, top + 12, to - from, tallest(part) * 12 + 4);
        pen.text(from, top + 9, part.ref, 7);
        left.forEach(({ name, number, net }, at) => {
          const line = top + 22 + at * 12;
          pen.line([
            [x, line],
            [from, line],
          ]);
          pen.text(from - 2 - pen.width(name, 4), line - 1, name, 4);
          pen.text(from + 2, line + 2, number, 4.5);
          named(pen, board, x, line, net, 'left');
        });
        right.forEach(({ name, number, net }, at) => {
          const line = top + 22 + at * 12;
          pen.line([
            [to, line],
            [to + 46, line],
          ]);
          pen.text(to + 2, line - 1, name, 4);
          pen.text(to - 2 - pen.width(number, 4.5), line + 2, number, 4.5);
          named(pen, board, to + 46, line, net, 'right');
        });
      }
    }
  });
  return truth;
}

function named(
  pen: Pen,
  board: Board,
  x: number,
  y: number,
  net: string,
  side: 'left' | 'right',
): void {
  if (net === board.ground) return ground(pen, x, y);
  const wide = pen.width(net, 5);
  pen.text(side === 'left' ? x - 2 - wide : x + 2, y + 1.8, net, 5);
}

/** Three level strokes, each shorter than the one above. */
function ground(pen: Pen, x: number, y: number): void {
  pen.line([
    [x, y],
    [x, y + 3],
  ]);
  pen.line([
    [x - 5, y + 3],
    [x + 5, y + 3],
  ]);
  pen.line([
    [x - 3, y + 5],
    [x + 3, y + 5],
  ]);
  pen.line([
    [x - 1, y + 7],
    [x + 1, y + 7],
  ]);
}
