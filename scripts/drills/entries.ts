// Drills of what could lose entries: kills, a full disk, double starts, hostile inputs, restore.
import { spawn, spawnSync } from 'node:child_process';
import { randomInt, randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  answers,
  compare,
  event,
  freshFolder,
  healed,
  healthOf,
  load,
  open,
  parentOf,
  post,
  postmaster,
  processesOf,
  root,
  smallDisk,
  start,
  started,
  stop,
  tool,
  wait,
} from './jiko.ts';

export type Say = (name: string, aim: string, measured: string, isMet: boolean | null) => void;

const rounds = Number(process.env['ROUNDS'] ?? 15);

export async function kills(say: Say): Promise<void> {
  let jiko = await started(freshFolder());
  const job = await open(jiko.address);
  const port = new URL(jiko.address).port;
  const taken = new Map<string, string>();
  const times = { server: [] as number[], database: [] as number[], starter: [] as number[] };
  let unhealed = 0;
  for (let round = 0; round < rounds; round++) {
    const working = load(jiko, job);
    await wait(randomInt(200, 1500));
    const victim = (['server', 'database', 'starter'] as const)[round % 3]!;
    if (victim === 'server') {
      const own = [...processesOf('packages/server/src/main.ts')].filter(
        (id) => parentOf(id) === jiko.child.pid,
      );
      own.forEach((id) => process.kill(id, 'SIGKILL'));
    } else if (victim === 'database') process.kill(postmaster(jiko.folder), 'SIGKILL');
    else await stop(jiko.child, 'SIGKILL');
    await wait(50);
    if (victim === 'starter') {
      // The bench starts it again, as a technician would: the one hand there is.
      jiko = await started(jiko.folder, { PORT: port });
      times.starter.push(jiko.took);
    } else {
      const took = await healed(jiko.address);
      if (took === null) unhealed++;
      else times[victim].push(took);
    }
    await wait(300);
    await working.end();
    for (const [id, text] of working.taken) taken.set(id, text);
  }
  const found = await compare(jiko.address, job, taken);
  answers.acknowledged += taken.size;
  const slowest = Object.entries(times)
    .map(([name, all]) => `${name} ${(Math.max(0, ...all) / 1000).toFixed(1)} s`)
    .join(', ');
  say(
    `kill -9 under load, ${rounds} rounds: server, database and starter in turn`,
    '0 lost, 0 doubled, 0 changed, every restart without a hand',
    `${taken.size} acknowledged entries: ${found.lost} lost, ${found.doubled} doubled, ${found.changed} changed; ${unhealed} not healed by itself; slowest: ${slowest}`,
    found.lost + found.doubled + found.changed + unhealed === 0,
  );
  await jiko.stop();
}
export async function starts(say: Say): Promise<void> {
  const folder = freshFolder();
  const first = start(folder);
  await first.ready;
  let told = 0;
  const all = 6;
  for (let at = 0; at < all; at++) {
    const second = start(folder);
    await second.ready;
    const text = second.said().trim();
    if (
      text.includes(`already runs on this data: ${first.address}`) &&
      text.split('\n').length === 1
    )
      told++;
  }
  const well = (await healed(first.address)) !== null;
  await first.stop();
  let atOnce = 0;
  for (let at = 0; at < 3; at++) {
    const both = freshFolder();
    const pair = [start(both), start(both)];
    const came = await Promise.all(pair.map((jiko) => jiko.ready));
    if (came.filter(Boolean).length === 1) atOnce++;
    await Promise.all(pair.map((jiko) => jiko.stop()));
  }
  say(
    'starts on a folder that is held',
    'each told the address in one line, the first untouched',
    `${told} of ${all} told; the first ${well ? 'untouched' : 'HARMED'}; two first starts at once: one came up in ${atOnce} of 3`,
    told === all && well && atOnce === 3,
  );

  let came = 0;
  const cuts = 8;
  for (let at = 0; at < cuts; at++) {
    const place = freshFolder();
    const cut = start(place);
    await wait(120 + at * 150);
    await stop(cut.child, 'SIGKILL');
    await wait(200);
    const again = start(place);
    if (await again.ready) came++;
    else console.log(again.said());
    await again.stop();
  }
  say(
    'first starts cut off by kill -9, then started again',
    'all come up',
    `${came} of ${cuts} came up`,
    came === cuts,
  );
}

export async function backups(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const job = await open(jiko.address);
  const working = load(jiko, job);
  await wait(1500);
  const before = new Map(working.taken);
  const file = join(jiko.folder, 'drill.backup');
  const taken = await new Promise<number | null>((done) => {
    const child = spawn(process.execPath, [join(root, 'scripts/data.mjs'), 'backup', file], {
      env: { ...process.env, DATABASE_URL: '', JIKO_DATA: jiko.folder },
      stdio: 'ignore',
    });
    child.once('exit', done);
  });
  await working.end();
  answers.acknowledged += working.taken.size;
  await jiko.stop();
  const other = freshFolder();
  const restored = tool(other, 'restore', file);
  const second = await started(other);
  const found = await compare(second.address, job, before);
  await second.stop();
  say(
    'backup and restore under load',
    'all that was acknowledged before it is in it',
    `${before.size} entries acknowledged before: ${found.lost} lost, ${found.changed} changed (backup ${taken === 0 ? 'read back' : 'FAILED'}, restore ${restored.status === 0 ? 'counted' : 'FAILED'})`,
    found.lost + found.changed === 0 && taken === 0 && restored.status === 0,
  );
}

export async function fullDisk(say: Say): Promise<void> {
  const disk = smallDisk(220);
  if (!disk) {
    say(
      'a full disk',
      '0 lost, health says so',
      'not run: no small disk can be mounted here',
      null,
    );
    return;
  }
  const place = disk.path;
  try {
    const jiko = await started(place);
    const job = await open(jiko.address);
    const working = load(jiko, job, 4, 1000);
    await wait(1000);
    spawnSync('dd', ['if=/dev/zero', `of=${join(place, 'filler')}`, 'bs=1M', 'count=400'], {
      stdio: 'ignore',
    });
    // Room within the files is used up first.
    let health = 'ok';
    for (let at = 0; at < 100 && health === 'ok'; at++) {
      await wait(300);
      health = (await healthOf(jiko.address))?.database ?? 'no answer';
    }
    const reads = (await fetch(`${jiko.address}/api/jobs`)).status;
    rmSync(join(place, 'filler'));
    const took = await healed(jiko.address);
    await wait(2000);
    await working.end();
    const found = await compare(jiko.address, job, working.taken);
    answers.acknowledged += working.taken.size;
    say(
      'a full disk (tmpfs of 220 MB), then room again',
      '0 lost, health says so, goes on without a hand',
      `${working.taken.size} acknowledged entries: ${found.lost} lost, ${found.doubled} doubled; health said "${health}", lists answered ${reads}; writing again ${took === null ? 'NEVER' : `after ${(took / 1000).toFixed(1)} s`}`,
      found.lost + found.doubled === 0 && health === 'read-only' && took !== null,
    );
    await jiko.stop();
  } finally {
    disk.takeOff();
  }
}

export async function hostile(say: Say): Promise<void> {
  const jiko = await started(freshFolder());
  const job = await open(jiko.address);
  const before = answers.of500;
  const deep = (depth: number): string => '['.repeat(depth) + ']'.repeat(depth);
  const texts = [
    '',
    'null',
    '[]',
    '{}',
    '"x"',
    '1e999',
    deep(20_000),
    '{"__proto__":{"x":1}}',
    '{"events":null}',
    '{"events":[]}',
    '{"events":[null]}',
    '\u0000',
    '{"text":"\\u0000"}',
    '{"text":"\\ud800"}',
    `{"text":"${'a: &a [*a]\\n'.repeat(200)}"}`,
    `{"text":"${'x'.repeat(900_000)}"}`,
    'x'.repeat(3_000_000),
    '{"id":"x","events":[{}]}',
  ];
  const paths = [
    '/api/jobs',
    `/api/jobs/${job}/events`,
    `/api/jobs/${job}/erase`,
    '/api/boards',
    `/api/jobs/${job}/attachments`,
    '/api/boards/beck-mini/pictures',
    '/api/job-files',
    '/api/shop/backups/x',
  ];
  const gets = [
    '/api/jobs/%00',
    '/api/jobs/..%2f..%2fetc',
    "/api/jobs/1'or'1",
    '/api/boards/%F0%28',
    `/api/boards/${'x'.repeat(5000)}`,
    '/api/boards/beck-mini?hash[]=1',
    '/api/boards/beck-mini?hash=%00',
    '/api/attachments/1',
    '/api/habits',
    '/api/boards/%00/habits',
    '/api/boards/%00/look',
    '/api/dictionaries/..',
    '/%E0%A4%A',
    '/api/jobs/x/file',
  ];
  const odd = [
    { ...event({ type: 'note', text: 'x' }), at: '9999-12-31T23:59:59-12:00' },
    { ...event({ type: 'note', text: 'x' }), id: 'x' },
    { ...event({ type: 'note', text: 'x'.repeat(5000) }) },
    { ...event({ type: 'hologram' }) },
    event({ type: 'reading' }),
    event({ type: 'strike', event: randomUUID(), reason: 'x' }),
    event({ type: 'note', text: 'a\u0000' }),
    event({ type: 'note', text: '\ud800' }),
    event({ type: 'close', outcome: 'x' }),
    { ...event({ type: 'note', text: 'x' }), who: 'x'.repeat(999) },
  ];
  let count = 0;
  const statuses = new Map<number | string, number>();
  const note = (status: number | string): void => {
    count++;
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
  };
  for (const path of paths)
    for (const text of texts) note(await post(jiko.address, path, text).catch(() => 'cut'));
  for (const path of gets)
    note(
      await fetch(jiko.address + path).then(
        async (response) => {
          if (response.status === 500) {
            answers.of500++;
            console.log(`500 at GET ${path}`);
          }
          await response.arrayBuffer();
          return response.status;
        },
        () => 'cut',
      ),
    );
  for (const one of odd)
    note(await post(jiko.address, `/api/jobs/${job}/events`, { events: [one] }).catch(() => 'cut'));
  const well = (await healed(jiko.address)) !== null;
  const listed = (await fetch(`${jiko.address}/api/jobs`)).status;
  say(
    'hostile inputs',
    '0 answers of 500, the list stands',
    `${count} sent, ${answers.of500 - before} answered with 500 (${[...statuses]
      .sort()
      .map(([status, times]) => `${status}: ${times}`)
      .join(', ')}); afterwards ${well ? 'well' : 'ILL'}, list ${listed}`,
    answers.of500 === before && well && listed === 200,
  );
  await jiko.stop();
}
