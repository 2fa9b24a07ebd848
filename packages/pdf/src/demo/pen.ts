import { createRequire } from 'node:module';
import { PDFDocument, StandardFonts, degrees, rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import PDFKit from 'pdfkit';

/** What a drawing is made with; y counts downwards from the upper left corner, in points. */
export interface Pen {
  page(): void;
  /** `x`, `y`: where the baseline of the text begins. `turn` 270: upwards. */
  text(x: number, y: number, text: string, size: number, turn?: 0 | 90 | 270): void;
  width(text: string, size: number): number;
  line(points: readonly (readonly [number, number])[], weight?: number): void;
  box(x: number, y: number, w: number, h: number): void;
  /** A closed figure, filled. */
  solid(points: readonly (readonly [number, number])[]): void;
  bumps(x: number, y: number, count: number, size: number): void;
  done(): Promise<Uint8Array>;
}

export const pageWide = 842;
export const pageHigh = 595;

/** Pen of one library, with a font of the app embedded in part. */
export function kitPen(title: string): Pen {
  const font = createRequire(import.meta.url).resolve(
    '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff',
  );
  const document = new PDFKit({
    size: [pageWide, pageHigh],
    margin: 0,
    autoFirstPage: false,
    // The same bytes each time it is made.
    info: { Title: title, CreationDate: new Date('2026-01-05T10:00:00Z') },
  });
  const chunks: Buffer[] = [];
  document.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise<void>((resolve) => document.on('end', resolve));
  document.registerFont('drawn', font);
  return {
    page: () => void document.addPage(),
    text(x, y, text, size, turn = 0) {
      document.font('drawn').fontSize(size).fillColor('#111');
      document.save();
      document.translate(x, y);
      if (turn !== 0) document.rotate(turn);
      document.text(text, 0, 0, { lineBreak: false, baseline: 'alphabetic' });
      document.restore();
    },
    width: (text, size) => document.font('drawn').fontSize(size).widthOfString(text),
    line(points, weight = 0.7) {
      const [first, ...rest] = points;
      if (!first) return;
      document.lineWidth(weight).moveTo(first[0], first[1]);
      for (const [x, y] of rest) document.lineTo(x, y);
      document.stroke('#234');
    },
    box(x, y, w, h) {
      document.lineWidth(0.8).rect(x, y, w, h).stroke('#234');
    },
    solid(points) {
      document.polygon(...points.map(([x, y]) => [x, y])).fill('#234');
    },
    bumps(x, y, count, size) {
      document.lineWidth(0.8).moveTo(x, y);
      for (let at = 0; at < count; at++)
        document.bezierCurveTo(
          x + at * size,
          y - size,
          x + (at + 1) * size,
          y - size,
          x + (at + 1) * size,
          y,
        );
      document.stroke('#234');
    },
    async done() {
      document.end();
      await ended;
      return Buffer.concat(chunks);
    },
  };
}

/** Pen of another library, with one of the fonts every reader has. */
export async function libPen(): Promise<Pen> {
  const document = await PDFDocument.create();
  document.setCreationDate(new Date('2026-01-05T10:00:00Z'));
  const font: PDFFont = await document.embedFont(StandardFonts.Helvetica);
  let page: PDFPage | null = null;
  const here = (): PDFPage => page ?? (page = document.addPage([pageWide, pageHigh]));
  const colour = rgb(0.1, 0.15, 0.2);
  const path = (points: readonly (readonly [number, number])[]): string =>
    points.map(([x, y], at) => `${at === 0 ? 'M' : 'L'} ${x} ${y}`).join(' ');
  return {
    page: () => void (page = document.addPage([pageWide, pageHigh])),
    text(x, y, text, size, turn = 0) {
      here().drawText(text, { x, y: pageHigh - y, size, font, rotate: degrees(-turn) });
    },
    width: (text, size) => font.widthOfTextAtSize(text, size),
    line(points, weight = 0.7) {
      here().drawSvgPath(path(points), {
        x: 0,
        y: pageHigh,
        borderWidth: weight,
        borderColor: colour,
      });
    },
    box(x, y, w, h) {
      here().drawRectangle({
        x,
        y: pageHigh - y - h,
        width: w,
        height: h,
        borderWidth: 0.8,
        borderColor: colour,
      });
    },
    solid(points) {
      here().drawSvgPath(`${path(points)} Z`, { x: 0, y: pageHigh, color: colour });
    },
    bumps(x, y, count, size) {
      const curves = Array.from(
        { length: count },
        (_, at) =>
          `C ${x + at * size} ${y - size} ${x + (at + 1) * size} ${y - size} ${x + (at + 1) * size} ${y}`,
      );
      here().drawSvgPath(`M ${x} ${y} ${curves.join(' ')}`, {
        x: 0,
        y: pageHigh,
        borderWidth: 0.8,
        borderColor: colour,
      });
    },
    done: () => document.save({ useObjectStreams: false }),
  };
}
