// Drills of job files, odd moments and long jobs: E6, E13, E15, and a job of 10,000 entries. What was found to break once, done again.
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { request } from 'node:http';
import { strToU8, zipSync } from 'fflate';
import type { Say } from '../entries.ts';
import {
  event,
  freshFolder,
  intake,
  longJob,
  open,
  post,
  sheet,
  started,
  wait,
  worstWait,
  type Jiko,
} from '../jiko.ts';

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
    fetch(jiko.address + path, { signal: AbortSignal.timeout(120_000) }).then((answer) =>
      answer.arrayBuffer(),
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
    }).then((answer) => answer.arrayBuffer()),
  );
  await jiko.stop();
  say(
    'a job of 10,000 entries: the longest another request waits meanwhile',
    'under 200 ms',
    found.join('; '),
    worstOfAll < 200,
  );
}
