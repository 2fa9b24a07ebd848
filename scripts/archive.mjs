// One consistent file of everything, checked by reading it back. Built-in modules only.
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { chmodSync, existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import { environmentOf, plainEnvironment } from './connection.mjs';
import { DataTrouble } from './data-folder.mjs';

// The file is an archive of PostgreSQL's own pg_dump (custom format), compressed; any PostgreSQL from
// that version on reads it, with or without Jiko.

/** @typedef {Record<string, number>} Rows rows by table */

/** Fault dictionaries are made again where they are missing. */
const left = ['--exclude-table-data=dictionary'];

/** Longer than any backup takes: a million entries are written and read back in a minute. */
const limitMinutes = 60;

/**
 * A signal for all the programs of one backup or restore: they end when it is aborted from outside, or
 * when it takes longer than anything of the kind.
 * @param {AbortSignal} [outer]
 */
function withLimit(outer) {
  const limit = AbortSignal.timeout(limitMinutes * 60_000);
  return outer ? AbortSignal.any([outer, limit]) : limit;
}

/**
 * Writes everything into `file` while the app runs, and reads it back: each table has to hold as many
 * rows as the same snapshot of the database had. Returns rows by table and the file's bytes. What `over`
 * lets it take the place of stays until then. Only this user can read the file, from its first byte on.
 * @param {string} bin folder of PostgreSQL's programs
 * @param {string} url
 * @param {string} file
 * @param {{ over?: boolean, signal?: AbortSignal }} [how]
 */
export async function backup(bin, url, file, { over = false, signal: outer } = {}) {
  if (existsSync(file) && !over)
    throw new DataTrouble(`${file} is there already: choose another name.`);
  if (!existsSync(dirname(file))) throw new DataTrouble(`There is no folder ${dirname(file)}.`);
  const signal = withLimit(outer);
  const half = `${file}.part-${randomBytes(4).toString('hex')}`;
  const umask = process.umask(0o077);
  try {
    const snapshot = await holdSnapshot(bin, url, signal);
    try {
      const done = await run(
        join(bin, 'pg_dump'),
        ['-Fc', '-Z', '6', '-x', '-O', `--snapshot=${snapshot.name}`, ...left, '-f', half],
        environmentOf(url),
        signal,
      );
      if (done.status !== 0)
        throw new DataTrouble(`The backup was not written: ${plain(done.stderr)}`);
      chmodSync(half, 0o600);
      const wanted = await snapshot.counts();
      const read = await readBack(bin, half, signal);
      for (const [table, rows] of Object.entries(wanted))
        if (table !== 'dictionary' && (read[table] ?? 0) !== rows)
          throw new DataTrouble(
            `The backup does not read back: ${table} has ${read[table] ?? 0} rows in the file, ${rows} in the database.`,
          );
      renameSync(half, file);
      return { rows: read, bytes: statSync(file).size };
    } finally {
      await snapshot.letGo();
    }
  } finally {
    process.umask(umask);
    rmSync(half, { force: true });
  }
}

/**
 * What a backup holds, every byte of it read: rows by table; trouble where it is damaged or none.
 * @param {string} bin
 * @param {string} file
 * @param {AbortSignal} [signal]
 */
export async function readBack(bin, file, signal) {
  if (!existsSync(file)) throw new DataTrouble(`There is no file ${file}.`);
  const child = spawn(join(bin, 'pg_restore'), ['-f', '-', file], {
    env: plainEnvironment,
    stdio: ['ignore', 'pipe', 'pipe'],
    ...(signal ? { signal, killSignal: 'SIGKILL' } : {}),
  });
  let said = '';
  child.on('error', (error) => (said += error.message));
  child.stderr.on('data', (chunk) => (said += chunk));
  const ended = once(child, 'close');
  /** @type {Rows} */
  const rows = {};
  /** @type {string | null} */
  let table = null;
  // A row of COPY is a line: newlines within are written as \n.
  for await (const line of createInterface({ input: child.stdout, crlfDelay: Infinity })) {
    if (table !== null) {
      if (line === '\\.') table = null;
      else rows[table] = (rows[table] ?? 0) + 1;
      continue;
    }
    const begins = /^COPY (?:public\.)?(\w+) \(/.exec(line);
    if (begins?.[1]) {
      table = begins[1];
      rows[table] = 0;
    }
  }
  const [status] = await ended;
  if (status !== 0) throw new DataTrouble(`${file} is no backup that can be read: ${plain(said)}`);
  if (rows.job_event === undefined || rows.migrations === undefined)
    throw new DataTrouble(`${file} is an archive, but none of Jiko's.`);
  return rows;
}

/**
 * Puts a backup into an empty database; rows by table, as they then stand there. A backup may hold any
 * SQL: `url` is that of a role without special rights, so that none of it can run a program.
 * @param {string} bin
 * @param {string} url
 * @param {string} file
 * @param {AbortSignal} [outer]
 */
export async function unpack(bin, url, file, outer) {
  const signal = withLimit(outer);
  const wanted = await readBack(bin, file, signal);
  const environment = environmentOf(url);
  const done = await run(
    join(bin, 'pg_restore'),
    [
      ...['-x', '-O', '--exit-on-error', '--single-transaction'],
      ...['-d', environment.PGDATABASE, file],
    ],
    environment,
    signal,
  );
  if (done.status !== 0) throw new DataTrouble(`${file} was not restored: ${plain(done.stderr)}`);
  const snapshot = await holdSnapshot(bin, url, signal);
  try {
    const there = await snapshot.counts();
    for (const [table, rows] of Object.entries(wanted))
      if (there[table] !== rows)
        throw new DataTrouble(
          `${file} was not restored whole: ${table} has ${there[table] ?? 0} of ${rows} rows.`,
        );
  } finally {
    await snapshot.letGo();
  }
  return wanted;
}

/**
 * A transaction held open whose snapshot pg_dump shares, so that file and counts are of one moment. psql
 * ends at its first error (ON_ERROR_STOP), so a question is never waited for in vain.
 * @param {string} bin
 * @param {string} url
 * @param {AbortSignal} signal
 */
async function holdSnapshot(bin, url, signal) {
  const child = spawn(join(bin, 'psql'), ['-X', '-q', '-A', '-t', '-v', 'ON_ERROR_STOP=1'], {
    env: environmentOf(url),
    stdio: ['pipe', 'pipe', 'pipe'],
    signal,
    killSignal: 'SIGKILL',
  });
  let said = '';
  const ended = new Promise((done) => child.once('close', done));
  child.on('error', (error) => (said += error.message));
  child.stderr.on('data', (chunk) => (said += chunk));
  child.stdin.on('error', () => undefined);
  const lines = createInterface({ input: child.stdout })[Symbol.asyncIterator]();
  /** @param {string} text */
  const ask = async (text) => {
    child.stdin.write(`${text};\n`);
    const { value, done } = await lines.next();
    if (done) {
      await ended;
      throw new DataTrouble(`The database does not answer: ${plain(said)}`);
    }
    return String(value);
  };
  child.stdin.write('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY;\n');
  const name = await ask('SELECT pg_export_snapshot()');
  return {
    name,
    async counts() {
      const tables = await ask(
        `SELECT coalesce(string_agg(tablename, ' ' ORDER BY tablename), ' ') FROM pg_tables WHERE schemaname = 'public'`,
      );
      /** @type {Rows} */
      const counts = {};
      for (const table of tables.split(' ').filter(Boolean))
        counts[table] = Number(await ask(`SELECT count(*) FROM "${table}"`));
      return counts;
    },
    async letGo() {
      child.stdin.end('ROLLBACK;\n');
      await ended;
    },
  };
}

const daily = /^jiko-(\d{4}-\d{2}-\d{2})\.backup$/;
const mostDaily = 7;

/**
 * The daily backups of a folder, newest first.
 * @param {string} folder
 */
export function dailyBackups(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => daily.test(name))
    .sort()
    .reverse();
}

/**
 * Lets go of daily backups past the seventh, counted from `now` back; only of files that carry such a
 * name. One of a day to come was made while the clock was wrong: it counts for nothing and stays, or it
 * would push out the true ones.
 * @param {string} folder
 * @param {Date} now
 */
export function thinOut(folder, now) {
  const today = dailyName(now);
  const past = dailyBackups(folder).filter((name) => name <= today);
  for (const name of past.slice(mostDaily)) rmSync(join(folder, name));
}

/** @param {Date} date */
export const dailyName = (date) => `jiko-${date.toISOString().slice(0, 10)}.backup`;

const partName = /\.part-[0-9a-f]{8}$/;

/**
 * What killed backups left in the folder of daily ones.
 * @param {string} folder
 */
export function clearParts(folder) {
  for (const name of existsSync(folder) ? readdirSync(folder) : [])
    if (partName.test(name)) rmSync(join(folder, name), { force: true });
}

/** @param {string} text */
const plain = (text) => text.replace(/^(pg_(dump|restore)|psql:?[^:]*): (error: )?/gm, '').trim();

/**
 * @param {string} program
 * @param {string[]} words
 * @param {NodeJS.ProcessEnv} environment
 * @param {AbortSignal} signal
 * @returns {Promise<{ status: number | null, stderr: string }>}
 */
function run(program, words, environment, signal) {
  return new Promise((resolve) => {
    const child = spawn(program, words, {
      env: environment,
      stdio: ['ignore', 'ignore', 'pipe'],
      signal,
      killSignal: 'SIGKILL',
    });
    let stderr = '';
    child.stderr.on('data', (chunk) => (stderr += chunk));
    child.once('error', (error) => {
      stderr += error.message;
      // A program that could not be started never closes.
      if (child.pid === undefined) resolve({ status: 1, stderr });
    });
    child.once('close', (status) => resolve({ status, stderr }));
  });
}
