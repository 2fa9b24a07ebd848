// Brings a fresh clone to where it can run: npm packages, PostgreSQL and, for tests, Chromium.
// Built-in modules only: it runs before anything is installed.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { findChromium, findNgspice, findPostgres } from './programs.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  stop(`Jiko needs Node.js 20.19 or newer; this is ${process.versions.node}.`);
}
installPackages();
needProgram('PostgreSQL', findPostgres, 'postgresql');
if (process.argv.includes('--browser'))
  needProgram('Chromium', findChromium, 'chromium-headless-shell');
if (process.argv.includes('--ngspice')) needProgram('ngspice', findNgspice, 'ngspice');

function installPackages() {
  const stampFile = join(root, 'node_modules', '.jiko-setup');
  const lock = readFileSync(join(root, 'package-lock.json'));
  const stamp = createHash('sha256').update(lock).update(process.version).digest('hex');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  console.log('Installing npm packages (a minute or more the first time)...');
  const environment = Object.fromEntries(
    Object.entries(process.env).filter(
      ([name]) =>
        !/^npm_(lifecycle|package|command)/.test(name) &&
        name !== 'npm_config_omit' &&
        name !== 'NODE_ENV',
    ),
  );
  const npm = process.env.npm_execpath;
  const words = ['ci', '--no-audit', '--no-fund', '--include=dev'];
  const done = npm
    ? spawnSync(process.execPath, [npm, ...words], {
        cwd: root,
        stdio: 'inherit',
        env: environment,
      })
    : spawnSync('npm', words, { cwd: root, stdio: 'inherit', env: environment });
  if (done.status !== 0) stop('npm packages could not be installed; see above.');
  mkdirSync(dirname(stampFile), { recursive: true });
  writeFileSync(stampFile, stamp);
}

/**
 * @param {string} title
 * @param {() => string | null} find
 * @param {string} debianPackage
 */
function needProgram(title, find, debianPackage) {
  if (find()) return;
  const command = `apt-get update && apt-get install -y --no-install-recommends ${debianPackage}`;
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (!mayInstall) {
    stop(`${title} is not installed. Run this, then try again:\n\n  sudo sh -c '${command}'\n`);
  }
  console.log(`Installing ${title} from Debian's packages...`);
  const done = spawnSync('sh', ['-c', command], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  if (done.status !== 0 || !find()) stop(`${title} could not be installed. Run: ${command}`);
}

/** @param {string} message @returns {never} */
function stop(message) {
  console.error(message);
  process.exit(1);
}
