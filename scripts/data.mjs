// npx jiko backup, restore, upgrade, where: the data as a whole. Built-in modules only.
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { backup, dailyBackups, dailyName, readBack, thinOut, unpack } from './archive.mjs';
import { runningCluster, startCluster } from './cluster.mjs';
import {
  addressOf,
  backupsFolder,
  clusterState,
  dataFolder,
  DataTrouble,
  holdFolder,
  moveCluster,
  wholeMark,
} from './data-folder.mjs';
import { findPostgres } from './programs.mjs';

const usage = `npx jiko backup [FILE]            everything in one file, while Jiko runs or not
npx jiko restore FILE [--replace]  into an empty data folder; with --replace what is there is set aside
npx jiko upgrade                   data of an older PostgreSQL into the newest installed
npx jiko export-job ID [FILE]      one job with its sheets and pictures, from the Jiko that runs
npx jiko import-job FILE           the same into the Jiko that runs
npx jiko where                     where the data lies and who holds it`;

const [command, ...words] = process.argv.slice(2);
const folder = dataFolder();

// Told to stop, or left alone by who asked (its end closes our input): the programs at work are ended,
// what is half done is cleared away, and a database started for this is stopped.
const stopping = new AbortController();
for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'])
  process.on(signal, () => stopping.abort(new Error('stopped')));
if (process.env.JIKO_TIED === 'yes') {
  process.stdin.resume();
  process.stdin.once('end', () => stopping.abort(new Error('stopped')));
  process.stdin.unref?.();
}

try {
  if (process.env.DATABASE_URL)
    throw new DataTrouble(
      'DATABASE_URL is set: the data lies on that server, and is backed up there (pg_dump).',
    );
  switch (command) {
    case 'backup':
      await takeBackup(words);
      break;
    case 'restore':
      await restore(words);
      break;
    case 'upgrade':
      await upgrade();
      break;
    case 'export-job':
      await exportJob(words);
      break;
    case 'import-job':
      await importJob(words);
      break;
    case 'where':
      await where();
      break;
    default:
      throw new DataTrouble(usage);
  }
} catch (error) {
  if (!(error instanceof DataTrouble)) throw error;
  console.error(error.message);
  process.exitCode = 1;
}

/** The app that runs on the data folder. */
function address() {
  const found = addressOf(folder);
  if (!found || !runningCluster(folder))
    throw new DataTrouble(`No Jiko runs on ${folder}: start it first (npm start).`);
  return found;
}

/** @param {string[]} words */
async function exportJob([id, asked]) {
  if (!/^[0-9a-f-]{36}$/.test(id ?? '')) throw new DataTrouble(usage);
  const answer = await fetch(`${address()}/api/jobs/${id}/file`);
  if (!answer.ok) throw new DataTrouble(await wordsOf(answer));
  const named = /filename="([\w.-]+)"/.exec(answer.headers.get('content-disposition') ?? '');
  const file = resolve(asked ?? named?.[1] ?? `jiko-${id}.zip`);
  if (existsSync(file)) throw new DataTrouble(`${file} is there already: choose another name.`);
  writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
  console.log(file);
}

/** @param {string[]} words */
async function importJob([file]) {
  if (!file) throw new DataTrouble(usage);
  if (!existsSync(file)) throw new DataTrouble(`There is no file ${file}.`);
  const answer = await fetch(`${address()}/api/job-files`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/zip' },
    body: readFileSync(file),
  });
  if (!answer.ok) throw new DataTrouble(await wordsOf(answer));
  const { id, device, entries, pictures, isNew } =
    /** @type {{ id: string, device: string, entries: number, pictures: number, isNew: boolean }} */ (
      await answer.json()
    );
  console.log(
    `${isNew ? 'Taken over' : 'Here already, unchanged'}: ${device} (${id}), ${entries} entries, ${pictures} pictures.`,
  );
}

/** @param {Response} answer */
async function wordsOf(answer) {
  const { title = `status ${answer.status}`, detail = '' } =
    /** @type {{ title?: string, detail?: string }} */ (await answer.json().catch(() => ({})));
  return `${title}. ${detail}`.trim();
}

async function where() {
  console.log(`${folder}: ${clusterIn(folder)}`);
  const held = await holdFolder(folder);
  await held.release();
  console.log('Nobody holds it.');
}

/** @param {string} place */
function clusterIn(place) {
  return existsSync(join(place, 'pg/PG_VERSION'))
    ? `PostgreSQL ${readFileSync(join(place, 'pg/PG_VERSION'), 'utf8').trim()}`
    : 'no data yet';
}

/** @param {string[]} words */
async function takeBackup(words) {
  const isDaily = words.includes('--daily');
  const [asked] = words.filter((one) => !one.startsWith('--'));
  const backups = asked ? '' : backupsFolder(folder);
  const now = new Date();
  const name = isDaily ? dailyName(now) : `jiko-${stamp()}.backup`;
  const file = asked ? resolve(asked) : join(backups, name);
  const told = await withCluster((cluster) =>
    backup(cluster.bin, cluster.ownerUrl, file, { over: isDaily, signal: stopping.signal }),
  );
  if (isDaily && !asked) {
    thinOut(backups, now);
    if (!dailyBackups(backups).includes(name))
      throw new DataTrouble(`The backup ${file} was written, and is gone again.`);
  }
  console.log(
    `${file}: ${told.rows.job ?? 0} jobs with ${told.rows.job_event} entries, ${told.rows.board_version ?? 0} sheets, ${(told.rows.attachment ?? 0) + (told.rows.board_picture ?? 0)} pictures; ${Math.ceil(told.bytes / 1024)} kB, read back whole.`,
  );
}

/**
 * On the cluster that runs, or one started for this and stopped again.
 * @template T
 * @param {(cluster: { bin: string, ownerUrl: string }) => Promise<T>} work
 */
async function withCluster(work) {
  const running = runningCluster(folder);
  if (running) return work(running);
  const held = await holdFolder(folder);
  try {
    if (clusterState(folder) === 'none') throw new DataTrouble(`${folder} holds no data yet.`);
    const cluster = await startCluster(folder, { say: console.log });
    try {
      return await work(cluster);
    } finally {
      cluster.stop();
    }
  } finally {
    await held.release();
  }
}

/** @param {string[]} words */
async function restore(words) {
  const [asked] = words.filter((one) => !one.startsWith('--'));
  if (!asked) throw new DataTrouble(usage);
  const file = resolve(asked);
  const held = await holdFolder(folder);
  try {
    if (clusterState(folder) === 'there' && !words.includes('--replace'))
      throw new DataTrouble(
        `${folder} holds data already, which stays as it is. With --replace it is set aside beside the restored one; or set JIKO_DATA to another folder.`,
      );
    const rows = await into(folder, file);
    console.log(
      `Restored from ${file}: ${rows.job ?? 0} jobs with ${rows.job_event} entries, counted after.`,
    );
  } finally {
    await held.release();
  }
}

async function upgrade() {
  const held = await holdFolder(folder);
  try {
    if (clusterState(folder) === 'none') throw new DataTrouble(`${folder} holds no data yet.`);
    const made = readFileSync(join(folder, 'pg/PG_VERSION'), 'utf8').trim();
    const newest = findPostgres()?.split('/').at(-2);
    if (made === newest) {
      console.log(`The data is of PostgreSQL ${made}, the newest installed: nothing to do.`);
      return;
    }
    const backups = backupsFolder(folder);
    const file = join(backups, `jiko-of-postgresql-${made}-${stamp()}.backup`);
    const cluster = await startCluster(folder, { say: console.log });
    try {
      await backup(cluster.bin, cluster.ownerUrl, file, { signal: stopping.signal });
    } finally {
      cluster.stop();
    }
    await into(folder, file);
    console.log(`The data is of PostgreSQL ${newest} now; the backup in between is ${file}.`);
  } finally {
    await held.release();
  }
}

function stamp() {
  return new Date().toISOString().slice(0, 19).replaceAll(':', '');
}

/**
 * A backup into a cluster of its own, and only when that was counted in place of what is there.
 * @param {string} place
 * @param {string} file
 */
async function into(place, file) {
  const bin = findPostgres();
  if (!bin) throw new DataTrouble('PostgreSQL is not installed.');
  // Before anything is made: a damaged file is said at once.
  await readBack(bin, file, stopping.signal);
  const beside = join(place, `restoring-${randomBytes(4).toString('hex')}`);
  mkdirSync(beside, { mode: 0o755 });
  try {
    const cluster = await startCluster(beside);
    let rows;
    try {
      rows = await unpack(cluster.bin, cluster.ownerUrl, file, stopping.signal);
    } finally {
      cluster.stop();
    }
    // From here on the next start finishes what is cut off.
    writeFileSync(join(beside, wholeMark), '');
    const pg = join(place, 'pg');
    if (existsSync(join(pg, 'PG_VERSION'))) {
      const aside = join(place, `pg.set-aside-${stamp()}`);
      for (const end of ['', '.password', '.log'])
        if (existsSync(`${pg}${end}`)) renameSync(`${pg}${end}`, `${aside}${end}`);
      console.log(`What was there is kept: ${aside}`);
    }
    moveCluster(join(beside, 'pg'), pg);
    return rows;
  } finally {
    // Made here, under a name of its own. What was counted but not moved yet is left for the next start.
    if (!existsSync(join(beside, wholeMark)) || !existsSync(join(beside, 'pg')))
      rmSync(beside, { recursive: true, force: true });
  }
}
