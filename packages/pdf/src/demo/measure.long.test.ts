import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { loadSheet, type Board } from '@jiko/core/board';
import { readPdf } from '../read-pdf.ts';
import { drawInHutStyle } from './hut-style.ts';
import { measureReader } from './measure.ts';
import { drawCrowded, drawLongWires, drawUpright } from '../../test/other-styles.ts';
import { kitPen, libPen, type Pen } from './pen.ts';
import type { DrawnTruth } from './plan.ts';

const sheets = new URL('../../../../sheets/', import.meta.url);

function boardOf(id: string): Board {
  const loaded = loadSheet(readFileSync(new URL(`${id}.yaml`, sheets), 'utf8'));
  if (!loaded.ok) throw new Error(`${id} does not load`);
  return loaded.value;
}

async function measured(id: string, pen: Pen, draw: (pen: Pen, board: Board) => DrawnTruth) {
  const truth = draw(pen, boardOf(id));
  const { pages } = await readPdf(await pen.done());
  const { nets, parts, pins } = measureReader(pages, truth);
  return {
    pages: pages.length,
    found: (nets.found + parts.found) / (nets.there + parts.there),
    wrong:
      (nets.wrong.length + parts.wrong.length) /
      Math.max(1, nets.found + parts.found + nets.wrong.length + parts.wrong.length),
    pins: pins.right / pins.there,
    names: [...nets.missed, ...parts.missed, ...nets.wrong, ...parts.wrong, ...pins.other],
  };
}

describe('what the reader finds', () => {
  it.each([
    ['cairn-14', 20],
    ['fell-13', 10],
  ])('in the demo schematic of %s: 95 of 100 nets and parts, under 2 wrong', async (id, least) => {
    const figures = await measured(id, kitPen(id), drawInHutStyle);
    expect(figures.pages).toBeGreaterThanOrEqual(least);
    expect([figures.found, figures.names]).toEqual([
      expect.toSatisfy((one: number) => one >= 0.95),
      figures.names,
    ]);
    expect(figures.wrong).toBeLessThan(0.02);
    expect(figures.pins).toBeGreaterThan(0.95);
  });

  it.each([
    ['heron-15', drawUpright, libPen],
    ['otter-14', drawCrowded, libPen],
    ['scree-lp', drawLongWires, () => Promise.resolve(kitPen('scree'))],
  ] as const)('in %s, drawn by other rules: 85 of 100, under 5 wrong', async (id, draw, pen) => {
    const figures = await measured(id, await pen(), draw);
    expect([figures.found, figures.names]).toEqual([
      expect.toSatisfy((one: number) => one >= 0.85),
      figures.names,
    ]);
    expect(figures.wrong).toBeLessThan(0.05);
  });

  it('the files beside the sheets are what the script draws', async () => {
    for (const id of ['cairn-14', 'fell-13']) {
      const pen = kitPen(`${boardOf(id).title} schematic`);
      drawInHutStyle(pen, boardOf(id));
      const fresh = await readPdf(await pen.done());
      const kept = await readPdf(readFileSync(new URL(`${id}.schematic.pdf`, sheets)));
      expect(kept.pages.map((one) => one.runs)).toEqual(fresh.pages.map((one) => one.runs));
    }
  });
});
