// npm run drills: what could lose entries, done on purpose; counts into docs/figures.md.
import { spawn, spawnSync } from 'node:child_process';
import { randomBytes, randomInt, randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const rounds = Number(process.env.ROUNDS ?? 15);
const rows = [];
const say = (name, aim, measured) => {
  rows.push([name, aim, measured]);
  console.log(`${name}: ${measured}`);
};
const wait = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds));

const made = [];
function freshFolder() {
  const path = mkdtempSync(join(tmpdir(), 'jiko-drill-'));
  // The database's user has to enter it.
  chmodSync(path, 0o755);
  made.push(path);
  return path;
}

/** A Jiko of its own on a folder; ready once it says so. */
function start(folder, port = 0) {
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
    cwd: root,
    env: {
      ...process.env,
      DATABASE_URL: '',
      JIKO_DATA: folder,
      JIKO_DEMO: 'none',
      PORT: String(port),
      LOG_LEVEL: process.env.LOG_LEVEL ?? 'silent',
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  let begun = Date.now();
  const jiko = {
    child,
    folder,
    address: null,
    said: () => said,
    ready: new Promise((done) => {
      const hear = (chunk) => {
        if (process.env.HEAR) process.stdout.write(chunk);
        said += chunk;
        const found = /ready: (\S+)/.exec(said);
        if (found && !jiko.address) {
          jiko.address = found[1];
          jiko.took = Date.now() - begun;
          done(true);
        }
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.once('exit', () => done(false));
    }),
    stop: () => stop(child, 'SIGTERM'),
  };
  return jiko;
}
async function stop(child, signal) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((done) => child.once('exit', done));
  child.kill(signal);
  await gone;
}
const processesOf = (pattern) =>
  spawnSync('pgrep', ['-f', pattern], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter(Boolean)
    .map(Number);
const postmaster = (folder) =>
  Number(readFileSync(join(folder, 'pg/postmaster.pid'), 'utf8').split('\n')[0]);

const event = (body) => ({ id: randomUUID(), who: 'Bench 1', at: new Date().toISOString(), body });
const intake = () =>
  event({
    type: 'intake',
    intake: {
      board: 'beck-mini',
      device: 'Drill',
      complaint: 'dead',
      history: '',
      goal: 'boots',
      source: 'adapter',
      keep: '',
      promised: null,
    },
  });
const answers = { sent: 0, acknowledged: 0, of500: 0 };
async function post(address, path, body, method = 'POST') {
  answers.sent++;
  const response = await fetch(address + path, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: typeof body === 'string' ? body : JSON.stringify(body),
    signal: AbortSignal.timeout(10_000),
  });
  const text = await response.text();
  if (response.status === 500) {
    answers.of500++;
    console.log(`500 at ${method} ${path}: ${String(JSON.stringify(body)).slice(0, 120)} ${text}`);
  }
  return response.status;
}
const sheet = readFileSync(join(root, 'sheets/beck-mini.yaml'), 'utf8');
async function open(address) {
  await post(address, '/api/boards', { text: sheet });
  const id = randomUUID();
  const status = await post(address, '/api/jobs', { id, events: [intake()] });
  if (status !== 201) throw new Error(`no job: ${status}`);
  return id;
}

/** Writes notes to a job as a browser would: each is sent until it is acknowledged. */
function load(jiko, job, clients = 4, bytes = 400) {
  const taken = new Map();
  let ends = false;
  const client = async () => {
    while (!ends) {
      const note = event({ type: 'note', text: randomBytes(randomInt(4, bytes)).toString('hex') });
      for (let done = false; !done && !ends;) {
        const status = await post(jiko.address, `/api/jobs/${job}/events`, {
          events: [note],
        }).catch(() => 0);
        done = status === 201 || status === 200;
        if (done) taken.set(note.id, note.body.text);
        else await wait(50);
      }
    }
  };
  const all = Array.from({ length: clients }, client);
  return {
    taken,
    async end() {
      ends = true;
      await Promise.all(all);
    },
  };
}

/** Every acknowledged entry once, as it was sent. */
async function compare(address, job, taken) {
  const { events } = await (await fetch(`${address}/api/jobs/${job}`)).json();
  const seen = new Map();
  let doubled = 0;
  for (const { id, body } of events) {
    if (seen.has(id)) doubled++;
    seen.set(id, body.text);
  }
  let lost = 0;
  let changed = 0;
  for (const [id, text] of taken) {
    if (!seen.has(id)) lost++;
    else if (seen.get(id) !== text) changed++;
  }
  return { lost, doubled, changed };
}

async function healed(address, most = 60_000) {
  const begun = Date.now();
  while (Date.now() - begun < most) {
    const health = await fetch(`${address}/api/health`, {
      signal: AbortSignal.timeout(3000),
    }).catch(() => null);
    if (health?.status === 200) return Date.now() - begun;
    await wait(100);
  }
  return null;
}

async function kills() {
  let jiko = start(freshFolder());
  await jiko.ready;
  const job = await open(jiko.address);
  const port = new URL(jiko.address).port;
  const taken = new Map();
  const times = { server: [], database: [], starter: [] };
  let unhealed = 0;
  for (let round = 0; round < rounds; round++) {
    const working = load(jiko, job);
    await wait(randomInt(200, 1500));
    const victim = ['server', 'database', 'starter'][round % 3];
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
      const again = start(jiko.folder, port);
      if (!(await again.ready)) throw new Error(`does not start again: ${again.said()}`);
      jiko = again;
      times.starter.push(again.took);
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
  );
  await jiko.stop();
}
const parentOf = (id) => {
  try {
    return Number(/\nPPid:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1]);
  } catch {
    return 0;
  }
};

async function starts() {
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
    const came = await Promise.all(pair.map((one) => one.ready));
    if (came.filter(Boolean).length === 1) atOnce++;
    await Promise.all(pair.map((one) => one.stop()));
  }
  say(
    'starts on a folder that is held',
    'each told the address in one line, the first untouched',
    `${told} of ${all} told; the first ${well ? 'untouched' : 'HARMED'}; two first starts at once: one came up in ${atOnce} of 3`,
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
  );
}

async function backups() {
  const jiko = start(freshFolder());
  await jiko.ready;
  const job = await open(jiko.address);
  const working = load(jiko, job);
  await wait(1500);
  const before = new Map(working.taken);
  const tool = (folder, ...words) =>
    spawnSync(process.execPath, [join(root, 'scripts/data.mjs'), ...words], {
      encoding: 'utf8',
      env: { ...process.env, DATABASE_URL: '', JIKO_DATA: folder },
    });
  const file = join(jiko.folder, 'drill.backup');
  const taken = await new Promise((done) => {
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
  const second = start(other);
  await second.ready;
  const found = await compare(second.address, job, before);
  await second.stop();
  say(
    'backup and restore under load',
    'all that was acknowledged before it is in it',
    `${before.size} entries acknowledged before: ${found.lost} lost, ${found.changed} changed (backup ${taken === 0 ? 'read back' : 'FAILED'}, restore ${restored.status === 0 ? 'counted' : 'FAILED'})`,
  );
}

async function fullDisk() {
  const place = freshFolder();
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=220m,mode=755', 'tmpfs', place]);
  if (mounted.status !== 0) {
    say('a full disk', '0 lost, health says so', 'not run: a small tmpfs cannot be mounted here');
    return;
  }
  try {
    const jiko = start(place);
    await jiko.ready;
    const job = await open(jiko.address);
    const working = load(jiko, job, 4, 1000);
    await wait(1000);
    spawnSync('dd', ['if=/dev/zero', `of=${join(place, 'filler')}`, 'bs=1M', 'count=400'], {
      stdio: 'ignore',
    });
    // Room within the files is used up first.
    let health = { database: 'ok' };
    for (let at = 0; at < 100 && health.database === 'ok'; at++) {
      await wait(300);
      health = await (await fetch(`${jiko.address}/api/health`)).json();
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
      `${working.taken.size} acknowledged entries: ${found.lost} lost, ${found.doubled} doubled; health said "${health.database}", lists answered ${reads}; writing again ${took === null ? 'NEVER' : `after ${(took / 1000).toFixed(1)} s`}`,
    );
    await jiko.stop();
  } finally {
    spawnSync('umount', [place]);
  }
}

async function hostile() {
  const jiko = start(freshFolder());
  await jiko.ready;
  const job = await open(jiko.address);
  const before = answers.of500;
  const deep = (depth) => '['.repeat(depth) + ']'.repeat(depth);
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
  const statuses = new Map();
  const note = (status) => {
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
  );
  await jiko.stop();
}

try {
  const all = { starts, hostile, backups, fullDisk, kills };
  for (const [name, drill] of Object.entries(all))
    if (!process.env.ONLY || process.env.ONLY.split(' ').includes(name)) await drill();
  say('answers of 500 in all drills', '0', `${answers.of500} of ${answers.sent} requests`);
  if (!process.env.ONLY) write();
} finally {
  for (const path of made) rmSync(path, { recursive: true, force: true });
}

/** Its own part of the figures; `npm run bench` leaves it as it is. */
function write() {
  const file = join(root, 'docs/figures.md');
  const [begin, end] = ['<!-- drills -->', '<!-- /drills -->'];
  const table = [
    begin,
    '',
    '## Drills',
    '',
    `What could lose entries, done on purpose by \`npm run drills\` on Node.js ${process.versions.node}.`,
    '',
    '| drill | aim | measured |',
    '| --- | --- | --- |',
    ...rows.map((cells) => `| ${cells.map((cell) => cell.replaceAll('|', '\\|')).join(' | ')} |`),
    '',
    end,
    '',
  ].join('\n');
  const text = readFileSync(file, 'utf8');
  const from = text.indexOf(begin);
  const kept =
    from < 0 ? text : text.slice(0, from) + text.slice(text.indexOf(end) + end.length + 1);
  writeFileSync(file, `${kept.trimEnd()}\n\n${table}`);
}
