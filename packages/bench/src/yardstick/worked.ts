// npm run yardstick:worked -- NAME [AGAINST]: the same runs as the yardstick on sheets that are worked on, to try
// a change by: nothing kept unseen is opened. How each run ended is kept in .data/worked, by NAME; with AGAINST the
// runs are paired with those kept by that name. RUNS=20 hidden boards a sheet.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { handledRuns, newWayRuns, pairedRow, rowOf, type Outcome } from './hidden-runs.ts';

const sheets = ['cairn-14', 'fell-13', 'beck-mini', 'heron-15', 'otter-14', 'wren-5', 'lark-11'];
const folder = new URL('../../../../.data/worked/', import.meta.url);
const [name, against] = process.argv.slice(2);
if (!name) throw new Error('npm run yardstick:worked -- NAME [AGAINST]');

const runs = Number(process.env['RUNS'] ?? 20);
const kept: Record<'listed' | 'ways', Outcome[]> = { listed: [], ways: [] };
let seconds = 0;
for (const sheet of sheets) {
  const begun = Date.now();
  kept.listed.push(...handledRuns(sheet, runs, 7).map(({ outcome }) => outcome));
  kept.ways.push(...newWayRuns(sheet, Math.ceil(runs / 10), 7));
  seconds += (Date.now() - begun) / 1000;
}
mkdirSync(folder, { recursive: true });
writeFileSync(new URL(`${name}.json`, folder), JSON.stringify(kept));
const before = against
  ? (JSON.parse(readFileSync(new URL(`${against}.json`, folder), 'utf8')) as typeof kept)
  : null;
for (const row of ['listed', 'ways'] as const) {
  process.stdout.write(`${row}: ${rowOf(kept[row])}\n`);
  if (before) process.stdout.write(`${row}, paired: ${pairedRow(before[row], kept[row])}\n`);
}
process.stdout.write(`${seconds.toFixed(0)} s\n`);
