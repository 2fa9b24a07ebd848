// npm test: every check, with one closing line of counts. npm run screenshots: the pictures in docs.
// npm run test:browser -- NAME: browser tests alone, those whose file or title holds the name.
import { spawn } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { constants, setPriority, tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { stripVTControlCharacters } from 'node:util';
import { startCluster } from './cluster.mjs';
import { findChromium } from './programs.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const script = (name, path) => join(root, 'node_modules', name, path);
const onlyScreenshots = process.argv.includes('--screenshots');
const browserAt = process.argv.indexOf('--browser');
/** What follows `--browser` goes to Playwright; null: every check. */
const browserWords = browserAt < 0 ? null : process.argv.slice(browserAt + 1);
const isBrowserOnly = onlyScreenshots || browserWords !== null;
const scratch = join(root, '.data', 'test');
let passed = 0;
let failed = 0;
const failures = [];

rmSync(scratch, { recursive: true, force: true });
mkdirSync(scratch, { recursive: true });

// Where the database's user can enter, whoever runs this and wherever the project lies.
const folder = process.env.DATABASE_URL ? null : mkdtempSync(join(tmpdir(), 'jiko-test-'));
if (folder) chmodSync(folder, 0o755);
const cluster = folder && (await startCluster(folder));
const databaseUrl = process.env.DATABASE_URL ?? cluster.superUrl;
try {
  // A page that waits leaves half of the machine idle: what needs no browser takes that half.
  const lanes = [browserLane(), ...(isBrowserOnly ? [] : [otherLane()])];
  for (const { status, reason } of await Promise.allSettled(lanes))
    if (status === 'rejected') trouble(reason);
} catch (error) {
  trouble(error);
} finally {
  cluster?.stop();
  if (folder) rmSync(folder, { recursive: true, force: true });
}
for (const failure of failures) console.log(`failed: ${failure}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

function trouble(error) {
  failed++;
  failures.push(String(error?.stack ?? error));
}

/** Builds the app and drives it, while the plays the browser tests need are made. */
async function browserLane() {
  const seeds = run(['--import', '@oxc-node/core/register', join(root, 'e2e/seed.ts'), scratch]);
  console.log('\n--- build of the web app');
  const build = await run([script('vite', 'bin/vite.js'), 'build', '--logLevel', 'warn'], {
    cwd: join(root, 'packages/web'),
  });
  count('build of the web app', build.status === 0 ? 1 : 0, build.status === 0 ? 0 : 1);
  await browserTests(seeds);
}

/** All that needs no browser: what needs the database beside the checks, then the unit tests. */
async function otherLane() {
  const checked = checkAll();
  await vitest('data folder and backups', ['--project', 'scripts']);
  await vitest('API tests on a real database', ['--project', 'server'], {
    environment: { TEST_DATABASE_URL: databaseUrl },
  });
  await checked;
  await vitest(
    'unit tests',
    ['--project', 'core', '--project', 'cli', '--project', 'web', '--project', 'pdf'],
    { isBehind: true },
  );
}

/** Types, lint, format and import direction. */
async function checkAll() {
  // Lint needs version 6 of the compiler; types are checked by the next one, four times as fast.
  const tsc = 'typescript-7/bin/tsc';
  const packages = ['core', 'contract', 'pdf', 'server', 'web', 'cli'];
  await checks([
    ['types of web', [tsc, '-p', 'packages/web']],
    ['lint', ['eslint/bin/eslint.js', '.']],
    ['format', ['prettier/bin/prettier.cjs', '--check', '.', '--log-level', 'warn']],
    ['types of e2e', [tsc, '-p', 'e2e']],
    ['types of server', [tsc, '-p', 'packages/server']],
    ['types of core', [tsc, '-p', 'packages/core']],
    ['types of pdf', [tsc, '-p', 'packages/pdf']],
    ['types of cli', [tsc, '-p', 'packages/cli']],
    ['types of contract', [tsc, '-p', 'packages/contract']],
    [
      'import direction',
      [
        'dependency-cruiser/bin/dependency-cruise.mjs',
        ...packages.map((name) => `packages/${name}/src`),
        '--config',
        '.dependency-cruiser.cjs',
      ],
    ],
  ]);
}

/** Runs checks one by one, and shows each one's words when it ends. */
async function checks(list) {
  for (const [name, [program, ...words]] of list) {
    const { status, said } = await run([join(root, 'node_modules', program), ...words], {
      isBehind: true,
      isBeside: true,
    });
    console.log(`--- ${name}: ${status === 0 ? 'passed' : 'FAILED'}\n${said}`.trimEnd());
    count(name, status === 0 ? 1 : 0, status === 0 ? 0 : 1);
  }
}

/** A Node program run to its end: what one beside others says is kept until then; one behind them waits for them. */
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
  if (isBehind) setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
  if (isBeside) {
    child.stdout.on('data', (chunk) => (said += chunk));
    child.stderr.on('data', (chunk) => (said += chunk));
  }
  const status = await new Promise((resolve) => child.once('close', resolve));
  return { status, said };
}

function count(name, good, bad) {
  passed += good;
  failed += bad;
  if (bad > 0) failures.push(`${name} (${bad})`);
}

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
    { ...how, isBeside: true },
  );
  console.log(`\n--- ${name}\n${done.said}`);
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

async function browserTests(seeds) {
  const name = onlyScreenshots ? 'screenshots' : 'browser tests';
  console.log(`\n--- ${name}`);
  const database = cluster
    ? {
        DATABASE_URL: cluster.url,
        DATABASE_OWNER_URL: cluster.ownerUrl,
        JIKO_FOLDER: folder,
        JIKO_DATA_TOOL: join(root, 'scripts/data.mjs'),
      }
    : { DATABASE_URL: await freshDatabase(`e2e_${process.pid}`) };
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
    const address = await new Promise((resolve, reject) => {
      let heard = '';
      server.stdout.on('data', (chunk) => {
        heard += chunk;
        const ready = /listening on (\S+)/.exec(heard);
        if (ready) resolve(ready[1]);
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
        '--project',
        onlyScreenshots ? 'screenshots' : 'journeys',
      ],
      {
        cwd: join(root, 'e2e'),
        environment: {
          JIKO_URL: address,
          CHROMIUM: findChromium(),
          PLAYWRIGHT_JSON_OUTPUT_NAME: out,
        },
      },
    );
    const { stats, suites } = JSON.parse(readFileSync(out, 'utf8'));
    for (const { title, status, message } of browserTestsIn(suites, ''))
      if (status === 'unexpected') failures.push(`${title}\n${firstLines(message)}`);
      else if (status === 'flaky')
        console.log(`passed the second time only: ${title}\n${firstLines(message)}`);
    const none = stats.expected + stats.flaky + stats.unexpected === 0 ? 1 : 0;
    if (stats.flaky > 0) console.log(`${stats.flaky} browser tests passed only the second time`);
    count(name, stats.expected + stats.flaky, stats.unexpected + none);
  } finally {
    server.removeAllListeners('exit');
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
  }
}

/** Every browser test of Playwright's report with its end, and what its first failure said. */
function browserTestsIn(suites, above) {
  return suites.flatMap((suite) => {
    const title = above ? `${above} › ${suite.title}` : suite.title;
    const own = suite.specs.flatMap((spec) =>
      spec.tests.map(({ status, results }) => ({
        title: `${title} › ${spec.title}`,
        status,
        message: results.find((result) => result.error)?.error.message,
      })),
    );
    return [...own, ...browserTestsIn(suite.suites ?? [], title)];
  });
}

/** The beginning of a failure's message, without the colours of a terminal. */
function firstLines(message = '') {
  return stripVTControlCharacters(message).split('\n').slice(0, 12).join('\n');
}

/** As another browser would: the server plays a sample anew before it serves them. */
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

/** A database of its own on the server at hand, so that nothing of the user's is touched. */
async function freshDatabase(name) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
  await client.query(`CREATE DATABASE ${name}`);
  await client.end();
  const url = new URL(databaseUrl);
  url.pathname = `/${name}`;
  return url.toString();
}
