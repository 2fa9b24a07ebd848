// One consistent file of everything, checked by reading it back. Built-in modules only.
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { existsSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import { DataTrouble } from './data-folder.mjs';

// The file is an archive of PostgreSQL's own pg_dump (custom format), compressed; any PostgreSQL from
// that version on reads it, with or without Jiko.

const environment = { PATH: '/usr/bin:/bin', LC_ALL: 'C.UTF-8', PGCONNECT_TIMEOUT: '10' };
/** Fault dictionaries are made again where they are missing. */
const left = ['--exclude-table-data=dictionary'];

/**
 * Writes everything into `file` while the app runs, and reads it back: each table has to hold as many
 * rows as the same snapshot of the database had. Returns rows by table and the file's bytes. What `over`
 * lets it take the place of stays until then.
 */
export async function backup(bin, url, file, { over = false } = {}) {
  if (existsSync(file) && !over)
    throw new DataTrouble(`${file} is there already: choose another name.`);
  if (!existsSync(dirname(file))) throw new DataTrouble(`There is no folder ${dirname(file)}.`);
  const half = `${file}.part-${randomBytes(4).toString('hex')}`;
  const snapshot = await holdSnapshot(bin, url);
  try {
    const done = await run(join(bin, 'pg_dump'), [
      ...[
        '-Fc',
        '-Z',
        '6',
        '-x',
        '-O',
        `--snapshot=${snapshot.name}`,
        ...left,
        '-f',
        half,
        '-d',
        url,
      ],
    ]);
    if (done.status !== 0)
      throw new DataTrouble(`The backup was not written: ${plain(done.stderr)}`);
    const wanted = await snapshot.counts();
    const read = await readBack(bin, half);
    for (const [table, rows] of Object.entries(wanted))
      if (table !== 'dictionary' && (read[table] ?? 0) !== rows)
        throw new DataTrouble(
          `The backup does not read back: ${table} has ${read[table] ?? 0} rows in the file, ${rows} in the database.`,
        );
    renameSync(half, file);
    return { rows: read, bytes: statSync(file).size };
  } finally {
    await snapshot.letGo();
    rmSync(half, { force: true });
  }
}

/** What a backup holds, every byte of it read: rows by table; trouble where it is damaged or none. */
export async function readBack(bin, file) {
  if (!existsSync(file)) throw new DataTrouble(`There is no file ${file}.`);
  const child = spawn(join(bin, 'pg_restore'), ['-f', '-', file], {
    env: environment,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (chunk) => (said += chunk));
  const ended = once(child, 'close');
  const rows = {};
  let table = null;
  // A row of COPY is a line: newlines within are written as \n.
  for await (const line of createInterface({ input: child.stdout, crlfDelay: Infinity })) {
    if (table !== null) {
      if (line === '\\.') table = null;
      else rows[table]++;
      continue;
    }
    const begins = /^COPY (?:public\.)?(\w+) \(/.exec(line);
    if (begins) {
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

/** Puts a backup into an empty database; rows by table, as they then stand there. */
export async function unpack(bin, url, file) {
  const wanted = await readBack(bin, file);
  const done = await run(join(bin, 'pg_restore'), [
    ...['-x', '-O', '--exit-on-error', '--single-transaction', '-d', url, file],
  ]);
  if (done.status !== 0) throw new DataTrouble(`${file} was not restored: ${plain(done.stderr)}`);
  const snapshot = await holdSnapshot(bin, url);
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

/** A transaction held open whose snapshot pg_dump shares, so that file and counts are of one moment. */
async function holdSnapshot(bin, url) {
  const child = spawn(join(bin, 'psql'), ['-X', '-q', '-A', '-t', '-d', url], {
    env: environment,
    stdio: ['pipe', 'pipe', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (chunk) => (said += chunk));
  child.stdin.on('error', () => undefined);
  const lines = createInterface({ input: child.stdout })[Symbol.asyncIterator]();
  const ask = async (text) => {
    child.stdin.write(`${text};\n`);
    const { value, done } = await lines.next();
    if (done) throw new DataTrouble(`The database does not answer: ${plain(said)}`);
    return value;
  };
  child.stdin.write('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY;\n');
  const name = await ask('SELECT pg_export_snapshot()');
  return {
    name,
    async counts() {
      const tables = await ask(
        `SELECT coalesce(string_agg(tablename, ' ' ORDER BY tablename), ' ') FROM pg_tables WHERE schemaname = 'public'`,
      );
      const counts = {};
      for (const table of tables.split(' ').filter(Boolean))
        counts[table] = Number(await ask(`SELECT count(*) FROM "${table}"`));
      return counts;
    },
    async letGo() {
      child.stdin.end('ROLLBACK;\n');
      if (child.exitCode === null) await once(child, 'close');
    },
  };
}

const daily = /^jiko-\d{4}-\d{2}-\d{2}\.backup$/;
const mostDaily = 7;

/** The daily backups of a folder, newest first. */
export function dailyBackups(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => daily.test(name))
    .sort()
    .reverse()
    .map((name) => {
      const { size, mtime } = statSync(join(folder, name));
      return { name, bytes: size, at: mtime.toISOString() };
    });
}

/** Lets go of daily backups past the seventh; only of files that carry such a name. */
export function thinOut(folder) {
  for (const { name } of dailyBackups(folder).slice(mostDaily)) rmSync(join(folder, name));
}

export const dailyName = (date) => `jiko-${date.toISOString().slice(0, 10)}.backup`;

const plain = (text) => text.replace(/^pg_(dump|restore): (error: )?/gm, '').trim();

function run(program, words) {
  return new Promise((resolve) => {
    const child = spawn(program, words, { env: environment, stdio: ['ignore', 'ignore', 'pipe'] });
    let stderr = '';
    child.stderr.on('data', (chunk) => (stderr += chunk));
    child.once('error', (error) => resolve({ status: 1, stderr: error.message }));
    child.once('close', (status) => resolve({ status, stderr }));
  });
}
