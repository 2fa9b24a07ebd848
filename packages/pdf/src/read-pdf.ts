import { join } from 'node:path';
import type { Box, PageContent, PageLine, PageRun, Turn } from '@jiko/core/schematic';
import { pdfHome, pdfjs } from './pdfjs.ts';

const { getDocument, OPS, Util } = pdfjs;

/** More pages than any board's schematic has: beyond it a file is something else, or meant to hurt. */
export const mostPages = 1000;

/** A document as it was read; what could not be read of a page is missing from it. */
export interface PdfContent {
  pages: PageContent[];
  /** Pages that could not be read, with why. */
  troubles: { page: number; why: string }[];
}

/** Why a file is no document that can be shown, in words for the user. */
export class PdfTrouble extends Error {}

/** Every so many pages of a document, from the given one on: several threads share it. */
export interface Share {
  of: number;
  /** From 0. */
  part: number;
}

/**
 * Reads texts, straight lines and rectangles of a PDF with their places, in points from the upper left
 * corner of each page as it is shown. Pictures are not decoded, scripts and forms not looked at.
 * Throws PdfTrouble for what is no PDF, is locked or has too many pages; a page that cannot be read
 * is named and left empty.
 */
export async function readPdf(
  bytes: Uint8Array,
  { of, part }: Share = { of: 1, part: 0 },
): Promise<PdfContent> {
  const task = getDocument({
    // The library takes the buffer over.
    data: new Uint8Array(bytes),
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    enableXfa: false,
    maxImageSize: 1,
    verbosity: 0,
    cMapUrl: join(pdfHome, 'cmaps/'),
    standardFontDataUrl: join(pdfHome, 'standard_fonts/'),
  });
  try {
    const document = await task.promise.catch((error: Error) => {
      throw new PdfTrouble(reasonText(error));
    });
    if (document.numPages > mostPages)
      throw new PdfTrouble(
        `has ${document.numPages} pages: at most ${mostPages} are taken. Split it, or save the pages you need.`,
      );
    const pages: PageContent[] = [];
    const troubles: PdfContent['troubles'] = [];
    for (let number = 1 + part; number <= document.numPages; number += of) {
      try {
        pages.push(await readPage(document, number));
      } catch (error) {
        troubles.push({ page: number, why: (error as Error).message });
        const empty = { width: 612, height: 792, runs: [], wires: [], boxes: [] };
        pages.push({ page: number, ...empty });
      }
    }
    return { pages, troubles };
  } finally {
    await task.destroy();
  }
}

function reasonText(error: Error): string {
  if (error.name === 'PasswordException')
    return 'is locked with a password: save it without one first.';
  if (error.name === 'InvalidPDFException') return 'is no PDF, or broken beyond reading.';
  return `cannot be read: ${error.message}`;
}

type Document = Awaited<ReturnType<typeof getDocument>['promise']>;
type Matrix = [number, number, number, number, number, number];

async function readPage(document: Document, number: number): Promise<PageContent> {
  const page = await document.getPage(number);
  try {
    const viewport = page.getViewport({ scale: 1 });
    const toPage = viewport.transform as Matrix;
    const text = await page.getTextContent({ includeMarkedContent: false });
    const runs = text.items.flatMap((item) =>
      'str' in item && keepable(item.str).trim() !== '' ? [runFrom(item, toPage)] : [],
    );
    const { wires, boxes } = strokes(await page.getOperatorList(), toPage);
    return {
      page: number,
      width: round(viewport.width),
      height: round(viewport.height),
      runs: runs.filter((one) => one !== null),
      wires,
      boxes,
    };
  } finally {
    page.cleanup();
  }
}

const round = (value: number): number => Math.round(value * 10) / 10;

/** Without NUL and halves of surrogate pairs, to which poor fonts map letters: no database keeps them. */
const keepable = (text: string): string => text.replace(/[\0\p{Surrogate}]/gu, '');

function runFrom(
  item: { str: string; transform: number[]; width: number; height: number },
  toPage: Matrix,
): PageRun | null {
  const [a, b, c, d, x, y] = Util.transform(toPage, item.transform) as Matrix;
  const height = Math.hypot(c, d) || item.height;
  const degrees = (Math.atan2(b, a) * 180) / Math.PI;
  const turn = ((Math.round(degrees / 90) * 90 + 360) % 360) as Turn;
  // Text at a slant is decoration: stamps, watermarks.
  if (Math.abs(degrees - Math.round(degrees / 90) * 90) > 8) return null;
  // From the baseline: four fifths of the height stand above it, one below.
  const [up, down] = [0.8 * height, 0.2 * height];
  const { width } = item;
  const box: Box =
    turn === 0
      ? { x, y: y - up, w: width, h: height }
      : turn === 180
        ? { x: x - width, y: y - down, w: width, h: height }
        : turn === 90
          ? { x: x - down, y, w: height, h: width }
          : { x: x - up, y: y - width, w: height, h: width };
  return {
    text: keepable(item.str).normalize('NFKC'),
    turn,
    x: round(box.x),
    y: round(box.y),
    w: round(box.w),
    h: round(box.h),
  };
}

/** Codes of the steps of a path, as the library packs them. */
const steps = { moveTo: 0, lineTo: 1, curveTo: 2, quadraticCurveTo: 3, closePath: 4 } as const;

/** Level and upright lines that are part of no closed, curved or slanted figure, and rectangles. */
function strokes(
  list: { fnArray: number[]; argsArray: unknown[] },
  toPage: Matrix,
): { wires: PageLine[]; boxes: Box[] } {
  const wires: PageLine[] = [];
  const boxes: Box[] = [];
  const kept: Matrix[] = [];
  let now = toPage;
  const at = (x: number, y: number): [number, number] => [
    now[0] * x + now[2] * y + now[4],
    now[1] * x + now[3] * y + now[5],
  ];
  list.fnArray.forEach((operator, index) => {
    const args = list.argsArray[index] as never;
    if (operator === OPS.save) kept.push(now);
    else if (operator === OPS.restore) now = kept.pop() ?? toPage;
    else if (operator === OPS.transform)
      now = Util.transform(now, args as unknown as number[]) as Matrix;
    else if (operator === OPS.paintFormXObjectBegin) {
      kept.push(now);
      const [matrix] = args as unknown as [number[] | null];
      if (matrix) now = Util.transform(now, matrix) as Matrix;
    } else if (operator === OPS.paintFormXObjectEnd) now = kept.pop() ?? toPage;
    else if (operator === OPS.constructPath) {
      const [, data] = args as unknown as [number, [Float32Array | null]];
      if (data[0]) for (const figure of figuresOf(data[0])) take(figure);
    }
  });
  return { wires, boxes };

  function take({ points, isClosed, isCurved }: Figure): void {
    const placed = points.map(([x, y]) => at(x, y));
    const ends = placed.slice(1).map((point, index) => [placed[index]!, point] as const);
    const isStraight = ends.every(
      ([a, b]) => Math.abs(a[0] - b[0]) < 0.3 || Math.abs(a[1] - b[1]) < 0.3,
    );
    if (isCurved || !isStraight || placed.length < 2) return;
    const xs = placed.map(([x]) => x);
    const ys = placed.map(([, y]) => y);
    const [left, top] = [Math.min(...xs), Math.min(...ys)];
    const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
    const first = placed[0]!;
    const last = placed.at(-1)!;
    const comesBack = Math.hypot(first[0] - last[0], first[1] - last[1]) < 0.3;
    if (isClosed || (comesBack && placed.length >= 4)) {
      if (wide > 1 && high > 1)
        boxes.push({ x: round(left), y: round(top), w: round(wide), h: round(high) });
      return;
    }
    for (const [a, b] of ends)
      if (Math.hypot(a[0] - b[0], a[1] - b[1]) > 0.5)
        wires.push([round(a[0]), round(a[1]), round(b[0]), round(b[1])]);
  }
}

interface Figure {
  points: [number, number][];
  isClosed: boolean;
  isCurved: boolean;
}

function figuresOf(data: Float32Array): Figure[] {
  const figures: Figure[] = [];
  let figure: Figure | null = null;
  for (let at = 0; at < data.length;) {
    const step = data[at++] as number;
    if (step === steps.moveTo) {
      figure = { points: [[data[at++]!, data[at++]!]], isClosed: false, isCurved: false };
      figures.push(figure);
    } else if (step === steps.lineTo) figure?.points.push([data[at++]!, data[at++]!]);
    else if (step === steps.closePath) {
      if (figure) figure.isClosed = true;
    } else {
      if (figure) figure.isCurved = true;
      at += step === steps.curveTo ? 6 : 4;
    }
  }
  return figures;
}
