// Drills of backups: E2, E5. What was found to break once, done again.
import { spawnSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  utimesSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Say } from '../entries.ts';
import {
  freshFolder,
  healed,
  nobody,
  open,
  parentOf,
  processesOf,
  smallDisk,
  started,
  type Jiko,
} from '../jiko.ts';

interface Shop {
  last: { ok: boolean; words: string } | null;
  backups: { name: string }[];
  warnings: string[];
}
async function backUp(jiko: Jiko, seconds: number): Promise<Shop | null> {
  return fetch(`${jiko.address}/api/shop/backups`, {
    method: 'POST',
    signal: AbortSignal.timeout(seconds * 1000),
  }).then(
    (answer) => answer.json() as Promise<Shop>,
    () => null,
  );
}

export async function E2(say: Say): Promise<void> {
  const disk = smallDisk(200);
  if (!disk)
    say('E2: a backup on a full disk', 'fails and is told', 'not run: no small disk', null);
  else {
    const jiko = await started(disk.path);
    await open(jiko.address);
    spawnSync('dd', ['if=/dev/zero', `of=${join(disk.path, 'filler')}`, 'bs=1M', 'count=400'], {
      stdio: 'ignore',
    });
    const full = await backUp(jiko, 30);
    rmSync(join(disk.path, 'filler'));
    await healed(jiko.address);
    const after = await backUp(jiko, 30);
    const isThere = readdirSync(join(disk.path, 'backups')).filter((name) =>
      name.endsWith('.backup'),
    );
    await jiko.stop();
    const left = processesOf(`data.mjs backup|pg_dump|psql.*${disk.path}`).filter(
      (id) => parentOf(id) !== process.pid && isOf(id, disk.path),
    );
    disk.takeOff();
    say(
      'E2: a backup on a full disk, then room again',
      'ends, is told, the next is made; no process is left',
      `${full === null ? 'NEVER ANSWERED' : full.last?.ok ? 'said to be WELL' : 'told as failed'}; with room ${after?.last?.ok ? `made (${isThere.length} file)` : 'NOT MADE'}; ${left.length} processes left`,
      full?.last?.ok === false &&
        after?.last?.ok === true &&
        isThere.length === 1 &&
        left.length === 0,
    );
  }
  const jiko = await started(freshFolder());
  await open(jiko.address);
  await backUp(jiko, 60);
  const backups = join(jiko.folder, 'backups');
  const [today = ''] = readdirSync(backups);
  for (let day = 1; day <= 7; day++) {
    const ahead = join(backups, `jiko-2099-01-0${day}.backup`);
    copyFileSync(join(backups, today), ahead);
    const date = new Date(`2099-01-0${day}T10:00:00Z`);
    utimesSync(ahead, date, date);
  }
  rmSync(join(backups, today));
  const made = await backUp(jiko, 60);
  const isThere = existsSync(join(backups, today));
  await jiko.stop();
  say(
    'E2: backups of a clock that was once wrong',
    "today's is made and stays; a warning tells of the others",
    `today's ${isThere ? 'is there' : 'is GONE'}, said to be ${made?.last?.ok ? 'well' : 'failed'}; ${made?.warnings.length ?? 0} warnings`,
    isThere && made?.last?.ok === true && (made.warnings.length ?? 0) > 0,
  );
}
const isOf = (id: number, folder: string): boolean => {
  try {
    return readFileSync(`/proc/${id}/environ`, 'utf8').includes(folder);
  } catch {
    return false;
  }
};

export async function E5(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  await backUp(jiko, 60);
  const backups = join(jiko.folder, 'backups');
  const readable = ['pg.log', ...readdirSync(backups).map((name) => `backups/${name}`)].filter(
    (name) => (statSync(join(jiko.folder, name)).mode & 0o077) !== 0,
  );
  const isOpen = (statSync(backups).mode & 0o077) !== 0;
  const read = nobody
    ? spawnSync('sh', ['-c', `cat ${backups}/*.backup ${jiko.folder}/pg.log | wc -c`], {
        ...nobody,
        encoding: 'utf8',
      }).stdout.trim()
    : '0';
  await jiko.stop();
  say(
    'E5: backups and log, as another user',
    'nothing can be read',
    `${readable.length} files with open modes, folder ${isOpen ? 'OPEN' : 'closed'}; ${read} bytes read`,
    readable.length === 0 && !isOpen && read === '0',
  );
}
