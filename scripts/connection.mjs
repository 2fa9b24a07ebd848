// How PostgreSQL's programs are told where to connect. Built-in modules only.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

/** What PostgreSQL's programs get of our environment: nothing but what they need. */
export const plainEnvironment = { PATH: '/usr/bin:/bin', LC_ALL: 'C.UTF-8', TZ: 'UTC' };

/**
 * The environment in which psql, pg_dump and pg_restore connect to a database URL. Arguments of a process
 * can be read by every user of the machine, its environment only by its own user: no password stands in
 * the arguments.
 * @param {string} url
 */
export function environmentOf(url) {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    ...plainEnvironment,
    PGHOST: hostname,
    PGPORT: port,
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
    PGCONNECT_TIMEOUT: '10',
  };
}

/** PostgreSQL refused a piece of SQL, or the connection; `message` is in its own words. */
export class SqlError extends Error {}

/**
 * Runs a piece of SQL with psql and returns what it prints.
 * @param {string} bin folder of PostgreSQL's programs
 * @param {string} url
 * @param {string} text
 * @throws {SqlError}
 */
export function sql(bin, url, text) {
  const done = spawnSync(join(bin, 'psql'), ['-X', '-q', '-A', '-t', '-v', 'ON_ERROR_STOP=1'], {
    input: text,
    encoding: 'utf8',
    env: environmentOf(url),
  });
  if (done.status !== 0) throw new SqlError(`psql failed: ${done.stderr}`);
  return done.stdout.trim();
}
