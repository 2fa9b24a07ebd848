// A Jiko of its own for a drill, and what a browser would do with it.
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomBytes, randomInt, randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project that is drilled: this one, or one of an earlier commit to see that a drill failed there. */
export const root = process.env['DRILL_ROOT'] ?? fileURLToPath(new URL('../..', import.meta.url));

/** What a drill found. */
export interface Row {
  name: string;
  aim: string;
  measured: string;
  /** Whether the aim was met; null where it could not be tried here. */
  isMet: boolean | null;
}

export const wait = (milliseconds: number): Promise<void> =>
  new Promise((done) => setTimeout(done, milliseconds));

const made: string[] = [];
export function freshFolder(): string {
  const path = mkdtempSync(join(tmpdir(), 'jiko-drill-'));
  // The database's user has to enter it.
  chmodSync(path, 0o755);
  made.push(path);
  return path;
}
export function removeFolders(): void {
  for (const path of disks) spawnSync('umount', ['-l', path], { stdio: 'ignore' });
  for (const path of made) rmSync(path, { recursive: true, force: true });
}

const disks: string[] = [];
/** A small disk of its own, and what takes it off; null where none can be mounted here. */
export function smallDisk(megabytes: number): { path: string; takeOff: () => void } | null {
  const path = freshFolder();
  const options = `size=${megabytes}m,mode=755`;
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', options, 'tmpfs', path]);
  disks.push(path);
  return mounted.status === 0
    ? { path, takeOff: () => void spawnSync('umount', ['-l', path]) }
    : null;
}

export interface Jiko {
  child: ChildProcess;
  folder: string;
  address: string;
  /** Milliseconds from its start until it was ready. */
  took: number;
  said: () => string;
  /** False where it ended before it was ready. */
  ready: Promise<boolean>;
  stop: () => Promise<void>;
}

/** A Jiko of its own on a folder; ready once it says so. */
export function start(folder: string, environment: NodeJS.ProcessEnv = {}): Jiko {
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
    cwd: root,
    env: {
      ...process.env,
      DATABASE_URL: '',
      JIKO_DATA: folder,
      JIKO_DEMO: 'none',
      PORT: '0',
      LOG_LEVEL: process.env['LOG_LEVEL'] ?? 'silent',
      ...environment,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const begun = Date.now();
  const jiko: Jiko = {
    child,
    folder,
    address: '',
    took: 0,
    said: () => said,
    ready: new Promise((done) => {
      const hear = (chunk: Buffer): void => {
        if (process.env['HEAR']) process.stdout.write(chunk);
        said += chunk.toString();
        const found = /ready: (\S+)/.exec(said)?.[1];
        if (!found || jiko.address) return;
        jiko.address = found;
        jiko.took = Date.now() - begun;
        done(true);
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.once('exit', () => done(false));
    }),
    stop: () => stop(child, 'SIGTERM'),
  };
  return jiko;
}
/** The same, waited for. */
export async function started(folder: string, environment: NodeJS.ProcessEnv = {}): Promise<Jiko> {
  const jiko = start(folder, environment);
  if (!(await jiko.ready)) throw new Error(`does not start: ${jiko.said()}`);
  return jiko;
}
export async function stop(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((done) => child.once('exit', done));
  child.kill(signal);
  await gone;
}

/** npx jiko with words, on a data folder. */
export function tool(folder: string, ...words: string[]): { status: number | null; text: string } {
  const done = spawnSync(process.execPath, [join(root, 'scripts/data.mjs'), ...words], {
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: '', JIKO_DATA: folder },
    timeout: 120_000,
  });
  return { status: done.status, text: `${done.stdout}${done.stderr}`.trim() };
}

export const processesOf = (pattern: string): number[] =>
  spawnSync('pgrep', ['-f', '--', pattern], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter(Boolean)
    .map(Number);
export const postmaster = (folder: string): number =>
  Number(readFileSync(join(folder, 'pg/postmaster.pid'), 'utf8').split('\n')[0]);
export const parentOf = (id: number): number => {
  try {
    return Number(/\nPPid:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1]);
  } catch {
    return 0;
  }
};

export interface Entry {
  id: string;
  who: string;
  at: string;
  body: Record<string, unknown> & { type: string };
}
export const event = (body: Entry['body']): Entry => ({
  id: randomUUID(),
  who: 'Bench 1',
  at: new Date().toISOString(),
  body,
});
export const intake = (): Entry =>
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
export const answers = { sent: 0, acknowledged: 0, of500: 0 };
export async function post(
  address: string,
  path: string,
  body: unknown,
  method = 'POST',
): Promise<number> {
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
export const sheet = (name: string): string =>
  readFileSync(join(root, `sheets/${name}.yaml`), 'utf8');
export async function open(address: string): Promise<string> {
  await post(address, '/api/boards', { text: sheet('beck-mini'), base: null });
  const id = randomUUID();
  const status = await post(address, '/api/jobs', { id, events: [intake()] });
  if (status !== 201) throw new Error(`no job: ${status}`);
  return id;
}
/** A job of so many notes. */
export async function longJob(address: string, entries: number): Promise<string> {
  const id = await open(address);
  for (let sent = 0; sent < entries; sent += 200)
    await post(address, `/api/jobs/${id}/events`, {
      events: Array.from({ length: Math.min(200, entries - sent) }, (_, at) =>
        event({ type: 'note', text: `note ${sent + at} of a long job, in the words of a bench` }),
      ),
    });
  return id;
}

/** Writes notes to a job as a browser would: each is sent until it is acknowledged. */
export function load(jiko: Jiko, job: string, clients = 4, bytes = 400) {
  const taken = new Map<string, string>();
  let ends = false;
  const client = async (): Promise<void> => {
    while (!ends) {
      const text = randomBytes(randomInt(4, bytes)).toString('hex');
      const note = event({ type: 'note', text });
      for (let done = false; !done && !ends;) {
        const status = await post(jiko.address, `/api/jobs/${job}/events`, {
          events: [note],
        }).catch(() => 0);
        done = status === 201 || status === 200;
        if (done) taken.set(note.id, text);
        else await wait(50);
      }
    }
  };
  const all = Array.from({ length: clients }, client);
  return {
    taken,
    async end(): Promise<void> {
      ends = true;
      await Promise.all(all);
    },
  };
}

/** Every acknowledged entry once, as it was sent. */
export async function compare(
  address: string,
  job: string,
  taken: ReadonlyMap<string, string>,
): Promise<{ lost: number; doubled: number; changed: number }> {
  const { events } = (await (await fetch(`${address}/api/jobs/${job}`)).json()) as {
    events: Entry[];
  };
  const seen = new Map<string, unknown>();
  let doubled = 0;
  for (const { id, body } of events) {
    if (seen.has(id)) doubled++;
    seen.set(id, body['text']);
  }
  let lost = 0;
  let changed = 0;
  for (const [id, text] of taken) {
    if (!seen.has(id)) lost++;
    else if (seen.get(id) !== text) changed++;
  }
  return { lost, doubled, changed };
}

export interface Health {
  status: number;
  database: string;
  because: string | null;
}
export async function healthOf(address: string): Promise<Health | null> {
  const answer = await fetch(`${address}/api/health`, {
    signal: AbortSignal.timeout(3000),
  }).catch(() => null);
  if (!answer) return null;
  return { ...((await answer.json()) as Health), status: answer.status };
}
/** Milliseconds until it is well; null where it is not within `most`. */
export async function healed(address: string, most = 60_000): Promise<number | null> {
  const begun = Date.now();
  while (Date.now() - begun < most) {
    if ((await healthOf(address))?.status === 200) return Date.now() - begun;
    await wait(100);
  }
  return null;
}

/**
 * The longest the server let a question wait while `work` went on, in milliseconds. Asked over and over
 * of an address that needs no database; this process does nothing else meanwhile.
 */
export async function worstWait(address: string, work: () => Promise<unknown>): Promise<number> {
  let worst = 0;
  let ends = false;
  const asking = (async () => {
    while (!ends) {
      const begun = performance.now();
      await fetch(`${address}/api/nothing-here`, { signal: AbortSignal.timeout(120_000) }).then(
        (answer) => answer.arrayBuffer(),
        () => undefined,
      );
      worst = Math.max(worst, performance.now() - begun);
      await wait(5);
    }
  })();
  await work();
  ends = true;
  await asking;
  return Math.round(worst);
}

/** Somebody else's user of this machine; null where we may not act as one. */
export const nobody = process.getuid?.() === 0 ? { uid: 65534, gid: 65534 } : null;
