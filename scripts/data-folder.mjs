// Where Jiko's data lies, who holds it, and what state it is in. Built-in modules only.
import { spawn, spawnSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';

/** Something the user has to know and decide: said in its own words, without a stack. */
export class DataTrouble extends Error {}

/** The data folder: JIKO_DATA, else where the system or the user keeps data and backups look. */
export function dataFolder() {
  const { JIKO_DATA, XDG_DATA_HOME } = process.env;
  if (JIKO_DATA) return resolve(JIKO_DATA);
  if (process.getuid?.() === 0) return '/var/lib/jiko';
  return join(XDG_DATA_HOME || join(homedir(), '.local/share'), 'jiko');
}

/** Makes the folder where it is not there; what is there keeps its mode. */
export function makeFolder(folder) {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o755 });
  } catch (error) {
    throw new DataTrouble(
      `The data folder ${folder} cannot be made (${error.code}). Set JIKO_DATA to a folder that can be written.`,
    );
  }
}

/**
 * Waits for nobody: holds the folder until this process ends, however it ends, or says who does. The
 * lock is the kernel's (flock), kept by a child whose input closes with us.
 */
export async function holdFolder(folder) {
  makeFolder(folder);
  const keeper = spawn(
    'flock',
    [
      '--nonblock',
      '--conflict-exit-code',
      '75',
      join(folder, 'lock'),
      'sh',
      '-c',
      'echo held; cat >/dev/null',
    ],
    {
      stdio: ['pipe', 'pipe', 'ignore'],
      detached: true,
    },
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
  keeper.unref();
  keeper.stdin.unref?.();
  keeper.stdout.destroy();
  rmSync(join(folder, 'address'), { force: true });
  return {
    /** Tells who comes second where the app answers. */
    says: (address) => writeFileSync(join(folder, 'address'), `${address}\n`),
    release() {
      rmSync(join(folder, 'address'), { force: true });
      return new Promise((done) => {
        keeper.removeAllListeners('exit');
        keeper.ref();
        keeper.once('exit', done);
        keeper.stdin.end();
      });
    },
  };
}

/** Where the app that holds the folder answers; null while it starts, or where nobody holds it. */
export function addressOf(folder) {
  try {
    return readFileSync(join(folder, 'address'), 'utf8').trim() || null;
  } catch {
    return null;
  }
}

function holderWords(folder) {
  const address = addressOf(folder);
  return address
    ? `Jiko already runs on this data: ${address} (data folder ${folder}).`
    : `Another Jiko is just starting, or at work, on the data folder ${folder}: try again in a moment.`;
}

const newName = /^pg\.new-[0-9a-f]{8}$/;

/**
 * What lies where the cluster should: `none` (make it), `there`. Anything else is the user's to decide:
 * nothing that Jiko did not make, or cannot read, is ever deleted.
 */
export function clusterState(folder) {
  const pg = join(folder, 'pg');
  for (const name of existsSync(folder) ? readdirSync(folder) : [])
    // Left by a start that was cut off while it made one under a name of its own.
    if (newName.test(name)) rmSync(join(folder, name), { recursive: true, force: true });
  const found = look(pg);
  if (found === null) {
    const half = (existsSync(folder) ? readdirSync(folder) : []).find(
      (name) => /^restoring-/.test(name) && existsSync(join(folder, name, 'pg/PG_VERSION')),
    );
    const aside =
      existsSync(folder) && readdirSync(folder).some((name) => /^pg\.set-aside-/.test(name));
    if (half && aside)
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
  if (isServed(real))
    throw new DataTrouble(
      `A database still runs on ${real}, which is to be moved to ${now}: stop that Jiko first.`,
    );
  makeFolder(folder);
  for (const end of ['.password', '.log', ''])
    if (existsSync(`${real}${end}`)) move(`${real}${end}`, `${now}${end}`);
  if (lstatSync(old, { throwIfNoEntry: false })?.isSymbolicLink()) unlinkSync(old);
  return `The data was moved from ${real} to ${now}, where backups look.`;
}

/** Renames, or across file systems copies, keeps owners, and only then removes. */
function move(from, to) {
  try {
    renameSync(from, to);
  } catch (error) {
    if (error.code !== 'EXDEV') throw error;
    const half = `${to}.moving`;
    rmSync(half, { recursive: true, force: true });
    cpSync(from, half, { recursive: true, preserveTimestamps: true });
    const { uid, gid } = statSync(from);
    own(half, uid, gid);
    renameSync(half, to);
    rmSync(from, { recursive: true });
  }
}

export function own(path, uid, gid) {
  const done = spawnSync('chown', ['-R', `${uid}:${gid}`, path], { stdio: 'ignore' });
  if (done.status !== 0) throw new DataTrouble(`${path} cannot be given to the database's user.`);
}

function isServed(pg) {
  const lock = join(pg, 'postmaster.pid');
  if (!existsSync(lock)) return false;
  const id = readFileSync(lock, 'utf8').split('\n')[0]?.trim();
  return (
    existsSync(`/proc/${id}/cmdline`) &&
    /postgres/.test(readFileSync(`/proc/${id}/cmdline`, 'utf8'))
  );
}
