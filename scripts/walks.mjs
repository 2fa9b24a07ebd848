// npm run walks: walks over all views, in any order, held against the record; counts into docs/figures.md.
// WALKS=200 seeds from WALK_FROM=1 on, WALK_STEPS=22 steps drawn for each.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeFiguresPart } from './figures-part.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const walks = Number(process.env.WALKS ?? 200);
const from = Number(process.env.WALK_FROM ?? 1000);
/** Fewer of a kind say little about it. */
const leastOfAKind = 20;

const folder = mkdtempSync(join(tmpdir(), 'jiko-walks-'));
const out = join(folder, 'walks.jsonl');
const done = spawnSync(
  process.execPath,
  [join(root, 'scripts/test.mjs'), '--browser', 'walker.spec.ts', '--retries', '0'],
  {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, WALKS: String(walks), WALK_FROM: String(from), WALK_OUT: out },
  },
);
/** @typedef {{ kinds: Record<string, number>, steps: number, weighed: number }} Walk */
/** @type {Walk[]} */
const lines = existsSync(out)
  ? readFileSync(out, 'utf8')
      .split('\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line))
  : [];
rmSync(folder, { recursive: true, force: true });

/** @type {Map<string, number>} */
const kinds = new Map();
for (const { kinds: own } of lines)
  for (const [kind, times] of Object.entries(own)) kinds.set(kind, (kinds.get(kind) ?? 0) + times);
/** @param {(walk: Walk) => number} of */
const sum = (of) => lines.reduce((all, one) => all + of(one), 0);
const rows = [...kinds].sort((a, b) => b[1] - a[1]);
const few = rows.filter(([, times]) => times < leastOfAKind).map(([kind]) => kind);
const failed = walks - lines.length;
console.log(
  `${walks} walks from seed ${from} on: ${failed} ended with a failure; ${sum((one) => one.steps)} steps`,
);
for (const [kind, times] of rows) console.log(`${String(times).padStart(6)}  ${kind}`);
if (few.length > 0) console.log(`fewer than ${leastOfAKind}: ${few.join(', ')}`);
write();
process.exit(done.status === 0 && few.length === 0 ? 0 : 1);

/** Its own part of the figures. */
function write() {
  writeFiguresPart(join(root, 'docs/figures.md'), 'walks', [
    '## Walks over all views',
    '',
    `Steps in any order over all views of a job, by \`npm run walks\`: ${walks} seeds from ${from} on, ${sum((one) => one.steps)} steps, ${failed} walks ended with a failure. After each step nothing broke and the keys were somewhere; on Trace, entries and verdicts, the first missing stage and the next point were what the core derives from the server's record; ${sum((one) => one.weighed)} times the suspects were held against it too, after a reload with their figures.`,
    '',
    '| step | times |',
    '| --- | --- |',
    ...rows.map(([kind, times]) => `| ${kind} | ${times} |`),
  ]);
}
