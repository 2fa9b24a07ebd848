// What the tests of the data folder share: folders that go with the tests, and a cluster's tables.
import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, it } from 'vitest';
import { startCluster } from './cluster.mjs';
import { sql } from './connection.mjs';

export const tool = fileURLToPath(new URL('./data.mjs', import.meta.url));

/** @type {string[]} */
const made = [];
export const folder = () => {
  const path = mkdtempSync(join(tmpdir(), 'jiko-data-'));
  // The database's user has to enter what mkdtemp made for this user alone.
  chmodSync(path, 0o755);
  made.push(path);
  return path;
};
afterAll(() => {
  for (const path of made) rmSync(path, { recursive: true, force: true });
});

/** @type {string | null} */
let template = null;
/** A folder with a database that was made and rests: a copy, which takes less than making one. */
export const preparedFolder = async () => {
  if (template === null) {
    template = folder();
    (await startCluster(template)).stop();
  }
  const path = folder();
  spawnSync('cp', ['-a', `${template}/.`, path]);
  return path;
};

/** npx jiko with words, on a data folder. @param {string} place @param {string[]} words */
export const run = (place, ...words) => {
  const environment = { ...process.env, JIKO_DATA: place, DATABASE_URL: undefined };
  const done = spawnSync(process.execPath, [tool, ...words], {
    encoding: 'utf8',
    env: environment,
  });
  return { status: done.status, text: `${done.stdout}${done.stderr}` };
};

/** @typedef {{ bin: string, ownerUrl: string }} Cluster */
/** Tables like the app's, with so many entries. @param {Cluster} cluster @param {number} entries */
export const fill = ({ bin, ownerUrl }, entries) =>
  sql(
    bin,
    ownerUrl,
    `CREATE TABLE IF NOT EXISTS migrations (name text); CREATE TABLE IF NOT EXISTS job (id int);
     CREATE TABLE IF NOT EXISTS job_event (id int, body text); CREATE TABLE IF NOT EXISTS dictionary (name text);
     INSERT INTO migrations VALUES ('first'); INSERT INTO job VALUES (1); INSERT INTO dictionary VALUES ('left out');
     INSERT INTO job_event SELECT n, E'line\\nbreak \\\\. tab\\t ' || n FROM generate_series(1, ${entries}) n`,
  );
/** @param {Cluster} cluster */
export const count = ({ bin, ownerUrl }) =>
  Number(sql(bin, ownerUrl, 'SELECT count(*) FROM job_event'));

/** What takes many seconds and need not run at every change: npm run test:long, or vitest by hand. */
export const itLong = it.skipIf(process.env.JIKO_LONG === '');
