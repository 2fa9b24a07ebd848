// The checks that run nothing of the app: types, lint, imports, unused code, format.
import { spawn } from 'node:child_process';
import { constants, setPriority } from 'node:os';
import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const cache = join(root, 'node_modules/.cache/jiko');
// Lint needs version 6 of the compiler; types are checked by the next one, four times as fast.
const tsc = 'typescript-7/bin/tsc';
const packages = ['core', 'contract', 'pdf', 'server', 'web', 'cli', 'bench', 'testing'];

/** @typedef {[name: string, words: string[]]} Check */
/**
 * Names and commands, the longest first. What was found well is kept (`node_modules/.cache`), so that a
 * second run looks at what changed; types and imports are always looked at whole.
 * @type {Check[]}
 */
export const checks = [
  // No promise nobody waits for, every kind thought of, screens that keyboards and readers can use.
  ['lint', ['oxlint/bin/oxlint', '--type-aware']],
  [
    'lint of pages',
    ['eslint/bin/eslint.js', 'packages/web/src', '--cache', '--cache-strategy', 'content'].concat(
      '--cache-location',
      join(cache, 'eslint'),
    ),
  ],
  ['format', ['oxfmt/bin/oxfmt', '--check']],
  ['unused code', ['knip/bin/knip.js', '--cache', '--cache-location', join(cache, 'knip')]],
  // What runs on Node is one program: what these packages share is looked at once.
  ...[
    ['web', 'packages/web'],
    ['core', 'packages/core'],
    ['pdf', 'packages/pdf'],
    ['contract', 'packages/contract'],
    ['server, command line, bench and testing', 'tsconfig.programs.json'],
    ['e2e', 'e2e'],
    ['scripts', 'scripts'],
  ].map(
    ([name, project = '']) =>
      /** @type {[string, string[]]} */ ([`types of ${name}`, [tsc, '-p', project]]),
  ),
  [
    'import direction',
    ['dependency-cruiser/bin/dependency-cruise.mjs'].concat(
      packages.map((name) => `packages/${name}/src`),
      '--config',
      '.dependency-cruiser.cjs',
    ),
  ],
];

/**
 * Runs one check. Behind: other programs go first; quick: without the rules that take longest.
 * @param {Check} check
 * @param {{ isBehind?: boolean, isQuick?: boolean }} [how]
 */
export async function runCheck([, [program = '', ...words]], how = {}) {
  mkdirSync(cache, { recursive: true });
  const begun = Date.now();
  const { isBehind = false, isQuick = false } = how;
  const { status, said } = await run(
    [join(root, 'node_modules', program), ...words],
    isBehind,
    isQuick,
  );
  return { isWell: status === 0, said, seconds: (Date.now() - begun) / 1000 };
}

/**
 * @param {string[]} words
 * @param {boolean} isBehind
 * @param {boolean} isQuick
 * @returns {Promise<{ status: number | null, said: string }>}
 */
async function run(words, isBehind, isQuick) {
  const child = spawn(process.execPath, words, {
    cwd: root,
    stdio: ['ignore', 'pipe', 'pipe'],
    // Unused code looks into the configuration of browser tests, which wants an address.
    env: { ...process.env, JIKO_URL: 'http://localhost', JIKO_LINT: isQuick ? 'quick' : '' },
  });
  if (isBehind && child.pid !== undefined)
    setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
  let said = '';
  child.stdout.on('data', (chunk) => (said += chunk));
  child.stderr.on('data', (chunk) => (said += chunk));
  const status = await new Promise((resolve) => child.once('close', resolve));
  return { status, said };
}
