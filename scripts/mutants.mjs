// npm run mutants [-- FILE...]: mutation testing of what decides about powering, injecting, charging,
// heating and lifting, then of a seeded sample of the rest of the core; scores into docs/figures.md.
// ONLY=decides or ONLY=sample: one of the two; ROOMS=play,cold: the sample of these rooms alone.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { figuresPart, writeFiguresPart } from './figures-part.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const core = 'packages/core/src';
/** What decides: all of it. */
const decides = [
  'prepare/power-plan.ts',
  'prepare/shorts.ts',
  'prepare/make-safe.ts',
  'safety/before-opening.ts',
  'safety/cautions.ts',
  'safety/cooler.ts',
  'safety/limits.ts',
  'readings/judge-across.ts',
  'diagnosis/grouping/separate.ts',
  'short-hunt/injection.ts',
  'repair/replacement.ts',
  'repair/verify.ts',
].map((file) => `${core}/${file}`);
/** Folders of which so many lines are changed, by chance: about sixty changes each. */
/** The tests that are to notice: those beside the code, and of what stands right on it. */
const testsOf = {
  readings: 'readings,prepare,trace,report',
  units: 'units,readings',
  record: 'record,report,prepare,repair',
  board: 'board,faults,sheet-edit',
  inference: 'inference',
  diagnosis: 'diagnosis',
  play: 'play,cold,expectations,dictionary,trace,faults',
  cold: 'play,cold,expectations,dictionary,trace,faults',
  expectations: 'play,cold,expectations,dictionary,trace,faults',
  dictionary: 'play,cold,expectations,dictionary,trace,faults',
};
/** Rooms whose changes change no play: the plays of their tests are made once. */
const playNothing = ['readings', 'units', 'record', 'inference', 'diagnosis'];
const lines = Number(process.env.LINES ?? 45);

const asked = process.argv.slice(2);
/** @type {string[][]} */
const rows = [];
if (asked.length > 0) add(run(asked), (file) => relative(core, file.split(':')[0] ?? ''));
else {
  if (process.env.ONLY !== 'sample') add(run(decides), (file) => relative(core, file));
  if (process.env.ONLY !== 'decides')
    for (const [folder, tests] of Object.entries(testsOf))
      if (!process.env.ROOMS || process.env.ROOMS.split(',').includes(folder))
        add(
          run(sampleOf(folder), tests, playNothing.includes(folder)),
          () => `a sample of ${folder}/`,
        );
}
write();

/** @param {readonly string[]} mutate */
function run(
  mutate,
  tests = 'safety,prepare,readings,trace,diagnosis/proposing,diagnosis/grouping,short-hunt,repair',
  isPlayedOnce = false,
) {
  const plays = join(root, '.data/mutants-plays');
  rmSync(plays, { recursive: true, force: true });
  mkdirSync(plays, { recursive: true });
  const done = spawnSync(
    process.execPath,
    [join(root, 'node_modules/@stryker-mutator/core/bin/stryker.js'), 'run'],
    {
      cwd: root,
      stdio: 'inherit',
      env: {
        ...process.env,
        MUTATE: mutate.join(' '),
        MUTANT_TESTS: tests,
        ...(isPlayedOnce ? { JIKO_PLAYS: plays } : {}),
      },
    },
  );
  if (done.status !== 0) console.error(`stryker ended with ${done.status}`);
  return JSON.parse(readFileSync(join(root, '.data/mutants.json'), 'utf8'));
}

/**
 * Changes noticed of all that could be made, by what `name` makes of the file.
 * @param {{ files: Record<string, { mutants: { status: string }[] }> }} report
 * @param {(file: string) => string} name
 */
function add(report, name) {
  const by = new Map();
  for (const [file, { mutants }] of Object.entries(report.files)) {
    const one = by.get(name(file)) ?? { noticed: 0, all: 0 };
    for (const { status } of mutants) {
      if (['CompileError', 'RuntimeError', 'Ignored'].includes(status)) continue;
      one.all++;
      if (status === 'Killed' || status === 'Timeout') one.noticed++;
    }
    by.set(name(file), one);
  }
  for (const [of, { noticed, all }] of by) {
    if (all === 0) continue;
    rows.push([of, '75 %', `${((100 * noticed) / all).toFixed(1)} % of ${all}`]);
  }
}

/** Lines of code drawn with a seed, so that the same ones are drawn tomorrow. @param {string} folder */
function sampleOf(folder) {
  let state = 20261126;
  // A linear congruential generator (Numerical Recipes): any will do.
  const chance = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  const all = readdirSync(join(root, core, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts') && !/\.test\.ts$|(^|\/)index\.ts$/.test(name))
    .sort()
    .flatMap((name) => {
      const file = `${core}/${folder}/${name}`;
      return readFileSync(join(root, file), 'utf8')
        .split('\n')
        .flatMap((line, at) =>
          // A line something can be changed on: no comment, import, type or bracket alone.
          /[<>=!?+\-*/&|'`\d]/.test(line) &&
          !/^\s*(\/\/|\*|\/\*|import|export (type|interface)|type |interface )/.test(line)
            ? [`${file}:${at + 1}-${at + 1}`]
            : [],
        );
    });
  const drawn = new Set();
  while (drawn.size < Math.min(lines, all.length))
    drawn.add(all[Math.floor(chance() * all.length)]);
  return [...drawn].filter((line) => line !== undefined);
}

/** Its own part of the figures; what was not run now stays. */
function write() {
  for (const row of rows) console.log(row.join(': '));
  if (rows.length === 0) return;
  const file = join(root, 'docs/figures.md');
  const before = figuresPart(file, 'mutants')
    .split('\n')
    .filter((line) => line.startsWith('| ') && !/^\| (where|---) /.test(line))
    .map((line) => line.slice(2, -2).split(' | '))
    .filter(([of]) => rows.every((row) => row[0] !== of));
  writeFiguresPart(file, 'mutants', [
    '## Mutants',
    '',
    'Changes put into the core one at a time by `npm run mutants`, and how many of them the tests noticed. Samples are of lines drawn with a seed.',
    '',
    '| where | aim | noticed |',
    '| --- | --- | --- |',
    ...[...before, ...rows]
      .sort(([a = ''], [b = '']) => (a < b ? -1 : 1))
      .map((cells) => `| ${cells.join(' | ')} |`),
  ]);
}
