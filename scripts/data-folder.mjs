// Where Jiko's data lies, who holds it, and what state it is in. Built-in modules only.
import { spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  existsSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  realpathSync,
  renameSync,
  rmdirSync,
  rmSync,
  statSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import { killPostmaster, runningPostmaster } from './postmaster.mjs';

/** Something the user has to know and decide: said in its own words, without a stack. */
export class DataTrouble extends Error {}

/** The data folder: JIKO_DATA, else where the system or the user keeps data and backups look. */
export function dataFolder() {
  const { JIKO_DATA, XDG_DATA_HOME } = process.env;
  if (JIKO_DATA) return resolve(JIKO_DATA);
  if (process.getuid?.() === 0) return '/var/lib/jiko';
  return join(XDG_DATA_HOME || join(homedir(), '.local/share'), 'jiko');
}

/** PostgreSQL's own starter hands paths to a shell, which would run what stands in them. */
const unsafeInPath = /["`$\\\n\r]/;

/**
 * Makes the folder where it is not there; what is there keeps its mode.
 * @param {string} folder
 */
export function makeFolder(folder, mode = 0o755) {
  if (unsafeInPath.test(folder))
    throw new DataTrouble(
      `The data folder ${JSON.stringify(folder)} has a character in its path that PostgreSQL cannot be trusted with (" \` $ \\ or a line break). Set JIKO_DATA to a folder without.`,
    );
  try {
    mkdirSync(folder, { recursive: true, mode });
  } catch (error) {
    throw new DataTrouble(
      `The data folder ${folder} cannot be made (${codeOf(error)}). Set JIKO_DATA to a folder that can be written.`,
    );
  }
  if (unsafeInPath.test(realpathSync(folder))) makeFolder(realpathSync(folder));
}

/**
 * Where backups lie: entered by this user alone. One of an earlier version is closed to others too.
 * @param {string} folder
 */
export function backupsFolder(folder) {
  const backups = join(folder, 'backups');
  makeFolder(backups, 0o700);
  chmodSync(backups, 0o700);
  for (const name of readdirSync(backups))
    if (name.endsWith('.backup')) chmodSync(join(backups, name), 0o600);
  return backups;
}

/** @param {unknown} error */
const codeOf = (error) => /** @type {NodeJS.ErrnoException} */ (error).code;

/**
 * Waits for nobody: holds the folder until this process ends, however it ends, or says who does. The
 * lock is the kernel's (flock), kept by a child whose input closes with us. Where that child is killed
 * the lock is taken again at once; `onLost` is called where somebody else was faster.
 * @param {string} folder
 * @param {(words: string) => void} [onLost]
 */
export async function holdFolder(folder, onLost = endAll) {
  makeFolder(folder);
  let keeper = await keepLock(folder);
  let released = false;
  const watch = () =>
    keeper.once('exit', () => {
      if (!released) void regain();
    });
  const regain = async () => {
    // The lock is the killed child's until the kernel has cleared it away.
    for (let tries = 1; ; tries++) {
      try {
        keeper = await keepLock(folder);
        if (released) keeper.kill();
        else watch();
        return;
      } catch (error) {
        if (tries === 10)
          return onLost(`The lock was lost: ${/** @type {Error} */ (error).message}`);
        await new Promise((done) => setTimeout(done, 50));
      }
    }
  };
  watch();
  rmSync(join(folder, 'address'), { force: true });
  return {
    /** Tells who comes second where the app answers. @param {string} address */
    says: (address) => writeFileSync(join(folder, 'address'), `${address}\n`),
    /** @returns {Promise<void>} */
    release() {
      released = true;
      rmSync(join(folder, 'address'), { force: true });
      return new Promise((done) => {
        if (keeper.exitCode !== null || keeper.signalCode !== null) return done();
        keeper.ref();
        keeper.once('exit', () => done());
        keeper.stdin.end();
      });
    },
  };
}

/** @param {string} words */
function endAll(words) {
  console.error(words);
  process.kill(process.pid, 'SIGTERM');
}

/**
 * A process that holds the folder's lock until its input closes.
 * @param {string} folder
 */
async function keepLock(folder) {
  const keeper = spawn(
    'flock',
    [
      // One process, not three of which each could be killed alone.
      ...['--nonblock', '--conflict-exit-code', '75', '--no-fork', join(folder, 'lock')],
      ...['sh', '-c', 'echo held; exec cat >/dev/null'],
    ],
    { stdio: ['pipe', 'pipe', 'ignore'], detached: true },
  );
  keeper.stdin.on('error', () => undefined);
  await new Promise((done, fail) => {
    keeper.stdout.once('data', done);
    keeper.once('error', () =>
      fail(new DataTrouble('The program flock is missing: install util-linux.')),
    );
    keeper.once('exit', (code) =>
      fail(
        new DataTrouble(
          code === 75
            ? holderWords(folder)
            : `The data folder ${folder} cannot be locked: may this user write there?`,
        ),
      ),
    );
  });
  keeper.removeAllListeners('exit');
  keeper.unref();
  /** @type {import('node:net').Socket} */ (keeper.stdin).unref();
  keeper.stdout.destroy();
  return keeper;
}

/**
 * Where the app that holds the folder answers; null while it starts, or where nobody holds it.
 * @param {string} folder
 */
export function addressOf(folder) {
  try {
    return readFileSync(join(folder, 'address'), 'utf8').trim() || null;
  } catch {
    return null;
  }
}

/** @param {string} folder */
function holderWords(folder) {
  const address = addressOf(folder);
  return address
    ? `Jiko already runs on this data: ${address} (data folder ${folder}).`
    : `Another Jiko is just starting, or at work, on the data folder ${folder}: try again in a moment.`;
}

const newName = /^pg\.new-[0-9a-f]{8}$/;
const restoringName = /^restoring-[0-9a-f]{8}$/;
/** Written into a restored cluster's folder once it was counted: from then on it only has to be moved. */
export const wholeMark = 'counted';

/**
 * Clears away what was cut off in the folder, and finishes a restore that was whole but for the moving.
 * For who holds the folder, before anything is started there. Returns what was done, in words.
 * @param {string} folder
 */
export async function clearLeftovers(folder) {
  const done = [];
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    // Left by a start that was cut off while it made one under a name of its own.
    if (newName.test(name)) removeWhole(path);
    if (!restoringName.test(name)) continue;
    await killPostmaster(join(path, 'pg'));
    const isWhole = existsSync(join(path, wholeMark));
    const isNeeded = isNothing(join(folder, 'pg'));
    if (isWhole && isNeeded) {
      moveCluster(join(path, 'pg'), join(folder, 'pg'));
      done.push('A restore that was cut off at its very end was finished.');
    }
    // Of an earlier version, between its two renames: `clusterState` tells what to do.
    if (!isWhole && isNeeded && asideIn(folder) && existsSync(join(path, 'pg/PG_VERSION')))
      continue;
    removeWhole(path);
  }
  return done;
}

/**
 * Moves a cluster that rests, with its files; the folder comes last, so that a move cut off before it
 * leaves the cluster where it was.
 * @param {string} from
 * @param {string} to
 */
export function moveCluster(from, to) {
  if (existsSync(to)) rmdirSync(to);
  for (const end of ['.password', '.log', ''])
    if (existsSync(`${from}${end}`)) renameSync(`${from}${end}`, `${to}${end}`);
}

/**
 * Also what a program that was left behind still writes into, until its own end.
 * @param {string} path
 */
function removeWhole(path) {
  rmSync(path, { recursive: true, force: true, maxRetries: 50, retryDelay: 100 });
}

/** @param {string} folder */
const asideIn = (folder) =>
  existsSync(folder) && readdirSync(folder).some((name) => /^pg\.set-aside-/.test(name));

/**
 * What lies where the cluster should: `none` (make it), `there`. Anything else is the user's to decide:
 * nothing that Jiko did not make, or cannot read, is ever deleted.
 * @param {string} folder
 */
export function clusterState(folder) {
  const pg = join(folder, 'pg');
  const found = look(pg);
  if (found === null) {
    const half = (existsSync(folder) ? readdirSync(folder) : []).find(
      (name) => /^restoring-/.test(name) && existsSync(join(folder, name, 'pg/PG_VERSION')),
    );
    if (half && asideIn(folder))
      throw new DataTrouble(
        `A restore was cut off: its database lies in ${join(folder, half)}, what was there before in ${pg}.set-aside-*. Move one of them, with its .password, to ${pg}; nothing is begun anew meanwhile.`,
      );
    return 'none';
  }
  if (!found.isDirectory()) {
    throw new DataTrouble(
      `${pg} is not a folder, so the database cannot lie there. Move it away, or set JIKO_DATA to another folder.`,
    );
  }
  const entries = readdirSync(pg);
  if (entries.length === 0) return 'none';
  if (!entries.includes('PG_VERSION')) {
    throw new DataTrouble(
      [
        `${pg} holds ${entries.length} entries (${entries.slice(0, 4).join(', ')}${entries.length > 4 ? ', ...' : ''}) but no PG_VERSION: it is no database, or a copy that is not whole. Jiko leaves it as it is.`,
        'If it is a copy, copy it again, whole. If it is something of your own, move it away or set JIKO_DATA to another folder.',
        `From a backup: move ${pg} away, then: npx jiko restore FILE (daily backups lie in ${join(folder, 'backups')}).`,
      ].join('\n'),
    );
  }
  return 'there';
}

/** @param {string} path */
const isNothing = (path) => {
  const found = look(path);
  return found === null || (found.isDirectory() && readdirSync(path).length === 0);
};

/** @param {string} path */
function look(path) {
  try {
    return statSync(path);
  } catch {
    return null;
  }
}

/**
 * Data of an earlier version lay in the project, or behind a link in /var/tmp, which systems empty:
 * moved to where it lies now, unless something lies there already. Returns what was done, in words.
 * @param {string} oldFolder
 * @param {string} folder
 */
export function moveOldData(oldFolder, folder) {
  const old = join(oldFolder, 'pg');
  const now = join(folder, 'pg');
  let real;
  try {
    real = realpathSync(old);
  } catch {
    return null;
  }
  if (!existsSync(join(real, 'PG_VERSION')) || resolve(oldFolder) === resolve(folder)) return null;
  if (existsSync(now)) return `Data of an earlier version still lies in ${real}; ${now} is used.`;
  if (runningPostmaster(real))
    throw new DataTrouble(
      `A database still runs on ${real}, which is to be moved to ${now}: stop that Jiko first.`,
    );
  makeFolder(folder);
  for (const end of ['.password', '.log', ''])
    if (existsSync(`${real}${end}`)) move(`${real}${end}`, `${now}${end}`);
  if (lstatSync(old, { throwIfNoEntry: false })?.isSymbolicLink()) unlinkSync(old);
  return `The data was moved from ${real} to ${now}, where backups look.`;
}

/**
 * Renames, or across file systems copies, keeps owners, and only then removes.
 * @param {string} from
 * @param {string} to
 */
function move(from, to) {
  try {
    renameSync(from, to);
  } catch (error) {
    if (codeOf(error) !== 'EXDEV') throw error;
    const half = `${to}.moving`;
    rmSync(half, { recursive: true, force: true });
    cpSync(from, half, { recursive: true, preserveTimestamps: true });
    const { uid, gid } = statSync(from);
    own(half, uid, gid);
    renameSync(half, to);
    rmSync(from, { recursive: true });
  }
}

/**
 * @param {string} path
 * @param {number} uid
 * @param {number} gid
 */
function own(path, uid, gid) {
  const done = spawnSync('chown', ['-R', `${uid}:${gid}`, path], { stdio: 'ignore' });
  if (done.status !== 0) throw new DataTrouble(`${path} cannot be given to the database's user.`);
}
