import { readFileSync } from 'node:fs';
import { loadSheet } from '@jiko/core/board';
import { libPen, kitPen } from './demo/pen.ts';
import * as o from './demo/other-styles.ts';
import { drawInHutStyle } from './demo/hut-style.ts';
import { measureReader } from './demo/measure.ts';
import { readPdf } from './index.ts';
const load = (id: string) => {
  const l = loadSheet(readFileSync('sheets/' + id + '.yaml', 'utf8'));
  if (!l.ok) throw 1;
  return l.value;
};
for (const [id, f, p] of [
  ['cairn-14', drawInHutStyle, kitPen('c')],
  ['fell-13', drawInHutStyle, kitPen('c')],
  ['heron-15', o.drawUpright, await libPen()],
  ['otter-14', o.drawCrowded, await libPen()],
  ['scree-lp', o.drawLongWires, kitPen('x')],
] as const) {
  if (process.argv[2] && !process.argv[2].includes(id)) continue;
  const t = f(p, load(id));
  const c = await readPdf(await p.done());
  const t0 = Date.now();
  const m = measureReader(c.pages, t);
  console.log(
    id,
    Date.now() - t0,
    'ms',
    `nets ${m.nets.found}/${m.nets.there} wrong ${m.nets.wrong.length}`,
    `parts ${m.parts.found}/${m.parts.there} wrong ${m.parts.wrong.length}`,
    `pins ${m.pins.right}/${m.pins.there} other ${m.pins.other.length}`,
  );
  console.log(
    '  missed',
    m.nets.missed.slice(0, 12).join(' '),
    '| parts',
    m.parts.missed.slice(0, 12).join(' '),
  );
  console.log(
    '  wrong',
    m.nets.wrong.slice(0, 12).join(' '),
    '| parts',
    m.parts.wrong.slice(0, 12).join(' '),
  );
  console.log('  pins', m.pins.other.slice(0, 8).join('; '));
}
