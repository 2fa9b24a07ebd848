// npm start, npm run dev, npm run demo:reset: database, migrations, demo data, app; Ctrl-C ends all.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { startCluster } from './cluster.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const isDev = process.argv.includes('--dev');
const isReset = process.argv.includes('--demo-reset');
const webFolder = join(root, 'packages/web/dist');
const vite = createRequire(join(root, 'packages/web/package.json')).resolve('vite/package.json');

const children = [];
let cluster = null;
let ending = false;
process.on('SIGINT', () => void end(0));
process.on('SIGTERM', () => void end(0));
process.on('SIGHUP', () => void end(0));

try {
  if (!isDev && !isReset) buildWeb();
  const given = process.env.DATABASE_URL;
  if (!given)
    cluster = await startCluster(
      process.env.JIKO_DATA ? join(process.env.JIKO_DATA, 'pg') : join(root, '.data', 'pg'),
    );
  const address = await startServer(given ?? cluster.url);
  if (isReset) {
    console.log('The demo boards and jobs are as new.');
    await end(0);
  } else if (isDev) {
    run(
      'web',
      [join(dirname(vite), 'bin/vite.js'), '--clearScreen', 'false'],
      join(root, 'packages/web'),
      { JIKO_API: address },
    );
  } else {
    console.log(`\nJiko is ready: ${address}\n\nCtrl-C stops it.`);
  }
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
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
  if (done.status !== 0) throw new Error('the web app could not be built');
}

/** Newest change under the folders, in milliseconds. */
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

function startServer(databaseUrl) {
  const server = run(
    'server',
    [
      '--import',
      '@oxc-node/core/register',
      ...(isDev ? ['--watch'] : []),
      join(root, 'packages/server/src/main.ts'),
    ],
    root,
    {
      DATABASE_URL: databaseUrl,
      PORT: process.env.PORT ?? (isReset ? '0' : '4600'),
      HOST: process.env.HOST ?? '127.0.0.1',
      LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
      JIKO_DEMO: isReset ? 'reset' : (process.env.JIKO_DEMO ?? 'once'),
      JIKO_SHEETS: join(root, 'sheets'),
      JIKO_TIED: 'yes',
      ...(isDev ? {} : { JIKO_WEB: webFolder }),
    },
  );
  return new Promise((resolve, reject) => {
    let heard = '';
    server.stdout.on('data', (chunk) => {
      const text = String(chunk);
      heard += text;
      const ready = /listening on (\S+)/.exec(heard);
      if (ready) resolve(ready[1]);
      process.stdout.write(text.replace(/listening on \S+\n/, ''));
    });
    server.once('exit', (code) => reject(new Error(`the server ended (${code ?? 'killed'})`)));
  });
}

/** A child in a process group of its own, so that Ctrl-C reaches only this process. */
function run(name, words, cwd, environment) {
  const child = spawn(process.execPath, words, {
    cwd,
    env: { ...process.env, ...environment },
    // An open input tells the server that we live.
    stdio: [
      name === 'server' ? 'pipe' : 'ignore',
      name === 'server' ? 'pipe' : 'inherit',
      'inherit',
    ],
    detached: true,
  });
  children.push(child);
  child.once('exit', (code) => {
    if (!ending && !isDev) {
      console.error(`The ${name} ended (${code ?? 'killed'}).`);
      void end(1);
    }
  });
  return child;
}

async function end(code) {
  if (ending) return;
  ending = true;
  await Promise.all(
    children.map(
      (child) =>
        new Promise((resolve) => {
          if (child.exitCode !== null || child.signalCode !== null) return resolve();
          child.once('exit', resolve);
          child.kill('SIGTERM');
          setTimeout(() => child.kill('SIGKILL'), 8000).unref();
        }),
    ),
  );
  try {
    cluster?.stop();
  } catch (error) {
    console.error(error.message);
    code = 1;
  }
  process.exit(code);
}
