// Whether a database server runs on a folder, and how it is ended for good. Built-in modules only.
import { existsSync, readFileSync, readlinkSync, statSync } from 'node:fs';
import { join } from 'node:path';

/**
 * The server that really runs on the cluster `pg`, or null. The lock file alone proves nothing: after a
 * crash its process id may be that of another program. The folder may be written in two ways (a link
 * somewhere in the path), so folders are compared by what they are, not by name.
 * @param {string} pg
 * @returns {{ id: number, port: number } | null}
 */
export function runningPostmaster(pg) {
  const lock = join(pg, 'postmaster.pid');
  if (!existsSync(lock)) return null;
  const lines = readFileSync(lock, 'utf8').split('\n');
  const id = Number(lines[0]?.trim());
  if (!Number.isInteger(id) || id <= 0) return null;
  const words = readIf(`/proc/${id}/cmdline`).split('\0');
  if (!/postgres$/.test(words[0] ?? '')) return null;
  const named = words[words.indexOf('-D') + 1];
  const isOurs = (named !== undefined && isSameFolder(named, pg)) || isSameFolder(cwdOf(id), pg);
  return isOurs ? { id, port: Number(lines[3]) } : null;
}

/**
 * Ends a server left behind on a cluster that is to be deleted: at once, nothing of it is kept.
 * @param {string} pg
 */
export async function killPostmaster(pg) {
  const running = runningPostmaster(pg);
  if (!running) return;
  process.kill(running.id, 'SIGQUIT');
  for (let tries = 0; tries < 100 && runningPostmaster(pg); tries++)
    await new Promise((done) => setTimeout(done, 50));
}

/**
 * Whether two paths lead to one folder.
 * @param {string} first
 * @param {string} second
 */
export function isSameFolder(first, second) {
  try {
    const [a, b] = [statSync(first), statSync(second)];
    return a.dev === b.dev && a.ino === b.ino;
  } catch {
    return false;
  }
}

/** @param {string} path */
function readIf(path) {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return '';
  }
}

/** A server works in its cluster; only its own user and root may look. @param {number} id */
function cwdOf(id) {
  try {
    return readlinkSync(`/proc/${id}/cwd`);
  } catch {
    return '';
  }
}
