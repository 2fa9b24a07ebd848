import { createRequire } from 'node:module';
import PDFKit from 'pdfkit';
import type { Block, Printed } from '@jiko/core/report';

// Reports on A4, black on white whatever the theme of the screen is.

const margin = 48;
const resolve = createRequire(import.meta.url).resolve;
const fonts = {
  plain: resolve('dejavu-fonts-ttf/ttf/DejaVuSans.ttf'),
  bold: resolve('dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf'),
};
const ink = '#111111';
const quiet = '#555555';
const sizes = { title: 20, heading: 13, text: 10, table: 8.5 };
/** A heading is not left alone at the foot of a page. */
const roomBelowHeading = 60;

export interface PrintedPicture {
  /** Media type. */
  type: string;
  content: Uint8Array;
}
/** The bytes of a picture by its id; null where there is none. */
export type PictureOf = (id: string) => Promise<PrintedPicture | null>;

/** A report as PDF, with page numbers; `createdAt` stands in it as its date. */
export async function printPdf(
  { title, blocks }: Printed,
  createdAt: Date,
  pictureOf: PictureOf = () => Promise.resolve(null),
): Promise<Uint8Array> {
  const document = new PDFKit({
    size: 'A4',
    margins: { top: margin, bottom: margin, left: margin, right: margin },
    bufferPages: true,
    info: { Title: title, CreationDate: createdAt },
  }) as Kit;
  const chunks: Buffer[] = [];
  document.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise<void>((done) => document.on('end', done));
  document.registerFont('plain', fonts.plain);
  document.registerFont('bold', fonts.bold);
  for (const block of blocks)
    if (block.kind === 'picture') await drawPicture(document, block, pictureOf);
    else draw(document, block);
  const { start, count } = document.bufferedPageRange();
  for (let page = start; page < start + count; page++) {
    document.switchToPage(page);
    // Below the margin a line would begin a page of its own.
    document.page.margins.bottom = 0;
    document
      .font('plain')
      .fontSize(8)
      .fillColor(quiet)
      .text(`${title} · ${page + 1} of ${count}`, margin, document.page.height - margin + 14, {
        width: document.page.width - 2 * margin,
        align: 'right',
        lineBreak: false,
      });
  }
  document.end();
  await ended;
  return Buffer.concat(chunks);
}

/** What the library has and its types do not say. */
type Opened = NonNullable<Parameters<InstanceType<typeof PDFKit>['image']>[0]> & {
  width: number;
  height: number;
};
type Kit = InstanceType<typeof PDFKit> & { openImage(source: Buffer): Opened };

const foot = (document: Kit): number => document.page.height - margin;
const wide = (document: Kit): number => document.page.width - 2 * margin;

/** What the library can put into a page. */
const drawable = ['image/png', 'image/jpeg'];
const mostPictureHeight = 320;

/** One that cannot be drawn is named in its place: a report is not refused for a picture. */
async function drawPicture(
  document: Kit,
  { attachment, caption }: Extract<Block, { kind: 'picture' }>,
  pictureOf: PictureOf,
): Promise<void> {
  const found = await pictureOf(attachment);
  try {
    if (!found || !drawable.includes(found.type)) throw new Error('not to be drawn');
    const picture = document.openImage(Buffer.from(found.content));
    const scale = Math.min(wide(document) / picture.width, mostPictureHeight / picture.height, 1);
    const high = picture.height * scale;
    if (document.y + high + 20 > foot(document)) document.addPage();
    document.image(picture, margin, document.y, { width: picture.width * scale });
    document.y += high + 4;
    document.font('plain').fontSize(8.5).fillColor(quiet).text(caption, margin, document.y);
  } catch {
    const name = caption || 'of the board';
    document.font('plain').fontSize(8.5).fillColor(quiet);
    document.text(`Picture ${name}: shown on the screen only.`, margin, document.y);
  }
  document.moveDown(0.6);
}

function draw(document: Kit, block: Exclude<Block, { kind: 'picture' }>): void {
  document.x = margin;
  switch (block.kind) {
    case 'title':
      document.font('bold').fontSize(sizes.title).fillColor(ink).text(block.text);
      document.moveDown(0.4);
      return;
    case 'heading':
      if (document.y > foot(document) - roomBelowHeading) document.addPage();
      document.moveDown(0.6);
      document.font('bold').fontSize(sizes.heading).fillColor(ink).text(block.text);
      document.moveDown(0.25);
      return;
    case 'text':
      document.fontSize(sizes.text).fillColor(ink);
      if (block.lead) document.font('bold').text(`${block.lead} `, { continued: true });
      document.font('plain').text(block.text, { width: wide(document) });
      document.moveDown(0.3);
      return;
    case 'small':
      document
        .font('plain')
        .fontSize(8.5)
        .fillColor(quiet)
        .text(block.text, { width: wide(document) });
      document.moveDown(0.3);
      return;
    case 'list':
      document.font('plain').fontSize(sizes.text).fillColor(ink);
      for (const item of block.items) {
        const y = document.y;
        const high = document.heightOfString(item, { width: wide(document) - 14 });
        if (y + Math.min(high, 40) > foot(document)) document.addPage();
        const at = document.y;
        document.text('•', margin, at, { lineBreak: false });
        document.text(item, margin + 14, at, { width: wide(document) - 14 });
        document.moveDown(0.15);
      }
      document.x = margin;
      return;
    case 'facts':
      for (const { name, value } of block.facts) {
        const high = Math.max(
          document
            .font('plain')
            .fontSize(sizes.text)
            .heightOfString(value, { width: wide(document) - 110 }),
          12,
        );
        if (document.y + Math.min(high, 60) > foot(document)) document.addPage();
        const at = document.y;
        document.font('bold').fontSize(sizes.text).fillColor(ink);
        document.text(name, margin, at, { width: 104 });
        const below = document.y;
        document.font('plain').text(value, margin + 110, at, { width: wide(document) - 110 });
        document.y = Math.max(document.y, below) + 2;
      }
      document.x = margin;
      return;
    case 'table':
      drawTable(document, block);
  }
}

const cellGap = 6;

/** Rows are never broken over a page, and the head stands again on each. */
function drawTable(document: Kit, { head, widths, rows }: Extract<Block, { kind: 'table' }>): void {
  const sum = widths.reduce((total, one) => total + one, 0) || 1;
  const columns = widths.map((one) => (one / sum) * wide(document));
  const lefts = columns.map((_, index) =>
    columns.slice(0, index).reduce((total, one) => total + one, margin),
  );
  if (columns.length === 0) return;
  const row = (cells: readonly string[], font: 'plain' | 'bold'): void => {
    document.font(font).fontSize(sizes.table);
    const high = Math.max(
      ...cells.map((cell, index) =>
        document.heightOfString(cell || ' ', { width: (columns[index] ?? 50) - cellGap }),
      ),
    );
    if (document.y + high + 4 > foot(document)) {
      document.addPage();
      if (font === 'plain') row(head, 'bold');
    }
    const at = document.y;
    document.font(font).fontSize(sizes.table).fillColor(ink);
    cells.forEach((cell, index) =>
      document.text(cell, lefts[index] ?? margin, at + 2, {
        width: (columns[index] ?? 50) - cellGap,
      }),
    );
    document.y = at + high + 4;
    document
      .lineWidth(0.4)
      .moveTo(margin, document.y)
      .lineTo(margin + wide(document), document.y)
      .stroke('#bbbbbb');
  };
  row(head, 'bold');
  for (const cells of rows) row(cells, 'plain');
  document.x = margin;
  document.moveDown(0.5);
}
