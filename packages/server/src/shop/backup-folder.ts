import { execFile } from 'node:child_process';
import { readdir, stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import type { BackupFolder } from './shop.ts';

const daily = /^jiko-\d{4}-\d{2}-\d{2}\.backup$/;

/** Backups are made by the tool the command line uses as well (scripts/data.mjs). */
export function makeBackupFolder(folder: string, tool: string): BackupFolder {
  const backups = join(folder, 'backups');
  let stopped = new AbortController();
  return {
    folder,
    async list() {
      const names = await readdir(backups).catch(() => []);
      const found = names
        .filter((name) => daily.test(name))
        .sort()
        .reverse();
      return Promise.all(
        found.map(async (name) => {
          const { size, mtime } = await stat(join(backups, name));
          return { name, bytes: size, at: mtime.toISOString() };
        }),
      );
    },
    make: (isDaily) =>
      new Promise((resolve, reject) => {
        // Tied to us by its input: it ends when we do, however that is.
        const environment: NodeJS.ProcessEnv = {
          ...process.env,
          JIKO_DATA: folder,
          JIKO_TIED: 'yes',
        };
        // What the app connects to is this folder's cluster; the tool finds it by the folder.
        delete environment['DATABASE_URL'];
        execFile(
          process.execPath,
          [tool, 'backup', ...(isDaily ? ['--daily'] : [])],
          { env: environment, maxBuffer: 1024 ** 2, signal: stopped.signal },
          (error, stdout, stderr) =>
            error ? reject(new Error(stderr.trim() || error.message)) : resolve(stdout.trim()),
        );
      }),
    stop() {
      stopped.abort();
      stopped = new AbortController();
    },
    async freeBytes() {
      const { bavail, bsize } = await statfs(folder);
      return bavail * bsize;
    },
  };
}
