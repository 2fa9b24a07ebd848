import type { Board } from '@jiko/core/board';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { pageHigh, pageWide, type Pen } from './pen.ts';
import { emptyTruth, note, planPages, type DrawnPart, type DrawnTruth } from './plan.ts';

// The drawing style of the Tarn Valley huts: one stage a page, three columns, a strip of names at
// each end of a wire with the pages where the net goes on, parts of more than two pins as boxes.

const columnWide = 254;
const top = 64;
const bottom = 540;
const row = 13;

/** Draws a whole board and says where everything stands. */
export function drawInHutStyle(pen: Pen, board: Board): DrawnTruth {
  const truth = emptyTruth();
  const pages = planPages(board, 1000);
  const flowed = flow(pages);
  const first = 4;
  for (const [index, { items }] of flowed.entries())
    for (const { part } of items) {
      note(truth.parts, part.ref, first + index);
      for (const { net, name } of part.pins) {
        note(truth.nets, net, first + index);
        truth.pins.push({ ref: part.ref, pin: name, net, page: first + index });
      }
    }
  const count = flowed.length + first - 1;
  const frame = (page: number, title: string): void => drawFrame(pen, board, page, count, title);

  frame(1, 'What is where');
  flowed.forEach(({ title }, index) => {
    const [column, line] = [Math.floor(index / 26), index % 26];
    pen.text(60 + column * 360, 90 + line * 17, `${first + index}`, 9);
    pen.text(84 + column * 360, 90 + line * 17, title, 9);
  });
  frame(2, 'Block diagram');
  drawBlocks(pen, board, truth);
  frame(3, 'Power-up sequence');
  drawSequence(pen, board, truth);
  flowed.forEach(({ title, items }, index) => {
    frame(first + index, title);
    for (const { part, x, y } of items) {
      const elsewhere = (net: string): number[] =>
        net === board.ground
          ? []
          : [...(truth.nets.get(net) ?? [])].filter((one) => one !== first + index && one > 3);
      if (isPlain(part)) drawTwoEnded(pen, part, x, y, elsewhere);
      else drawBoxed(pen, part, x, y, elsewhere);
    }
  });
  return truth;
}

interface Placed {
  part: DrawnPart;
  x: number;
  y: number;
}

function flow(pages: readonly { title: string; parts: DrawnPart[] }[]): {
  title: string;
  items: Placed[];
}[] {
  return pages.flatMap(({ title, parts }) => {
    const made: { title: string; items: Placed[] }[] = [{ title, items: [] }];
    let [column, y] = [0, top];
    for (const part of parts.toSorted((a, b) => highOf(b) - highOf(a))) {
      const high = highOf(part);
      if (y + high > bottom) [column, y] = [column + 1, top];
      if (column > 2) {
        made.push({ title: `${title}, continued`, items: [] });
        [column, y] = [0, top];
      }
      made.at(-1)?.items.push({ part, x: 40 + column * columnWide, y });
      y += high;
    }
    return made;
  });
}

const isPlain = (part: DrawnPart): boolean => part.pins.length === 2 && part.kind !== 'connector';
const highOf = (part: DrawnPart): number => {
  if (isPlain(part)) return 34;
  const left = part.pins.filter((one) => one.side === 'left').length;
  return Math.max(left, part.pins.length - left) * row + 40;
};

function drawFrame(pen: Pen, board: Board, page: number, count: number, title: string): void {
  pen.page();
  pen.box(20, 20, pageWide - 40, pageHigh - 40);
  for (let mark = 1; mark < 8; mark++) {
    const x = 20 + (mark * (pageWide - 40)) / 8;
    pen.line(
      [
        [x, 20],
        [x, 28],
      ],
      0.4,
    );
    pen.text(x - 52, 28, String(mark), 6);
  }
  for (const [at, letter] of ['A', 'B', 'C', 'D', 'E'].entries())
    pen.text(23, 75 + at * 108, letter, 6);
  pen.text(40, 46, title, 12);
  pen.line(
    [
      [20, 552],
      [pageWide - 20, 552],
    ],
    0.6,
  );
  pen.text(30, 566, `${board.title} mainboard, revision ${board.revision}`, 8);
  pen.text(330, 566, 'Tarn Valley weather network, hut computers', 8);
  pen.text(740, 566, `page ${page} of ${count}`, 8);
}

/** A wire with its name above and, small, the pages where it goes on. */
function drawName(pen: Pen, x: number, y: number, wide: number, net: string, on: number[]): void {
  pen.line([
    [x, y],
    [x + wide, y],
  ]);
  pen.text(x + 1, y - 2, net, 6.5);
  if (on.length > 0)
    pen.text(x + 1, y + 6, `p ${on.slice(0, 6).join(' ')}${on.length > 6 ? ' …' : ''}`, 4);
}

function drawTwoEnded(
  pen: Pen,
  part: DrawnPart,
  x: number,
  y: number,
  elsewhere: (net: string) => number[],
): void {
  const [a, b] = part.pins as [DrawnPart['pins'][0], DrawnPart['pins'][0]];
  const line = y + 14;
  drawName(pen, x, line, 92, a.net, elsewhere(a.net));
  drawName(pen, x + 124, line, 92, b.net, elsewhere(b.net));
  drawBody(pen, part.kind, x + 92, line);
  pen.text(x + 96, line - 7, part.ref, 6.5);
  pen.text(x + 94, line + 12, part.isFitted ? part.value || ' ' : `${part.value} not fitted`, 5.5);
}

/** A figure 32 points wide between the two wires. */
function drawBody(pen: Pen, kind: string, x: number, y: number): void {
  const across = (...points: [number, number][]): void =>
    pen.line(points.map(([u, v]) => [x + u, y + v]));
  switch (kind) {
    case 'capacitor':
      across([0, 0], [13, 0]);
      across([13, -5], [13, 5]);
      across([18, -5], [18, 5]);
      across([18, 0], [32, 0]);
      return;
    case 'coil':
      across([0, 0], [4, 0]);
      pen.bumps(x + 4, y, 4, 6);
      across([28, 0], [32, 0]);
      return;
    case 'diode':
    case 'schottky':
    case 'zener':
    case 'tvs':
    case 'led':
      across([0, 0], [11, 0]);
      pen.solid([
        [x + 11, y - 5],
        [x + 11, y + 5],
        [x + 20, y],
      ]);
      across([20, -5], [20, 5]);
      across([20, 0], [32, 0]);
      return;
    default:
      across([0, 0], [5, 0]);
      pen.box(x + 5, y - 3.5, 22, 7);
      across([27, 0], [32, 0]);
  }
}

function drawBoxed(
  pen: Pen,
  part: DrawnPart,
  x: number,
  y: number,
  elsewhere: (net: string) => number[],
): void {
  const left = part.pins.filter((one) => one.side === 'left');
  const right = part.pins.filter((one) => one.side === 'right').toReversed();
  const high = Math.max(left.length, right.length) * row + 8;
  const [from, to] = [x + 84, x + 152];
  pen.text(from, y + 6, part.ref, 7.5);
  pen.text(
    from + 26,
    y + 6,
    part.isFitted ? part.value || part.title.slice(0, 18) : 'not fitted',
    5.5,
  );
  pen.box(from, y + 10, to - from, high);
  left.forEach(({ name, number, net }, at) => {
    const line = y + 22 + at * row;
    drawName(pen, x, line, 84, net, elsewhere(net));
    pen.text(from - 2 - pen.width(number, 5), line - 2, number, 5);
    pen.text(from + 3, line + 2, name, 6);
  });
  right.forEach(({ name, number, net }, at) => {
    const line = y + 22 + at * row;
    pen.line([
      [to, line],
      [to + 84, line],
    ]);
    const wide = pen.width(net, 6.5);
    pen.text(to + 84 - wide, line - 2, net, 6.5);
    const on = elsewhere(net);
    if (on.length > 0) pen.text(to + 40, line + 6, `p ${on.slice(0, 6).join(' ')}`, 4);
    pen.text(to + 2, line - 2, number, 5);
    pen.text(to - 3 - pen.width(name, 6), line + 2, name, 6);
  });
}

function drawBlocks(pen: Pen, board: Board, truth: DrawnTruth): void {
  const { stages } = studyHealthyBoard(board);
  stages.forEach(({ stage }, at) => {
    const [column, line] = [at % 4, Math.floor(at / 4)];
    const [x, y] = [50 + column * 190, 80 + line * 56];
    pen.box(x, y, 150, 36);
    pen.text(x + 6, y + 13, stage.title.slice(0, 28), 7);
    const gives = stage.gives.slice(0, 2);
    pen.text(x + 6, y + 27, gives.join(' '), 6.5);
    for (const net of gives) note(truth.nets, net, 2);
    if (at + 1 < stages.length && column < 3)
      pen.line([
        [x + 150, y + 18],
        [x + 190, y + 18],
      ]);
  });
}

function drawSequence(pen: Pen, board: Board, truth: DrawnTruth): void {
  const { stages, upstream } = studyHealthyBoard(board);
  stages.forEach(({ stage, phase, upAtSeconds }, at) => {
    const [column, line] = [Math.floor(at / 26), at % 26];
    const [x, y] = [40 + column * 390, 84 + line * 17];
    const net = stage.gives[0];
    if (!net) return;
    pen.text(x, y, `${at + 1}`, 7);
    pen.text(x + 18, y, net, 7);
    note(truth.nets, net, 3);
    const after = upstream
      .of(net)
      .filter((one) => one.role !== 'pull-up')
      .slice(0, 3)
      .map((one) => one.net);
    for (const one of after) note(truth.nets, one, 3);
    pen.text(x + 96, y, after.length > 0 ? `after ${after.join(', ')}` : '', 6.5);
    if (phase) pen.text(x + 300, y, `${Math.round(upAtSeconds * 1000)} ms ${phase}`, 6.5);
  });
}
