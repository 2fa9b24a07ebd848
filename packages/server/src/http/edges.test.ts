import { createHash, randomUUID } from 'node:crypto';
import { request } from 'node:http';
import { Writable } from 'node:stream';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api } from '@jiko/contract';
import { makeJobFiles } from '../jobs/job-file.ts';
import { makeJobFileStore } from '../persistence/job-file-store.ts';
import { inTransaction } from '../persistence/transaction.ts';
import { event, intake, png, sheet, startBench, type TestBench } from '../../test/test-server.ts';

let bench: TestBench;
let base: string;
let logged = '';
beforeAll(async () => {
  bench = await startBench(
    new Writable({
      write(chunk: Buffer, _encoding, done) {
        logged += chunk.toString();
        done();
      },
    }),
  );
  ({ base } = bench);
});
afterAll(() => bench.end());

const at = '2026-01-05T10:00:00.000Z';
interface Head {
  events?: unknown[];
  sheets?: unknown[];
  pictures?: unknown[];
  [key: string]: unknown;
}
const jobFile = (head: Head, files: Record<string, Uint8Array> = {}): Uint8Array<ArrayBuffer> =>
  new Uint8Array(
    zipSync({
      'job.json': strToU8(
        JSON.stringify({
          format: 'jiko-job',
          version: 1,
          id: randomUUID(),
          createdAt: at,
          events: [intake()],
          sheets: [],
          pictures: [],
          ...head,
        }),
      ),
      ...files,
    }),
  );
const send = (bytes: Uint8Array<ArrayBuffer>): Promise<Response> =>
  fetch(base + api.jobFiles, {
    method: 'POST',
    headers: { 'Content-Type': 'application/zip' },
    body: bytes,
  });
/** A sheet that takes a reader of YAML time that grows with the square of its length. */
const slowSheet = (quotes: number) =>
  jobFile(
    { sheets: [{ id: 'big', hash: '0123456789abcdef', savedAt: at, file: 'sheets/big.yaml' }] },
    { 'sheets/big.yaml': strToU8('"'.repeat(quotes)) },
  );

describe('a hostile job file', () => {
  it('holds nobody else up while it is read', async () => {
    const order: string[] = [];
    const reading = send(slowSheet(60_000)).then((answer) => {
      order.push('job file');
      return answer.status;
    });
    expect((await fetch(base + api.health)).status).toBe(200);
    order.push('health');
    expect(await reading).toBe(400);
    expect(order).toEqual(['health', 'job file']);
  });
  it('is given up when it takes too long', async () => {
    const files = makeJobFiles(makeJobFileStore(bench.database), 2);
    expect(await files.takeOver(slowSheet(1_000_000))).toMatchObject({
      ok: false,
      problem: { status: 400, detail: 'It takes longer than 2 s to read.' },
    });
  });
  it.each([
    [
      'a sheet over 2 MB',
      jobFile(
        { sheets: [{ id: 'big', hash: '0123456789abcdef', savedAt: at, file: 'sheets/big.yaml' }] },
        { 'sheets/big.yaml': new Uint8Array(2 * 1024 ** 2 + 1) },
      ),
    ],
    [
      'one sheet named twice',
      jobFile(
        {
          sheets: [1, 2].map(() => ({
            id: 'beck-mini',
            hash: '0123456789abcdef',
            savedAt: at,
            file: 'sheets/a.yaml',
          })),
        },
        { 'sheets/a.yaml': strToU8(sheet('beck-mini')) },
      ),
    ],
    [
      'a first entry without its intake',
      jobFile({ events: [{ ...event({ type: 'note', text: 'x' }), body: { type: 'intake' } }] }),
    ],
    ['a year 0', jobFile({ createdAt: '0000-01-01T00:00:00Z' })],
    ['an entry of year 0', jobFile({ events: [{ ...intake(), at: '0000-01-01T00:00:00Z' }] })],
    ['an offset no database takes', jobFile({ createdAt: '2026-01-05T10:00:00+23:00' })],
    [
      'a sheet saved with such an offset',
      jobFile({
        sheets: [
          {
            id: 'a',
            hash: '0123456789abcdef',
            savedAt: '2026-01-05T10:00:00-16:00',
            file: 'sheets/a.yaml',
          },
        ],
      }),
    ],
    [
      'seconds of five thousand digits',
      jobFile({ createdAt: `2026-01-05T10:00:00.${'1'.repeat(5000)}Z` }),
    ],
  ])('%s is answered with 400', async (_what, file) => {
    expect((await send(file)).status).toBe(400);
  });
});

it('a sheet over 2 MB in a job file is refused for its size, before anything reads it', async () => {
  const file = { id: 'big', hash: '0123456789abcdef', savedAt: at, file: 'sheets/big.yaml' };
  const answer = await send(
    jobFile({ sheets: [file] }, { 'sheets/big.yaml': new Uint8Array(2 * 1024 ** 2 + 1) }),
  );
  expect(await answer.json()).toMatchObject({ title: 'A sheet in the file is too large' });
});

it('an entry whose moment no database takes is the caller’s trouble', async () => {
  const job = await bench.openJob();
  for (const moment of [
    '2026-01-05T10:00:00+16:00',
    '2026-01-05T10:00:00+23:59',
    '2026-01-05T10:00:00-23:00',
    `2026-01-05T10:00:00.${'1'.repeat(5000)}Z`,
  ]) {
    const note = { ...event({ type: 'note', text: 'x' }), at: moment };
    expect(
      (await bench.post(api.events(job), { events: [note] })).status,
      moment.slice(0, 40),
    ).toBe(400);
  }
  const well = { ...event({ type: 'note', text: 'x' }), at: '2026-01-05T10:00:00.123456789+15:59' };
  expect((await bench.post(api.events(job), { events: [well] })).status).toBe(201);
});

it('a job file whose picture belongs to another job is refused whole', async () => {
  const picture = { id: randomUUID(), content: png(8, 8) };
  const own = (head: Head): Uint8Array<ArrayBuffer> =>
    jobFile(
      {
        pictures: [
          {
            id: picture.id,
            name: 'a.png',
            type: 'image/png',
            sha256: createHash('sha256').update(picture.content).digest('hex'),
            file: 'pictures/a.png',
          },
        ],
        ...head,
      },
      { 'pictures/a.png': picture.content },
    );
  expect((await send(own({ events: [{ ...intake(), id: randomUUID() }] }))).status).toBe(201);
  const id = randomUUID();
  const second = await send(own({ id, events: [{ ...intake(), id: randomUUID() }] }));
  expect(second.status).toBe(409);
  expect(await second.json()).toMatchObject({
    title: expect.stringContaining('picture') as string,
  });
  expect((await fetch(base + api.job(id))).status).toBe(404);
});

describe('changes that meet', () => {
  it('boards put away at once are all away', async () => {
    const ids = ['cairn-14', 'fell-13', 'wren-5', 'otter-14'];
    for (const id of ids) await bench.boards.save(sheet(id), null);
    const answers = await Promise.all(
      ids.map((id) =>
        fetch(base + api.archived(id), {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ archived: true }),
        }),
      ),
    );
    expect(answers.map(({ status }) => status)).toEqual(ids.map(() => 200));
    const away = (await bench.boards.list())
      .filter(({ archived }) => archived)
      .map((board) => board.id);
    expect(away.sort()).toEqual([...ids].sort());
  });
  it('places of the same parts in two orders are kept', async () => {
    const refs = ['R1', 'R2', 'R3', 'R4', 'R5', 'R6'];
    const places = refs.map((ref) => ({
      ref,
      frame: 'drawn',
      at: { side: 'top', u: 0.5, v: 0.5 },
      who: 'Bench 1',
    }));
    const put = (all: unknown[]): Promise<Response> =>
      fetch(base + api.places('beck-mini'), {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ places: all }),
      });
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, turn) => put(turn % 2 === 0 ? places : [...places].reverse())),
    );
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200));
  });
  it('transactions that wait for each other are both done in the end', async () => {
    let tries = 0;
    const change = (first: string, second: string): Promise<void> =>
      inTransaction(bench.database, async (manager) => {
        tries++;
        for (const name of [first, second]) {
          await manager.query(
            `INSERT INTO setting (name, value) VALUES ($1, 'x') ON CONFLICT (name) DO UPDATE SET value = 'x'`,
            [name],
          );
          await new Promise((done) => setTimeout(done, 100));
        }
      });
    await Promise.all([change('meet a', 'meet b'), change('meet b', 'meet a')]);
    expect(tries).toBeGreaterThan(2);
  });
});

describe('who reads along', () => {
  it('answers of the interface lie in no cache', async () => {
    const job = await bench.openJob();
    for (const path of [api.jobs, api.boards, api.jobFile(job), api.shop])
      expect((await fetch(base + path)).headers.get('cache-control'), path).toBe('no-store');
    expect((await fetch(base + api.job(job))).headers.get('cache-control')).toBe(
      'private, no-cache',
    );
  });
  it('a form of a foreign page changes nothing; its link opens', async () => {
    // As a browser sends it; fetch of Node puts headers of its own there.
    const foreign = (method: string, path: string): Promise<number | undefined> =>
      new Promise((resolve, reject) => {
        const headers = {
          'Sec-Fetch-Site': 'cross-site',
          'Sec-Fetch-Mode': 'navigate',
          Host: 'localhost',
        };
        request(base + path, { method, headers }, (answer) => {
          answer.resume();
          resolve(answer.statusCode);
        })
          .on('error', reject)
          .end();
      });
    expect(await foreign('POST', api.backups)).toBe(403);
    expect(await foreign('DELETE', api.demo)).toBe(403);
    expect(await foreign('GET', api.jobs)).toBe(200);
  });
});

it('the app’s role can take words out of entries, and put nothing in', async () => {
  const job = await bench.openJob();
  const note = event({ type: 'note', text: 'calls at noon' });
  expect((await bench.post(api.events(job), { events: [note] })).status).toBe(201);
  const forged = JSON.stringify([
    { id: note.id, body: { type: 'note', text: 'forged by the app role', more: 'x' } },
  ]);
  await bench.database.query('SELECT take_words_out($1, $2)', [job, forged]);
  expect((await bench.stored(job)).at(-1)?.body).toEqual(note.body);
  // Of another job neither.
  const gone = JSON.stringify([{ id: note.id, body: { type: 'note', text: '(erased)' } }]);
  await bench.database.query('SELECT take_words_out($1, $2)', [await bench.openJob(), gone]);
  expect((await bench.stored(job)).at(-1)?.body).toEqual(note.body);
  await bench.database.query('SELECT take_words_out($1, $2)', [job, gone]);
  expect((await bench.stored(job)).at(-1)?.body).toEqual({ type: 'note', text: '(erased)' });
});

it('the log says what failed, and nothing of what was sent', async () => {
  const job = await bench.openJob();
  await bench.asOwner(
    `CREATE FUNCTION full_disk() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
       RAISE EXCEPTION 'could not extend file' USING ERRCODE = '53100'; END $$;
     CREATE TRIGGER full_disk BEFORE INSERT ON attachment FOR EACH ROW EXECUTE FUNCTION full_disk();
     CREATE TRIGGER full_disk BEFORE INSERT ON job_event FOR EACH ROW EXECUTE FUNCTION full_disk()`,
  );
  logged = '';
  const form = new FormData();
  form.append('id', randomUUID());
  form.append('file', new Blob([new Uint8Array(png(40, 30, 100_000))]), 'a.png');
  const picture = await fetch(base + api.jobAttachments(job), { method: 'POST', body: form });
  const words = { events: [event({ type: 'note', text: 'the owner calls at noon' })] };
  const entry = await bench.post(api.events(job), words);
  await bench.asOwner(
    'DROP TRIGGER full_disk ON attachment; DROP TRIGGER full_disk ON job_event; DROP FUNCTION full_disk',
  );
  expect([picture.status, entry.status]).toEqual([503, 503]);
  expect(logged).toContain('could not extend file');
  expect(logged).not.toContain('at noon');
  expect(logged.length).toBeLessThan(20_000);
});

it('damaged files of the database are told of, and stay told of', async () => {
  const job = await bench.openJob();
  // What a page with a wrong checksum answers; the function is the tables' owner's.
  await bench.asOwner(
    `CREATE FUNCTION broken() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
       RAISE EXCEPTION 'invalid page in block 3' USING ERRCODE = 'XX001'; END $$;
     CREATE TRIGGER broken BEFORE INSERT ON job_event FOR EACH STATEMENT EXECUTE FUNCTION broken()`,
  );
  const note = { events: [event({ type: 'note', text: 'x' })] };
  const answer = await bench.post(api.events(job), note);
  expect(answer.status).toBe(500);
  expect(await answer.json()).toMatchObject({ title: 'The database found its files damaged' });
  await bench.asOwner('DROP TRIGGER broken ON job_event');
  expect((await bench.post(api.events(job), note)).status).toBe(201);
  const health = await fetch(base + api.health);
  expect(health.status).toBe(503);
  expect(await health.json()).toMatchObject({
    database: 'damaged',
    because: 'invalid page in block 3',
  });
});
