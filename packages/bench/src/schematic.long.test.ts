import { expect, it } from 'vitest';
import { schematicRuns, sheetFromSchematic } from './schematic-figures.ts';

// Choices and the demo schematic alone make the sheet; the board is the one the schematic is of. Answers
// were written down before anything was run; two mistakes were mended after the first run (docs/figures.md).

it('a sheet made from choices and a schematic names stage and need in 8 of 10, drawn by seed', async () => {
  const text = await sheetFromSchematic();
  const runs = schematicRuns(text, 2026, 10);
  const wrong = runs
    .filter((one) => !one.rightNeed)
    .map((one) => `${one.fault.need} of ${one.fault.rail}: said ${one.said}`);
  expect(wrong.length, wrong.join('; ')).toBeLessThanOrEqual(2);
  expect(Math.max(...runs.map((one) => one.readings))).toBeLessThanOrEqual(30);
});
