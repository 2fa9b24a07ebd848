// Drills of the edges, by their numbers: what was found to break once, done again.
import { spawn, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
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
  utimesSync,
  writeFileSync,
  copyFileSync,
} from 'node:fs';
import { connect } from 'node:net';
import { request } from 'node:http';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import type { Say } from './entries.ts';
import {
  event,
  freshFolder,
  healed,
  healthOf,
  intake,
  longJob,
  open,
  post,
  postmaster,
  parentOf,
  processesOf,
  root,
  sheet,
  smallDisk,
  start,
  started,
  stop,
  tool,
  wait,
  worstWait,
  type Jiko,
} from './jiko.ts';

/** Somebody else's user of this machine; null where we may not act as one. */
const nobody = process.getuid?.() === 0 ? { uid: 65534, gid: 65534 } : null;

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

export async function E3(say: Say): Promise<void> {
  const disk = smallDisk(200);
  if (!disk)
    return say('E3: a firmware on a full disk', 'refused at once', 'not run: no small disk', null);
  const jiko = await started(disk.path, { LOG_LEVEL: 'error' });
  const job = await open(jiko.address);
  spawnSync('dd', ['if=/dev/zero', `of=${join(disk.path, 'filler')}`, 'bs=1M', 'count=400'], {
    stdio: 'ignore',
  });
  let status = 0;
  const content = Buffer.alloc(8 * 1024 ** 2, 7);
  const hash =
    spawnSync('sha256sum', { input: content, encoding: 'utf8' }).stdout.split(' ')[0] ?? '';
  const worst = await worstWait(jiko.address, async () => {
    const form = new FormData();
    form.append('id', randomUUID());
    form.append('sha256', hash);
    form.append('file', new Blob([content]), 'flash.bin');
    status = await fetch(`${jiko.address}/api/jobs/${job}/firmware`, {
      method: 'POST',
      body: form,
      signal: AbortSignal.timeout(120_000),
    }).then(
      (answer) => answer.status,
      () => 0,
    );
  });
  await jiko.stop();
  const logged = jiko.said().length;
  disk.takeOff();
  say(
    'E3: a firmware of 8 MB on a full disk',
    'refused; others wait under 1 s; under 20 kB of log',
    `${status}; others waited ${worst} ms at most; ${Math.round(logged / 1024)} kB of log`,
    status === 503 && worst < 1000 && logged < 20_000,
  );
}

export async function E4(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  // A name with a NUL in the text layer: what poorly made fonts do; and the same without.
  const pdf = (text: string): Buffer =>
    Buffer.from(
      `%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj\n3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 300]/Resources<</Font<</F1<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>/Contents 4 0 R>>endobj\n4 0 obj<</Length 46>>stream\nBT /F1 12 Tf 50 50 Td (${text}) Tj ET     \nendstream endobj\ntrailer<</Root 1 0 R>>`,
      'latin1',
    );
  const statuses: number[] = [];
  for (const content of [pdf('PLT    RST#'), pdf('PLT\\000RST#')]) {
    const form = new FormData();
    form.append('id', randomUUID());
    form.append('kind', 'schematic');
    form.append('file', new Blob([new Uint8Array(content)], { type: 'application/pdf' }), 'a.pdf');
    const answer = await fetch(`${jiko.address}/api/boards/beck-mini/documents`, {
      method: 'POST',
      body: form,
      signal: AbortSignal.timeout(60_000),
    });
    if (answer.status >= 400) console.log(await answer.text());
    statuses.push(answer.status);
  }
  await jiko.stop();
  say(
    'E4: a PDF whose text holds U+0000',
    'taken like any other',
    `a plain one ${statuses[0]}, that one ${statuses[1]}`,
    statuses.every((status) => status === 201),
  );
}

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

const jobZip = (
  head: Record<string, unknown>,
  files: Record<string, Uint8Array> = {},
): Uint8Array<ArrayBuffer> =>
  new Uint8Array(
    zipSync({
      'job.json': strToU8(
        JSON.stringify({
          format: 'jiko-job',
          version: 1,
          id: randomUUID(),
          createdAt: new Date().toISOString(),
          events: [intake()],
          sheets: [],
          pictures: [],
          ...head,
        }),
      ),
      ...files,
    }),
  );
const sendZip = (jiko: Jiko, bytes: Uint8Array<ArrayBuffer>): Promise<number> =>
  fetch(`${jiko.address}/api/job-files`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/zip' },
    body: bytes,
    signal: AbortSignal.timeout(120_000),
  }).then(
    (answer) => answer.status,
    () => 0,
  );

export async function E6(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  const savedAt = new Date().toISOString();
  const big = (file: string) => ({ id: 'big', hash: '0123456789abcdef', savedAt, file });
  const plainKeys = Array.from({ length: 120_000 }, (_, at) => `k${at}: 1`).join('\n');
  const found: string[] = [];
  let isMet = true;
  for (const [what, zip] of [
    [
      '150,000 quotes',
      jobZip({ sheets: [big('sheets/a.yaml')] }, { 'sheets/a.yaml': strToU8('"'.repeat(150_000)) }),
    ],
    [
      'plain keys',
      jobZip({ sheets: [big('sheets/a.yaml')] }, { 'sheets/a.yaml': strToU8(plainKeys) }),
    ],
    [
      '200 times one sheet',
      jobZip(
        { sheets: Array.from({ length: 200 }, () => big('sheets/a.yaml')) },
        { 'sheets/a.yaml': strToU8(sheet('beck-mini')) },
      ),
    ],
    [
      '90 MB of zeros as job.json',
      new Uint8Array(zipSync({ 'job.json': new Uint8Array(90 * 1024 ** 2) })),
    ],
  ] as const) {
    let status = 0;
    const worst = await worstWait(jiko.address, async () => {
      status = await sendZip(jiko, zip);
    });
    found.push(`${what}: ${status}, others waited ${worst} ms`);
    isMet &&= status === 400 && worst < 200;
  }
  await jiko.stop();
  say('E6: hostile job files', '400; others wait under 200 ms', found.join('; '), isMet);
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

export async function E8(say: Say): Promise<void> {
  const first = await started(freshFolder());
  const { port } = new URL(first.address);
  const second = start(freshFolder(), { PORT: port });
  const came = await second.ready;
  const text = second.said().trim();
  const strange = start(freshFolder(), { HOST: '127.999.1.1' });
  await strange.ready;
  await Promise.all([first.stop(), second.stop(), strange.stop()]);
  const isStack = [text, strange.said()].some((said) => /\n\s+at /.test(said));
  say(
    'E8: a port that is taken, an address that is none',
    'told in words',
    `${came ? 'CAME UP' : text.split('\n')[0]}; ${strange.said().trim().split('\n')[0]}${isStack ? '; A STACK' : ''}`,
    !came && text.includes(`Port ${port} is taken`) && !isStack,
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

export async function E10(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const { port } = new URL(jiko.address);
  const socket = connect(Number(port), '127.0.0.1');
  socket.write(
    'POST /api/job-files HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/zip\r\nContent-Length: 100000\r\n\r\nPK',
  );
  await wait(300);
  socket.destroy();
  await wait(300);
  const health = await healthOf(jiko.address);
  await jiko.stop();
  say(
    'E10: an upload that breaks off',
    'health stays well',
    `health ${health?.status} ${health?.database}`,
    health?.status === 200,
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

export async function E12(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const job = await open(jiko.address);
  const boards = ['cairn-14', 'fell-13', 'wren-5', 'otter-14'];
  for (const board of boards)
    await post(jiko.address, '/api/boards', { text: sheet(board), base: null });
  let notAway = 0;
  for (let round = 0; round < 5; round++) {
    for (const archived of [false, true])
      await Promise.all(
        boards.map((board) =>
          post(jiko.address, `/api/boards/${board}/archived`, { archived }, 'PUT'),
        ),
      );
    const listed = (await (await fetch(`${jiko.address}/api/boards`)).json()) as {
      id: string;
      archived: boolean;
    }[];
    notAway += listed.filter((one) => boards.includes(one.id) && !one.archived).length;
  }
  const places = ['R1', 'R2', 'R3', 'R4', 'R5', 'R6'].map((ref) => ({
    ref,
    frame: 'drawn',
    at: { side: 'top', u: 0.5, v: 0.5 },
    who: 'Bench 1',
  }));
  const set = await Promise.all(
    Array.from({ length: 20 }, (_, turn) =>
      post(
        jiko.address,
        '/api/boards/beck-mini/places',
        { places: turn % 2 ? places : [...places].reverse() },
        'PUT',
      ),
    ),
  );
  const other = randomUUID();
  await post(jiko.address, '/api/jobs', { id: other, events: [intake()] });
  const crossed: number[] = [];
  for (let round = 0; round < 15; round++) {
    const events = Array.from({ length: 20 }, () => event({ type: 'note', text: 'x' }));
    crossed.push(
      ...(await Promise.all([
        post(jiko.address, `/api/jobs/${job}/events`, { events }),
        post(jiko.address, `/api/jobs/${other}/events`, { events: [...events].reverse() }),
      ])),
    );
  }
  await jiko.stop();
  const bad = (all: number[]): number => all.filter((status) => status >= 500).length;
  say(
    'E12: changes that meet: boards put away, places in two orders, the same entries to two jobs',
    'none lost, none answered with 500',
    `${notAway} of 20 not away; ${bad(set)} of ${set.length} and ${bad(crossed)} of ${crossed.length} with 5xx`,
    notAway === 0 && bad(set) === 0 && bad(crossed) === 0,
  );
}

export async function E13(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNgAAAAAgABSK+kcQAAAABJRU5ErkJggg==',
    'base64',
  );
  const picture = {
    id: randomUUID(),
    name: 'a.png',
    type: 'image/png',
    sha256: spawnSync('sha256sum', { input: png, encoding: 'utf8' }).stdout.split(' ')[0],
    file: 'pictures/a.png',
  };
  const statuses: number[] = [];
  for (let turn = 0; turn < 2; turn++)
    statuses.push(
      await sendZip(
        jiko,
        jobZip({ pictures: [picture] }, { 'pictures/a.png': new Uint8Array(png) }),
      ),
    );
  await jiko.stop();
  say(
    "E13: a job file whose picture's id is another job's",
    'the first is taken, the second refused with 409',
    statuses.join(', '),
    statuses[0] === 201 && statuses[1] === 409,
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
  const found = came ? await fetch(`${over.address}/api/jobs/${job}`).then((one) => one.status) : 0;
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

export async function E15(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const job = await open(jiko.address);
  const statuses: number[] = [];
  for (const at of [
    '2026-01-05T10:00:00+16:00',
    '2026-01-05T10:00:00+23:59',
    '2026-01-05T10:00:00-23:00',
    `2026-01-05T10:00:00.${'1'.repeat(5000)}Z`,
  ])
    statuses.push(
      await post(jiko.address, `/api/jobs/${job}/events`, {
        events: [{ ...event({ type: 'note', text: 'x' }), at }],
      }),
    );
  for (const head of [
    { createdAt: '0000-01-01T00:00:00Z' },
    { createdAt: '2026-01-05T10:00:00+23:00' },
    { events: [{ ...intake(), at: '0000-01-01T00:00:00Z' }] },
    { events: [{ ...intake(), body: { type: 'intake' } }] },
  ])
    statuses.push(await sendZip(jiko, jobZip(head)));
  const table = { kind: 'table', head: ['A', 'B'], widths: [0.5, 0.5] };
  for (const rows of [[['1', '2'], ['1']], [[]]])
    statuses.push(
      await post(jiko.address, '/api/print', { title: 'x', blocks: [{ ...table, rows }] }),
    );
  const { port } = new URL(jiko.address);
  for (const path of [
    `/api/jobs/${job}/attachments`,
    '/api/boards/beck-mini/pictures',
    `/api/jobs/${job}/firmware`,
  ]) {
    const body = `--b\r\nContent-Disposition: form-data; name="id"\r\n\r\n${randomUUID()}\r\n--b\r\nContent-Disposition: form-data; name="side"\r\n\r\ntop\r\n--b\r\nContent-Disposition: form-data; name="file"; filename*=UTF-8''a%00b.png\r\nContent-Type: image/png\r\n\r\nx\r\n--b--\r\n`;
    statuses.push(
      await new Promise((done) => {
        const sent = request(
          {
            host: '127.0.0.1',
            port,
            path,
            method: 'POST',
            headers: {
              Host: 'localhost',
              'Content-Type': 'multipart/form-data; boundary=b',
              'Content-Length': Buffer.byteLength(body),
            },
          },
          (answer) => {
            answer.resume();
            done(answer.statusCode ?? 0);
          },
        );
        sent.on('error', () => done(0));
        sent.end(body);
      }),
    );
  }
  await jiko.stop();
  const not = statuses.filter((status) => status < 400 || status >= 500);
  say(
    'E15: what the caller got wrong',
    'answered with 4xx',
    `${statuses.length - not.length} of ${statuses.length}`,
    not.length === 0,
  );
}

export async function E16(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  await open(jiko.address);
  const jobs = await fetch(`${jiko.address}/api/jobs`);
  const cache = jobs.headers.get('cache-control');
  const { port } = new URL(jiko.address);
  const forged = await new Promise<number>((done) => {
    request(
      {
        host: '127.0.0.1',
        port,
        path: '/api/demo',
        method: 'DELETE',
        headers: {
          Host: 'localhost',
          'Sec-Fetch-Site': 'cross-site',
          'Sec-Fetch-Mode': 'navigate',
        },
      },
      (answer) => {
        answer.resume();
        done(answer.statusCode ?? 0);
      },
    ).end();
  });
  await jiko.stop();
  say(
    'E16: a foreign form, and what caches keep (cells, Markdown, names, erasing: in the tests)',
    'refused; nothing is kept',
    `${forged}; Cache-Control ${cache}`,
    forged === 403 && cache === 'no-store',
  );
}

export async function longJobs(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const job = await longJob(jiko.address, 10_000);
  await wait(3000);
  const found: string[] = [];
  let worstOfAll = 0;
  const ask = async (what: string, work: () => Promise<unknown>): Promise<void> => {
    const begun = Date.now();
    const worst = await worstWait(jiko.address, work);
    worstOfAll = Math.max(worstOfAll, worst);
    found.push(`${what} ${worst} ms (took ${Date.now() - begun} ms)`);
  };
  const get = (path: string) => () =>
    fetch(jiko.address + path, { signal: AbortSignal.timeout(120_000) }).then((one) =>
      one.arrayBuffer(),
    );
  await ask('the job', get(`/api/jobs/${job}`));
  await ask('its file', get(`/api/jobs/${job}/file`));
  await ask('one more entry and the list', async () => {
    await post(jiko.address, `/api/jobs/${job}/events`, {
      events: [event({ type: 'note', text: 'x' })],
    });
    await get('/api/jobs')();
  });
  let closed = 0;
  await ask('closed', async () => {
    closed = await post(jiko.address, `/api/jobs/${job}/events`, {
      events: [event({ type: 'close', outcome: 'returned', cause: 'drill', proof: 'not-found' })],
    });
  });
  if (closed !== 201) throw new Error(`the job was not closed: ${closed}`);
  await ask('history of its board', get('/api/boards/beck-mini/history'));
  await ask('habits', get('/api/boards/beck-mini/habits'));
  const file = new Uint8Array(
    await (await fetch(`${jiko.address}/api/jobs/${job}/file`)).arrayBuffer(),
  );
  await ask('its file taken in', () => sendZip(jiko, file));
  await ask('erased', () =>
    fetch(`${jiko.address}/api/jobs/${job}/erase`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ event: event({ type: 'erased', reason: 'asked' }) }),
      signal: AbortSignal.timeout(120_000),
    }).then((one) => one.arrayBuffer()),
  );
  await jiko.stop();
  say(
    'a job of 10,000 entries: the longest another request waits meanwhile',
    'under 200 ms',
    found.join('; '),
    worstOfAll < 200,
  );
}
