import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { indexDocument, wordsOf } from '@jiko/core/schematic';
import { kitPen, libPen, type Pen } from './demo/pen.ts';
import { PdfTrouble, readPdf } from './read-pdf.ts';
import { bomb, manyPages, nested, onePage, rawPdf, scripted } from '@jiko/testing/strange-files';

const why = async (file: Uint8Array): Promise<string> => {
  try {
    await readPdf(file);
    return 'was read';
  } catch (error) {
    if (!(error instanceof PdfTrouble)) throw error;
    return error.message;
  }
};

/** The same drawing by whatever library: level, upright and hanging names, a wire, a box. */
async function drawn(pen: Pen): Promise<Uint8Array> {
  pen.page();
  pen.text(100, 80, '3V3_ALW', 9);
  pen.text(300, 200, 'PLTRST#', 9, 270);
  pen.text(330, 100, 'SUS_EN', 9, 90);
  pen.text(100, 120, 'R10 4k7 1%', 9);
  pen.line([
    [100, 82],
    [220, 82],
    [220, 140],
  ]);
  pen.box(400, 100, 80, 60);
  pen.page();
  pen.text(60, 60, 'second', 9);
  return pen.done();
}

describe('a PDF is read', () => {
  it.each([
    ['one library, a font embedded in part', () => Promise.resolve(kitPen('t'))],
    ['another, a font every reader has', libPen],
  ])('alike from %s', async (_, make) => {
    const { pages, troubles } = await readPdf(await drawn(await make()));
    expect(troubles).toEqual([]);
    expect(pages.map(({ width, height }) => [width, height])).toEqual([
      [842, 595],
      [842, 595],
    ]);
    const words = wordsOf(pages[0]!.runs);
    const at = (text: string) => {
      const word = words.find((one) => one.text === text);
      if (!word) throw new Error(`${text} is not among ${words.map((one) => one.text).join(' ')}`);
      return word;
    };
    expect(words.map((one) => one.text).sort()).toEqual(
      ['1%', '3V3_ALW', '4k7', 'PLTRST#', 'R10', 'SUS_EN'].sort(),
    );
    expect(at('3V3_ALW').turn).toBe(0);
    expect(at('3V3_ALW').x).toBeCloseTo(100, 0);
    // The baseline lies a fifth of the height above the lower edge.
    expect(at('3V3_ALW').y + 0.8 * at('3V3_ALW').h).toBeCloseTo(80, 0);
    expect(at('PLTRST#').turn).toBe(270);
    expect(at('PLTRST#').y + at('PLTRST#').h).toBeCloseTo(200, 0);
    expect(at('SUS_EN').turn).toBe(90);
    expect(at('SUS_EN').y).toBeCloseTo(100, 0);
    expect(pages[0]!.wires).toEqual([
      [100, 82, 220, 82],
      [220, 82, 220, 140],
    ]);
    expect(pages[0]!.boxes).toEqual([{ x: 400, y: 100, w: 80, h: 60 }]);
  });

  it('with a broken table of places, whole', async () => {
    const { pages } = await readPdf(onePage('3V3_ALW', true));
    expect(pages[0]?.runs.map((one) => one.text)).toEqual(['3V3_ALW']);
  });

  it('turned pages as they are shown', async () => {
    const plain = onePage('VMAIN').toString('latin1');
    const { pages } = await readPdf(
      Buffer.from(plain.replace('/MediaBox', '/Rotate 90 /MediaBox'), 'latin1'),
    );
    expect(pages[0]).toMatchObject({ width: 400, height: 600 });
    expect(pages[0]?.runs[0]).toMatchObject({ text: 'VMAIN', turn: 90 });
  });

  it('and a scanned page is there without a word', async () => {
    const { pages } = await readPdf(manyPages(3));
    expect(pages.map((one) => one.runs.length)).toEqual([0, 0, 0]);
  });

  it('not where it is none, cut off or too long, and says why', async () => {
    expect(await why(Buffer.from('%PDF-1.7 and nothing else'))).toContain('no PDF, or broken');
    expect(await why(onePage('3V3').subarray(0, 300))).toContain('no PDF, or broken');
    expect(await why(manyPages(1001))).toContain('has 1001 pages: at most 1000');
    expect((await readPdf(manyPages(1000))).pages).toHaveLength(1000);
    const locked = rawPdf([
      '<< /Type /Catalog /Pages 2 0 R >>',
      '<< /Type /Pages /Kids [] /Count 0 >>',
    ])
      .toString('latin1')
      .replace(
        '/Root 1 0 R',
        `/Root 1 0 R /ID [<00><00>] /Encrypt << /Filter /Standard /V 1 /R 2 /O <${'00'.repeat(32)}> /U <${'00'.repeat(32)}> /P -4 >>`,
      );
    expect(await why(Buffer.from(locked, 'latin1'))).toContain('locked with a password');
  });

  it('however deep its trees, and its scripts are not run', async () => {
    expect((await readPdf(nested(3000))).pages).toHaveLength(1);
    const { pages } = await readPdf(scripted());
    expect(indexDocument(pages).search('3V3')[0]?.text).toBe('<b>3V3</b>');
    expect((await readPdf(bomb(5e6))).pages[0]?.runs).toEqual([]);
  });
});

describe('the demo schematic', () => {
  it('is the one the script draws from the sheet', async () => {
    const file = readFileSync(new URL('../../../sheets/fell-13.schematic.pdf', import.meta.url));
    const { pages } = await readPdf(file);
    expect(pages.length).toBeGreaterThanOrEqual(10);
    const index = indexDocument(pages);
    expect(index.search('3V3_AON').length).toBeGreaterThan(3);
  });
});
