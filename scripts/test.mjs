// npm test: what runs at every change, with one closing line of counts. npm run test:long: the rest, before
// a release and every night. npm run screenshots: the pictures in docs. npm run test:browser -- NAME:
// browser tests alone, those whose file or title holds the name, long ones too.
import { spawn } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { constants, setPriority, tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { stripVTControlCharacters } from 'node:util';
import { checks, runCheck } from './checks.mjs';
import { startCluster } from './cluster.mjs';
import { sql } from './connection.mjs';
import { readKnownFlaky, troubleWithFlaky } from './known-flaky.mjs';
import { findChromium } from './programs.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
/** @param {string} name @param {string} path */
const script = (name, path) => join(root, 'node_modules', name, path);
const onlyScreenshots = process.argv.includes('--screenshots');
const browserAt = process.argv.indexOf('--browser');
/** What follows `--browser` goes to Playwright; null: every check. */
const browserWords = browserAt < 0 ? null : process.argv.slice(browserAt + 1);
const isLong = process.argv.includes('--long');
const isBrowserOnly = onlyScreenshots || browserWords !== null;
const scratch = join(root, '.data', 'test');
let passed = 0;
let failed = 0;
/** @type {string[]} */
const failures = [];
const begun = Date.now();
/** How far in seconds a part of the run is from its beginning, to see where the time goes. */
const sinceBegin = () => `${((Date.now() - begun) / 1000).toFixed(0)} s`;

rmSync(scratch, { recursive: true, force: true });
mkdirSync(scratch, { recursive: true });

// Where the database's user can enter, whoever runs this and wherever the project lies.
const folder = process.env.DATABASE_URL ? null : mkdtempSync(join(tmpdir(), 'jiko-test-'));
if (folder) chmodSync(folder, 0o755);
const cluster = folder ? await startCluster(folder) : null;
const databaseUrl = process.env.DATABASE_URL ?? cluster?.superUrl ?? '';
/** What runs beside the plays, before the browser: the first waits for the disk mostly, the checks fill what it leaves. */
const first = [() => vitest('data folder and backups', ['--project', 'scripts'])];
const stillChecks = checks.map((check) => () => runOne(check));
/** What needs no browser and comes after it, two at a time; what takes both cores comes last. */
const others = [
  () =>
    vitest('API tests on a real database', ['--project', 'server'], {
      environment: { TEST_DATABASE_URL: databaseUrl },
    }),
  // Each package by itself: together they would take turns in one process, and load what they share anew.
  ...(isLong ? [] : ['cli', 'web', 'bench']).concat('pdf').map(
    (name) => () =>
      vitest(`unit tests of ${name}`, ['--project', name, '--maxWorkers', '1'], {
        isBehind: true,
      }),
  ),
  ...(isLong ? ['bench'] : [])
    .concat('core')
    .map((name) => () => vitest(`unit tests of ${name}`, ['--project', name], { isBehind: true })),
];
if (isLong) others.shift();
if (isBrowserOnly) for (const list of [first, stillChecks, others]) list.length = 0;

try {
  // Two browser tests keep two cores busy. With a third program beside them all of it took a third longer:
  // a page that is late is asked over and over.
  await browserLane().catch(trouble);
  others.unshift(...stillChecks.splice(0));
  await Promise.all([pull(others), pull(others)]);
} catch (error) {
  trouble(error);
} finally {
  cluster?.stop();
  if (folder) rmSync(folder, { recursive: true, force: true });
}
console.log(`\nAll of it took ${sinceBegin()}.`);
for (const failure of failures) console.log(`failed: ${failure}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

/** @param {unknown} error */
function trouble(error) {
  failed++;
  failures.push(error instanceof Error ? String(error.stack) : String(error));
}

/** Builds the app and drives it, while the plays the browser tests need are made. */
async function browserLane() {
  const seeds = run(['--import', '@oxc-node/core/register', join(root, 'e2e/seed.ts'), scratch], {
    environment: { JIKO_PLAYS: scratch },
  });
  // The plays take one core for a minute: what waits for the database mostly has the other.
  const beside = pull(first);
  console.log('\n--- build of the web app');
  const build = await run([script('vite', 'bin/vite.js'), 'build', '--logLevel', 'warn'], {
    cwd: join(root, 'packages/web'),
  });
  count('build of the web app', build.status === 0 ? 1 : 0, build.status === 0 ? 0 : 1);
  let isWaiting = true;
  const waited = Promise.all([beside, seeds]).finally(() => (isWaiting = false));
  await pull(stillChecks, () => isWaiting);
  await waited;
  await browserTests(seeds);
}

/**
 * Does one after the other of a list, as long as anything is left and `goesOn` says so.
 * @param {(() => Promise<unknown>)[]} list
 */
async function pull(list, goesOn = () => true) {
  while (goesOn()) {
    const next = list.shift();
    if (!next) return;
    await next().catch(trouble);
  }
}

/** Types, lint, imports, unused code or format. @param {import('./checks.mjs').Check} check */
async function runOne(check) {
  const { isWell, said, seconds } = await runCheck(check, { isBehind: true, isQuick: !isLong });
  const [name] = check;
  console.log(
    `--- ${name}: ${isWell ? 'passed' : 'FAILED'} in ${seconds.toFixed(1)} s\n${isWell ? '' : said}`.trimEnd(),
  );
  count(name, isWell ? 1 : 0, isWell ? 0 : 1);
}

/**
 * A Node program run to its end: what one beside others says is kept until then; one behind them waits
 * for them.
 * @param {string[]} words
 * @param {{ cwd?: string, environment?: NodeJS.ProcessEnv, isBeside?: boolean, isBehind?: boolean }} [how]
 * @returns {Promise<{ status: number | null, said: string }>}
 */
async function run(
  words,
  { cwd = root, environment = {}, isBeside = false, isBehind = false } = {},
) {
  const child = spawn(process.execPath, words, {
    cwd,
    stdio: isBeside ? ['ignore', 'pipe', 'pipe'] : 'inherit',
    env: { ...process.env, ...environment },
  });
  let said = '';
  if (isBehind && child.pid !== undefined)
    setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
  if (isBeside) {
    child.stdout?.on('data', (chunk) => (said += chunk));
    child.stderr?.on('data', (chunk) => (said += chunk));
  }
  const status = await new Promise((resolve) => child.once('close', resolve));
  return { status, said };
}

/** @param {string} name @param {number} good @param {number} bad */
function count(name, good, bad) {
  passed += good;
  failed += bad;
  if (bad > 0) failures.push(`${name} (${bad})`);
}

/**
 * @param {string} name
 * @param {string[]} words
 * @param {{ environment?: NodeJS.ProcessEnv, isBehind?: boolean }} [how]
 */
async function vitest(name, words, how = {}) {
  const out = join(scratch, `${name.replaceAll(' ', '-')}.json`);
  const done = await run(
    [
      script('vitest', 'vitest.mjs'),
      'run',
      ...words,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${out}`,
    ],
    {
      ...how,
      environment: { ...how.environment, JIKO_LONG: isLong ? 'only' : '', JIKO_PLAYS: scratch },
      isBeside: true,
    },
  );
  console.log(`\n--- ${name}, ended after ${sinceBegin()}\n${done.said}`);
  const { numPassedTests, numFailedTests, numTotalTests, testResults } = JSON.parse(
    readFileSync(out, 'utf8'),
  );
  for (const file of testResults)
    for (const { status, fullName, failureMessages } of file.assertionResults)
      if (status === 'failed')
        failures.push(
          `${relative(root, file.name)}: ${fullName}\n${firstLines(failureMessages[0])}`,
        );
  // A file that does not even load fails no test of its own.
  const broken = done.status !== 0 && numFailedTests === 0 ? 1 : 0;
  count(name, numPassedTests, numFailedTests + broken + (numTotalTests === 0 ? 1 : 0));
}

/** @param {Promise<{ status: number | null }>} seeds */
async function browserTests(seeds) {
  const name = onlyScreenshots ? 'screenshots' : 'browser tests';
  console.log(`\n--- ${name}`);
  const database = cluster
    ? {
        DATABASE_URL: cluster.url,
        DATABASE_OWNER_URL: cluster.ownerUrl,
        JIKO_FOLDER: folder ?? '',
        JIKO_DATA_TOOL: join(root, 'scripts/data.mjs'),
      }
    : { DATABASE_URL: freshDatabase(`e2e_${process.pid}`) };
  const server = spawn(
    process.execPath,
    ['--import', '@oxc-node/core/register', join(root, 'packages/server/src/main.ts')],
    {
      cwd: root,
      stdio: ['ignore', 'pipe', 'inherit'],
      env: {
        ...process.env,
        ...database,
        PORT: '0',
        HOST: '127.0.0.1',
        LOG_LEVEL: 'error',
        JIKO_DEMO: 'once',
        JIKO_SHEETS: join(root, 'sheets'),
        JIKO_WEB: join(root, 'packages/web/dist'),
      },
    },
  );
  try {
    /** @type {string} */
    const address = await new Promise((resolve, reject) => {
      let heard = '';
      server.stdout.on('data', (chunk) => {
        heard += chunk;
        const ready = /listening on (\S+)/.exec(heard);
        if (ready?.[1]) resolve(ready[1]);
      });
      server.once('exit', (code) => reject(new Error(`the server ended (${code})`)));
    });
    if ((await seeds).status === 0) await sendDictionaries(address);
    const out = join(scratch, 'playwright.json');
    await run(
      [
        script('@playwright/test', 'cli.js'),
        'test',
        ...(browserWords ?? []),
        ...(isLong ? ['--grep', '@long'] : isBrowserOnly ? [] : ['--grep-invert', '@long']),
        '--project',
        onlyScreenshots ? 'screenshots' : 'journeys',
      ],
      {
        cwd: join(root, 'e2e'),
        environment: {
          JIKO_URL: address,
          CHROMIUM: findChromium() ?? '',
          PLAYWRIGHT_JSON_OUTPUT_NAME: out,
        },
      },
    );
    const { stats, suites } = JSON.parse(readFileSync(out, 'utf8'));
    const ended = browserTestsIn(suites, '');
    for (const { title, status, message } of ended)
      if (status === 'unexpected') failures.push(`${title}\n${firstLines(message)}`);
      else if (status === 'flaky')
        console.log(`passed the second time only: ${title}\n${firstLines(message)}`);
    const none = stats.expected + stats.flaky + stats.unexpected === 0 ? 1 : 0;
    count(name, stats.expected + stats.flaky, stats.unexpected + none);
    // What passes by chance hides what fails by chance.
    const flaky = ended.flatMap(({ title, status }) => (status === 'flaky' ? [title] : []));
    const troubles = troubleWithFlaky(readKnownFlaky(), flaky);
    count('tests that pass only the second time', troubles.length === 0 ? 1 : 0, troubles.length);
    failures.push(...troubles);
    console.log(`--- ${name}, ended after ${sinceBegin()}`);
  } finally {
    server.removeAllListeners('exit');
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
  }
}

/**
 * @typedef {{ title: string, specs: { title: string, tests: { status: string, results: { error?: { message: string } }[] }[] }[], suites?: Suite[] }} Suite
 */
/**
 * Every browser test of Playwright's report with its end, and what its first failure said.
 * @param {Suite[]} suites
 * @param {string} above
 * @returns {{ title: string, status: string, message: string | undefined }[]}
 */
function browserTestsIn(suites, above) {
  return suites.flatMap((suite) => {
    const title = above ? `${above} › ${suite.title}` : suite.title;
    const own = suite.specs.flatMap((spec) =>
      spec.tests.map(({ status, results }) => ({
        title: `${title} › ${spec.title}`,
        status,
        message: results.find((result) => result.error)?.error?.message,
      })),
    );
    return [...own, ...browserTestsIn(suite.suites ?? [], title)];
  });
}

/** The beginning of a failure's message, without the colours of a terminal. */
function firstLines(message = '') {
  return stripVTControlCharacters(message).split('\n').slice(0, 12).join('\n');
}

/** As another browser would: the server plays a sample anew before it serves them. @param {string} address */
async function sendDictionaries(address) {
  for (const { name, file, of } of JSON.parse(
    readFileSync(join(scratch, 'dictionaries.json'), 'utf8'),
  )) {
    const sent = await fetch(`${address}/api/dictionaries/${name}?${new URLSearchParams(of)}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: readFileSync(file),
    });
    if (sent.status !== 204) throw new Error(`a dictionary was not taken: ${await sent.text()}`);
  }
}

/** A database of its own on the server at hand, so that nothing of the user's is touched. @param {string} name */
function freshDatabase(name) {
  sql('/usr/bin', databaseUrl, `DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  sql('/usr/bin', databaseUrl, `CREATE DATABASE ${name}`);
  const url = new URL(databaseUrl);
  url.pathname = `/${name}`;
  return url.toString();
}
