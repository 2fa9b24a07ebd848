// npm start, npm run dev, npm run demo:reset: database, migrations, demo data, app; Ctrl-C ends all.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { fileURLToPath } from 'node:url';
import { startCluster } from './cluster.mjs';
import { clusterState, dataFolder, DataTrouble, holdFolder, moveOldData } from './data-folder.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const isDev = process.argv.includes('--dev');
const isReset = process.argv.includes('--demo-reset');
const isRemoval = process.argv.includes('--demo-remove');
const isOnce = isReset || isRemoval;
const webFolder = join(root, 'packages/web/dist');
const vite = createRequire(join(root, 'packages/web/package.json')).resolve('vite/package.json');
// Set to nothing is not set.
const given = process.env.DATABASE_URL || null;
const folder = given ? null : dataFolder();

/** @typedef {import('node:child_process').ChildProcess & { title?: string }} Child */
/** @type {Set<Child>} */
const children = new Set();
/** @type {Awaited<ReturnType<typeof startCluster>> | null} */
let cluster = null;
/** @type {Awaited<ReturnType<typeof holdFolder>> | null} */
let held = null;
let ending = false;
process.on('SIGINT', () => void end(0));
process.on('SIGTERM', () => void end(0));
process.on('SIGHUP', () => void end(0));

try {
  if (folder) {
    held = await holdFolder(folder, (words) => {
      console.error(words);
      void end(1);
    });
    const moved = process.env.JIKO_DATA ? null : moveOldData(join(root, '.data'), folder);
    if (moved) console.log(moved);
  }
  if (!isDev && !isOnce) buildWeb();
  const demo = process.env.JIKO_DEMO ?? (folder && !isOnce ? await askForDemo(folder) : 'once');
  if (folder) cluster = await startCluster(folder, { say: console.log });
  const address = await startServer(process.env.PORT ?? (isOnce ? '0' : '4600'), demo);
  if (isOnce) {
    console.log(
      isReset ? 'The demo boards and jobs are as new.' : 'The demo is gone; your own jobs stay.',
    );
    await end(0);
  } else {
    held?.says(address);
    keepUp(address);
    if (isDev) {
      run('web', [join(dirname(vite), 'bin/vite.js'), '--clearScreen', 'false'], {
        cwd: join(root, 'packages/web'),
        environment: { JIKO_API: address },
      });
    } else {
      console.log(
        `\nJiko is ready: ${address}\n${folder ? `Its data lies in ${folder}.\n` : ''}\nCtrl-C stops it.`,
      );
    }
  }
} catch (error) {
  console.error(error instanceof DataTrouble ? error.message : error);
  await end(1);
}

function buildWeb() {
  const built = join(webFolder, 'index.html');
  if (
    existsSync(built) &&
    newest(['packages/web', 'packages/core', 'packages/contract'].map((path) => join(root, path))) <
      statSync(built).mtimeMs
  )
    return;
  console.log('Building the web app...');
  const done = spawnSync(
    process.execPath,
    [join(dirname(vite), 'bin/vite.js'), 'build', '--logLevel', 'warn'],
    {
      cwd: join(root, 'packages/web'),
      stdio: 'inherit',
    },
  );
  if (done.status !== 0) throw new DataTrouble('The web app could not be built.');
}

/** Newest change under the folders, in milliseconds. @param {string[]} folders */
function newest(folders) {
  let latest = 0;
  for (const folder of folders) {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      if (entry.name === 'node_modules' || entry.name === 'dist') continue;
      const path = join(folder, entry.name);
      latest = Math.max(latest, entry.isDirectory() ? newest([path]) : statSync(path).mtimeMs);
    }
  }
  return latest;
}

/** Asked once, at the very first start, where somebody can answer. @param {string} place */
async function askForDemo(place) {
  if (!process.stdin.isTTY || !process.stdout.isTTY || clusterState(place) === 'there')
    return 'once';
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  try {
    const answer = await lines.question(
      'Put in the demo, invented boards and jobs to try it on? It can be removed later. [Y/n] ',
      // Nobody there: as for who only presses Enter.
      { signal: AbortSignal.timeout(30_000) },
    );
    return /^n/i.test(answer.trim()) ? 'none' : 'once';
  } catch {
    console.log();
    return 'once';
  } finally {
    lines.close();
  }
}

/**
 * Starts the server on a port; its address once it listens.
 * @param {string} port
 * @param {string} demo
 * @returns {Promise<string>}
 */
function startServer(port, demo) {
  const server = run(
    'server',
    [
      '--import',
      '@oxc-node/core/register',
      ...(isDev ? ['--watch'] : []),
      join(root, 'packages/server/src/main.ts'),
    ],
    {
      cwd: root,
      isTied: true,
      environment: {
        DATABASE_URL: given ?? cluster?.url,
        ...(cluster ? { DATABASE_OWNER_URL: cluster.ownerUrl } : {}),
        ...(folder ? { JIKO_FOLDER: folder, JIKO_DATA_TOOL: join(root, 'scripts/data.mjs') } : {}),
        PORT: port,
        HOST: process.env.HOST ?? '127.0.0.1',
        LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
        JIKO_DEMO: isReset ? 'reset' : isRemoval ? 'remove' : demo,
        JIKO_SHEETS: join(root, 'sheets'),
        JIKO_TIED: 'yes',
        ...(isDev ? {} : { JIKO_WEB: webFolder }),
      },
    },
  );
  return new Promise((resolve, reject) => {
    let heard = '';
    server.stdout?.on('data', (chunk) => {
      const text = String(chunk);
      heard += text;
      const ready = /listening on (\S+)/.exec(heard);
      if (ready?.[1]) resolve(ready[1]);
      process.stdout.write(text.replace(/listening on \S+\n/, ''));
    });
    // What it had to say it has said.
    server.once('exit', (code) =>
      reject(new DataTrouble(`The server did not start (${code ?? 'killed'}).`)),
    );
  });
}

/** Pauses before what died is started again: it grows while it keeps dying. */
const pauses = [0, 1, 2, 5, 10, 30];
/** What stood so long had come up. */
const stoodSeconds = 60;

/** Starts server and database again where they end by themselves, on the ports they had. @param {string} address */
function keepUp(address) {
  const { port } = new URL(address);
  /** @param {string} name @param {() => boolean} isUp @param {() => Promise<unknown>} start */
  const again = (name, isUp, start) => {
    let fails = 0;
    let upSince = Date.now();
    let busy = false;
    setInterval(async () => {
      if (busy || ending || isUp()) return;
      busy = true;
      if (Date.now() - upSince > stoodSeconds * 1000) fails = 0;
      const pause = pauses[Math.min(fails, pauses.length - 1)] ?? 0;
      fails++;
      console.error(
        `The ${name} ended by itself; it is started again${pause > 0 ? ` in ${pause} s` : ''}.`,
      );
      await new Promise((resolve) => setTimeout(resolve, pause * 1000));
      try {
        if (!ending) await start();
        upSince = Date.now();
      } catch (error) {
        console.error(messageOf(error));
      }
      busy = false;
    }, 500);
  };
  const place = folder;
  if (cluster && place) {
    // With its identity: what ran comes back, and nothing is ever begun in its place.
    const running = cluster;
    again('database', running.isRunning, async () => {
      cluster = await startCluster(place, {
        port: running.port,
        appPassword: running.appPassword,
        identity: running.identity,
        say: console.log,
      });
    });
  }
  again(
    'server',
    () => [...children].some((child) => child.title === 'server'),
    () => startServer(port, 'once'),
  );
}

/**
 * A child in a process group of its own, so that Ctrl-C reaches only this process.
 * @param {string} name
 * @param {string[]} words
 * @param {{ cwd: string, environment: NodeJS.ProcessEnv, isTied?: boolean }} how
 */
function run(name, words, { cwd, environment, isTied = false }) {
  /** @type {Child} */
  const child = spawn(process.execPath, words, {
    cwd,
    env: { ...process.env, ...environment },
    // An open input tells the server that we live.
    stdio: [isTied ? 'pipe' : 'ignore', isTied ? 'pipe' : 'inherit', 'inherit'],
    detached: true,
  });
  child.title = name;
  children.add(child);
  child.stdin?.on('error', () => undefined);
  child.once('exit', () => children.delete(child));
  return child;
}

/** @param {unknown} error */
const messageOf = (error) => (error instanceof Error ? error.message : String(error));

/** @param {number} code */
async function end(code) {
  if (ending) return;
  ending = true;
  await Promise.all(
    [...children].map(
      (child) =>
        new Promise((resolve) => {
          child.once('exit', resolve);
          child.kill('SIGTERM');
          setTimeout(() => child.kill('SIGKILL'), 8000).unref();
        }),
    ),
  );
  try {
    cluster?.stop();
  } catch (error) {
    console.error(messageOf(error));
    code = 1;
  }
  await held?.release();
  process.exit(code);
}
