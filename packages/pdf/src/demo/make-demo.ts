// npm run docs:schematic: the demo's own schematics, drawn from the sheets.
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { loadSheet } from '@jiko/core/board';
import { drawInHutStyle } from './hut-style.ts';
import { kitPen } from './pen.ts';

const sheets = join(dirname(fileURLToPath(import.meta.url)), '../../../../sheets');
for (const id of ['cairn-14', 'fell-13']) {
  const loaded = loadSheet(readFileSync(join(sheets, `${id}.yaml`), 'utf8'));
  if (!loaded.ok) throw new Error(`${id} does not load`);
  const pen = kitPen(`${loaded.value.title} schematic`);
  drawInHutStyle(pen, loaded.value);
  writeFileSync(join(sheets, `${id}.schematic.pdf`), await pen.done());
}
