// Drills of the data folder and of the database in it: E1, E7, E9, E11, E14. What was found to break once, done again.
import { spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import type { Say } from '../entries.ts';
import {
  freshFolder,
  healed,
  healthOf,
  nobody,
  open,
  parentOf,
  postmaster,
  processesOf,
  root,
  smallDisk,
  start,
  started,
  stop,
  tool,
  wait,
} from '../jiko.ts';

export async function E1(say: Say): Promise<void> {
  const folder = freshFolder();
  // As any user may: the arguments of every process, over and over.
  const spy = spawn(
    'sh',
    ['-c', "while :; do cat /proc/[0-9]*/cmdline 2>/dev/null | tr '\\0' ' '; echo; done"],
    { stdio: ['ignore', 'pipe', 'ignore'], ...nobody },
  );
  let seen = 0;
  let rest = '';
  spy.stdout.on('data', (chunk: Buffer) => {
    const text = rest + chunk.toString();
    seen += text.match(/postgres:\/\/jiko\w*:\S+@/g)?.length ?? 0;
    rest = text.slice(-200).replace(/postgres:\/\/\S+@/g, '');
  });
  const jiko = await started(folder);
  const backup = tool(folder, 'backup');
  spy.kill('SIGKILL');
  const asked = (column: string, file: string): string => {
    if (!existsSync(join(folder, file))) return 'no such role';
    const port = readFileSync(join(folder, 'pg/postmaster.pid'), 'utf8').split('\n')[3] ?? '';
    return spawnSync(
      'psql',
      ['-XAtq', '-c', `SELECT ${column} FROM pg_roles WHERE rolname = current_user`],
      {
        encoding: 'utf8',
        env: {
          PATH: process.env['PATH'],
          PGHOST: '127.0.0.1',
          PGPORT: port,
          PGDATABASE: 'postgres',
          PGUSER: 'jiko_owner',
          PGPASSWORD: readFileSync(join(folder, file), 'utf8'),
        },
      },
    ).stdout.trim();
  };
  const owner = asked('rolsuper', 'pg.owner-password');
  await jiko.stop();
  say(
    'E1: passwords in arguments of processes, while it starts and makes a backup',
    'none seen; tables and backups are of an owner that is no superuser',
    `${seen} seen${nobody ? ' by another user' : ''}; owner is superuser: ${owner} (backup ${backup.status === 0 ? 'made' : 'FAILED'})`,
    seen === 0 && owner === 'f' && backup.status === 0,
  );
}

export async function E7(say: Say): Promise<void> {
  const disk = smallDisk(300);
  if (!disk)
    return say('E7: a disk that drops', 'nothing is begun anew', 'not run: no small disk', null);
  const jiko = await started(disk.path);
  const job = await open(jiko.address);
  const id = postmaster(disk.path);
  disk.takeOff();
  process.kill(id, 'SIGKILL');
  await wait(15_000);
  const made = readdirSync(disk.path);
  const health = await healthOf(jiko.address);
  const status = await fetch(`${jiko.address}/api/jobs/${job}`).then(
    (answer) => answer.status,
    () => 0,
  );
  await jiko.stop();
  const moved = await started(freshFolder());
  const second = await open(moved.address);
  const password = readFileSync(join(moved.folder, 'pg.password'), 'utf8');
  const database = postmaster(moved.folder);
  renameSync(join(moved.folder, 'pg'), join(moved.folder, 'pg.gone'));
  process.kill(database, 'SIGKILL');
  await wait(5000);
  const isNew = existsSync(join(moved.folder, 'pg'));
  const isKept = readFileSync(join(moved.folder, 'pg.password'), 'utf8') === password;
  if (!isNew) renameSync(join(moved.folder, 'pg.gone'), join(moved.folder, 'pg'));
  const back = await healed(moved.address);
  const again = await fetch(`${moved.address}/api/jobs/${second}`).then(
    (answer) => answer.status,
    () => 0,
  );
  await moved.stop();
  say(
    'E7: the disk drops, or the database is moved, while it runs',
    'nothing is begun in its place; back again, it goes on by itself',
    `dropped: ${made.filter((name) => name.startsWith('pg')).length} files made, health ${health?.database ?? 'no answer'}, the job ${status}; moved: ${isNew ? 'a NEW database' : 'nothing'} made, password ${isKept ? 'kept' : 'OVERWRITTEN'}; put back: ${back === null ? 'NEVER well' : 'well'}, the job ${again}`,
    made.length === 0 &&
      health?.status !== 200 &&
      status !== 404 &&
      !isNew &&
      isKept &&
      again === 200,
  );
}

export async function E9(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  const port = readFileSync(join(jiko.folder, 'pg/postmaster.pid'), 'utf8').split('\n')[3] ?? '';
  const proof = join(freshFolder(), 'ran');
  const environment = {
    PATH: process.env['PATH'],
    PGHOST: '127.0.0.1',
    PGPORT: port,
    PGDATABASE: 'postgres',
    PGUSER: 'jiko',
    PGPASSWORD: readFileSync(join(jiko.folder, 'pg.password'), 'utf8').trim(),
  };
  chmodSync(join(proof, '..'), 0o777);
  spawnSync('psql', ['-Xq'], {
    env: environment,
    input: `CREATE FUNCTION run() RETURNS text LANGUAGE plpgsql AS $$ BEGIN
        IF to_regclass('public.armed') IS NOT NULL THEN COPY (SELECT 1) TO PROGRAM 'touch ${proof}'; END IF;
        RETURN 'x'; END $$;
      CREATE MATERIALIZED VIEW evil AS SELECT run() AS what;
      CREATE TABLE armed (id int)`,
  });
  const file = join(freshFolder(), 'evil.backup');
  spawnSync('pg_dump', ['-Fc', '-x', '-O', '-f', file], { env: environment });
  await jiko.stop();
  const restored = tool(freshFolder(), 'restore', file);
  say(
    'E9: a backup that holds a program',
    'the program is not run',
    `${existsSync(proof) ? 'it RAN' : 'it did not run'}; the restore ${restored.status === 0 ? 'went through' : 'was refused'}`,
    !existsSync(proof),
  );
}

export async function E11(say: Say): Promise<void> {
  const folder = freshFolder();
  await (await started(folder)).stop();
  writeFileSync(join(folder, 'pg.password'), 'wrong');
  const wrong = start(folder);
  await wrong.ready;
  await wrong.stop();
  const text = wrong.said().trim();
  await wait(500);
  const left = processesOf(`postgres -D ${folder}|-D ${folder}/pg`).length;
  rmSync(join(folder, 'pg.password'));
  const again = start(folder);
  const came = await again.ready;
  await again.stop();
  say(
    'E11: a wrong password file',
    'one line, no database left behind, and what it says helps',
    `${text.split('\n').length} line(s); ${left} processes left; without the file it ${came ? 'starts' : 'does NOT start'}`,
    text.split('\n').length === 1 && left === 0 && came,
  );
}

export async function E14(say: Say): Promise<void> {
  const real = freshFolder();
  const link = join(freshFolder(), 'link');
  symlinkSync(real, link);
  const first = await started(link);
  const job = await open(first.address);
  const byLink = tool(link, 'backup', join(freshFolder(), 'a.backup')).status;
  const byReal = tool(real, 'backup', join(freshFolder(), 'b.backup')).status;
  await stop(first.child, 'SIGKILL');
  const alive = postmaster(real);
  const over = start(real);
  const came = await over.ready;
  const isSame = came && postmaster(real) === alive;
  const found = came
    ? await fetch(`${over.address}/api/jobs/${job}`).then(({ status }) => status)
    : 0;
  await over.stop();
  say(
    'E14: the data behind a link, after a kill -9 of the starter',
    'backups by either path; the next start takes over the database that lives',
    `backups ${byLink === 0 && byReal === 0 ? 'made' : 'REFUSED'}; ${came ? 'started' : 'did NOT start'}, ${isSame ? 'the same database' : 'ANOTHER database'}, the job ${found}`,
    byLink === 0 && byReal === 0 && came && isSame && found === 200,
  );

  const proof = join(freshFolder(), 'ran');
  const odd = [`$(touch ${proof.replaceAll('/', '%')})`, '`x`', 'a"b'].map((name) =>
    join(freshFolder(), name.replaceAll('%', '-')),
  );
  let told = 0;
  for (const folder of odd) {
    const jiko = start(folder);
    if (!(await jiko.ready) && jiko.said().trim().split('\n').length === 1) told++;
    await jiko.stop();
  }
  say(
    'E14: paths a shell would run',
    'refused in one line',
    `${told} of ${odd.length}`,
    told === odd.length,
  );

  const kept = await started(freshFolder());
  await open(kept.address);
  const lock = readFileSync('/proc/locks', 'utf8')
    .split('\n')
    .filter((line) => line.includes(`:${statSync(join(kept.folder, 'lock')).ino} `));
  for (const line of lock) process.kill(Number(line.trim().split(/\s+/)[4]), 'SIGKILL');
  await wait(1500);
  const second = start(kept.folder);
  const isSecond = await second.ready;
  await second.stop();
  const begun = Date.now();
  const ended = await Promise.race([kept.stop().then(() => true), wait(20_000).then(() => false)]);
  if (!ended) await stop(kept.child, 'SIGKILL');
  say(
    'E14: kill -9 of what keeps the lock',
    'no second Jiko comes up; the first still ends when told to',
    `${isSecond ? 'a SECOND came up' : 'the second was refused'}; ${ended ? `ended after ${((Date.now() - begun) / 1000).toFixed(1)} s` : 'NEVER ended'}`,
    !isSecond && ended,
  );

  const orphan = await started(freshFolder());
  const servers = processesOf('packages/server/src/main.ts').filter(
    (id) => parentOf(id) === orphan.child.pid,
  );
  const database = postmaster(orphan.folder);
  process.kill(database, 'SIGSTOP');
  await stop(orphan.child, 'SIGKILL');
  await wait(200);
  process.kill(database, 'SIGKILL');
  await wait(15_000);
  const left = servers.filter((id) => existsSync(`/proc/${id}`));
  left.forEach((id) => process.kill(id, 'SIGKILL'));
  say(
    'E14: starter and database killed together',
    'the server ends too',
    `${left.length} servers left after 15 s`,
    servers.length === 1 && left.length === 0,
  );

  const torn = freshFolder();
  const source = await started(torn);
  await open(source.address);
  const file = join(freshFolder(), 'c.backup');
  tool(torn, 'backup', file);
  await source.stop();
  let cuts = 0;
  let leftovers = 0;
  for (const after of [300, 900, 1500, 2100, 2700]) {
    const place = freshFolder();
    const child = spawn(process.execPath, [join(root, 'scripts/data.mjs'), 'restore', file], {
      env: { ...process.env, DATABASE_URL: '', JIKO_DATA: place },
      stdio: 'ignore',
    });
    await wait(after);
    await stop(child, 'SIGKILL');
    mkdirSync(join(place, 'backups'), { recursive: true });
    writeFileSync(join(place, 'backups', 'jiko-2026-11-01.backup.part-01234567'), 'x');
    const next = start(place);
    if (await next.ready) cuts++;
    await next.stop();
    leftovers += [...readdirSync(place), ...readdirSync(join(place, 'backups'))].filter((name) =>
      /^restoring-|\.part-/.test(name),
    ).length;
  }
  say(
    'E14: restores and backups that were killed',
    'the next start comes up and clears them away',
    `${cuts} of 5 came up; ${leftovers} leftovers`,
    cuts === 5 && leftovers === 0,
  );
}
