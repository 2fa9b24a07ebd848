// Where Debian puts the programs Jiko needs. Built-in modules only.
import { accessSync, constants, existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

/** Folder with initdb, pg_ctl and postgres of the newest PostgreSQL, or null. */
export function findPostgres() {
  if (process.env.DATABASE_URL) return 'an existing server';
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).map(Number).filter(Number.isFinite) : [];
  const folders = versions
    .sort((a, b) => b - a)
    .map((version) => join(base, String(version), 'bin'));
  return (
    folders.find(
      (folder) => runnable(join(folder, 'initdb')) && runnable(join(folder, 'postgres')),
    ) ?? null
  );
}

/** The same of one major version, or null. @param {string} major */
export function postgresOf(major) {
  const folder = join('/usr/lib/postgresql', major, 'bin');
  return runnable(join(folder, 'postgres')) ? folder : null;
}

/** The one without windows first: the same browser, a fifth less work. */
export function findChromium() {
  const names = ['chromium-headless-shell', 'chromium', 'chromium-browser'];
  const known = [process.env.CHROMIUM, ...names.map((name) => `/usr/bin/${name}`)];
  return known.find((path) => path && runnable(path)) ?? null;
}

/** The circuit simulator the solver is checked against; for tests only. */
export function findNgspice() {
  return runnable('/usr/bin/ngspice') ? '/usr/bin/ngspice' : null;
}

/** @param {string} path */
function runnable(path) {
  try {
    accessSync(path, constants.X_OK);
    return true;
  } catch {
    return false;
  }
}
