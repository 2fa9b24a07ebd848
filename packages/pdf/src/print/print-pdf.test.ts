import { describe, expect, it } from 'vitest';
import type { Printed } from '@jiko/core/report';
import { readPdf } from '../index.ts';
import { printPdf } from './print-pdf.ts';

const at = new Date('2026-01-05T10:00:00Z');
const printed = (blocks: Printed['blocks']): Printed => ({
  title: 'Cairn 14 from Skell Hut',
  blocks,
});

/** The words of each page, read back by the reader the app has. */
async function pagesOf(report: Printed): Promise<string[]> {
  const read = await readPdf(await printPdf(report, at));
  return read.pages.map((page) => page.runs.map((one) => one.text).join(' '));
}

describe('a report on paper', () => {
  it('has its words, units and arrows, and the number of its page', async () => {
    const [page] = await pagesOf(
      printed([
        { kind: 'title', text: 'Cairn 14 from Skell Hut' },
        { kind: 'facts', facts: [{ name: 'Complaint', value: 'Does nothing.' }] },
        { kind: 'list', items: ['100 kΩ → 47 µA at 3.3 V ± 5 % ≤ 2 Ω'] },
      ]),
    );
    expect(page).toContain('Does nothing.');
    // Two signs look like a micro; a reader may give either.
    const plain = page!.replaceAll('\u03bc', '\u00b5');
    for (const sign of ['kΩ', '\u00b5A', '→', '≤', '±']) expect(plain).toContain(sign);
    expect(page).toMatch(/1 of 1/);
  });

  it('a long table goes on over pages with its head on each, no row lost', async () => {
    const rows = Array.from({ length: 150 }, (_, index) => [
      `N${index}`,
      `a line that is long enough to need more than one row of type in its narrow column, number ${index}`,
    ]);
    const pages = await pagesOf(
      printed([{ kind: 'table', head: ['Point', 'Says'], widths: [0.2, 0.4], rows }]),
    );
    expect(pages.length).toBeGreaterThan(3);
    for (const page of pages) expect(page).toMatch(/Point Says/);
    const all = pages.join(' ').split(' ');
    for (const [name] of rows) expect(all).toContain(name);
  });

  it('the same report is the same bytes', async () => {
    const report = printed([{ kind: 'text', text: 'once' }]);
    expect(
      Buffer.from(await printPdf(report, at)).equals(Buffer.from(await printPdf(report, at))),
    ).toBe(true);
  });

  it('empty and odd input is printed, not thrown', async () => {
    await expect(
      pagesOf(
        printed([
          { kind: 'list', items: [] },
          { kind: 'table', head: [], widths: [], rows: [] },
          { kind: 'text', text: '' },
          { kind: 'text', text: 'x'.repeat(3000) },
        ]),
      ),
    ).resolves.toHaveLength(1);
  });

  it('pictures are drawn; one that is gone or broken is named, and the report is printed', async () => {
    const id = '0d0e0000-0000-4000-8000-000100000001';
    // A png of one pixel.
    const content = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    const report = printed([{ kind: 'picture', attachment: id, caption: 'the jack' }]);
    const words = async (of: Parameters<typeof printPdf>[2]): Promise<string> => {
      const read = await readPdf(await printPdf(report, at, of));
      return read.pages.map((page) => page.runs.map((one) => one.text).join(' ')).join(' ');
    };
    const drawn = await printPdf(report, at, () => Promise.resolve({ type: 'image/png', content }));
    expect(Buffer.from(drawn).includes('/Subtype /Image')).toBe(true);
    expect(await words(undefined)).toContain('the jack: shown on the screen only');
    const broken = () => Promise.resolve({ type: 'image/png', content: content.subarray(0, 20) });
    expect(await words(broken)).toContain('shown on the screen only');
  });
});
