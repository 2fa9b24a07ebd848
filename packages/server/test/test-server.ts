import { randomBytes, randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Writable } from 'node:stream';
import { crc32, deflateSync } from 'node:zlib';
import pg from 'pg';
import pino from 'pino';
import type { DataSource } from 'typeorm';
import { expect } from 'vitest';
import { api } from '@jiko/contract';
import { usualMeter } from '@jiko/core/readings';
import type { EventBody, EventInput, JobEvent } from '@jiko/core/record';
import { makeDocuments } from '../src/boards/documents.ts';
import { makeBoardLook } from '../src/boards/board-look.ts';
import { makeBoards } from '../src/boards/boards.ts';
import { makeDemo } from '../src/demo/load-demo.ts';
import { makeDictionaries } from '../src/dictionaries/dictionaries.ts';
import { makeAttachments } from '../src/jobs/attachments.ts';
import { makeJobFiles } from '../src/jobs/job-file.ts';
import { makeJobs } from '../src/jobs/jobs.ts';
import { makeAttachmentStore } from '../src/persistence/attachment-store.ts';
import { makeBoardStore } from '../src/persistence/board-store.ts';
import {
  bringUpToDate,
  makeDatabaseCheck,
  makeDataSource,
  openDatabase,
} from '../src/persistence/database.ts';
import { makeDictionaryStore } from '../src/persistence/dictionary-store.ts';
import { makeJobFileStore } from '../src/persistence/job-file-store.ts';
import { makeJobStore } from '../src/persistence/job-store.ts';
import { makeDocumentStore } from '../src/persistence/document-store.ts';
import { makeLookStore } from '../src/persistence/look-store.ts';
import { makeSettingStore } from '../src/persistence/setting-store.ts';
import { makeShelfStore } from '../src/persistence/shelf-store.ts';
import { makeShop } from '../src/shop/shop.ts';
import { makeApp } from '../src/http/app.ts';

// A server on a database of its own, for API tests: tables by their owner, the app as another role.

export const sheet = (id: string): string =>
  readFileSync(new URL(`../../../sheets/${id}.yaml`, import.meta.url), 'utf8');

/** A PDF of one page with one word on it: read in a moment. */
const onePage = (word: string): Buffer =>
  Buffer.from(
    [
      '%PDF-1.4',
      '1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj',
      '2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj',
      '3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 300 300]/Resources<</Font<</F1<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>>>>>/Contents 4 0 R>>endobj',
      `4 0 obj<</Length ${34 + word.length}>>stream`,
      `BT /F1 12 Tf 50 50 Td (${word}) Tj ET`,
      'endstream endobj',
      'trailer<</Root 1 0 R>>',
    ].join('\n'),
    'latin1',
  );

/** The demo's own schematic of a board. */
export const schematic = (id: string): Buffer =>
  readFileSync(new URL(`../../../sheets/${id}.schematic.pdf`, import.meta.url));

/** `log` hears what the app logs. */
export async function startBench(log?: Writable) {
  const adminUrl = process.env['TEST_DATABASE_URL'];
  if (!adminUrl) throw new Error('TEST_DATABASE_URL is not set: run npm test from the root');
  const name = `api_${randomUUID().slice(0, 8)}`;
  const role = `role_${name}`;
  const asAdmin = async (text: string, database = 'postgres'): Promise<void> => {
    const url = new URL(adminUrl);
    url.pathname = `/${database}`;
    const admin = new pg.Client({ connectionString: url.toString() });
    await admin.connect();
    try {
      await admin.query(text);
    } finally {
      await admin.end();
    }
  };
  await asAdmin(`CREATE DATABASE ${name}`);
  await asAdmin(`CREATE ROLE ${role} LOGIN NOSUPERUSER PASSWORD 'secret'`);
  const url = new URL(adminUrl);
  url.pathname = `/${name}`;
  const owner = await makeDataSource(url.toString()).initialize();
  await bringUpToDate(owner, role);
  const wanted = await owner.driver.createSchemaBuilder().log();
  await owner.destroy();
  Object.assign(url, { username: role, password: 'secret' });
  const openAgain = (): Promise<DataSource> => openDatabase(url.toString());
  const database = await openAgain();
  const boardStore = makeBoardStore(database);
  const boards = makeBoards(boardStore);
  const jobs = makeJobs(makeJobStore(database), boardStore);
  await boards.save(sheet('beck-mini'), null);
  const documents = makeDocuments(makeDocumentStore(database));
  const demo = makeDemo(database, boards, jobs, makeSettingStore(database), documents, () =>
    Promise.resolve({
      sheets: ['beck-mini', 'cairn-14', 'fell-13'].map(sheet),
      schematics: [
        { board: 'fell-13', name: 'fell-13.schematic.pdf', content: onePage('PLTRST#') },
      ],
    }),
  );
  const app = makeApp({
    jobs,
    boards,
    look: makeBoardLook(makeLookStore(database)),
    documents,
    attachments: makeAttachments(makeAttachmentStore(database)),
    jobFiles: makeJobFiles(makeJobFileStore(database)),
    dictionaries: makeDictionaries(makeDictionaryStore(database), boardStore),
    shop: makeShop(null, demo),
    shelf: makeShelfStore(database),
    checkDatabase: makeDatabaseCheck(database),
    logger: log ? pino({ level: 'info' }, log) : pino({ level: 'silent' }),
    webFolder: null,
  });
  const server: Server = app.listen(0, '127.0.0.1');
  server.keepAliveTimeout = 75_000;
  await new Promise((resolve) => server.once('listening', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;

  const post = (path: string, body: unknown): Promise<Response> =>
    fetch(base + path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: typeof body === 'string' ? body : JSON.stringify(body),
    });
  return {
    base,
    boards,
    database,
    demo,
    jobs,
    role,
    asAdmin,
    /** SQL as the tables' owner, in this database. */
    asOwner: (text: string) => asAdmin(text, name),
    openAgain,
    /** What the entities would still change in the tables. */
    schemaChanges: wanted.upQueries.map((query) => query.query),
    post,
    async openJob(): Promise<string> {
      const id = randomUUID();
      expect((await post(api.jobs, { id, events: [intake()] })).status).toBe(201);
      return id;
    },
    async stored(id: string): Promise<JobEvent[]> {
      const job = (await (await fetch(base + api.job(id))).json()) as { events: JobEvent[] };
      return job.events;
    },
    async end(): Promise<void> {
      await new Promise((resolve) => server.close(resolve));
      if (database.isInitialized) await database.destroy();
      await asAdmin(`DROP DATABASE ${name} WITH (FORCE)`);
      await asAdmin(`DROP ROLE ${role}`);
    },
  };
}
export type TestBench = Awaited<ReturnType<typeof startBench>>;

export const event = (written: EventInput, id = randomUUID()): JobEvent => ({
  id,
  who: 'Bench 1',
  at: '2026-01-05T10:00:00.000Z',
  // As a browser may send it: the server fills in what has a usual value.
  body: written as EventBody,
});
export const intake = (board = 'beck-mini'): JobEvent =>
  event({
    type: 'intake',
    intake: {
      board,
      device: 'Station 7',
      complaint: 'dead',
      history: '',
      goal: 'boots',
      source: 'adapter',
      keep: '',
      promised: null,
    },
  });
export const reading = (volts: number): EventBody => ({
  type: 'reading',
  supersedes: [],
  reading: {
    at: { net: '5V_SB', part: null, pin: null },
    reference: { net: '12V_IN', part: null, pin: null },
    polarity: 'red-on-point',
    mode: 'volts',
    phase: 'trying',
    value: { kind: 'swinging', low: volts, high: volts + 1 },
    source: { id: 'adapter', volts: 12, limitAmps: 1.5 },
    attached: ['memory'],
    lifted: ['R1'],
    meter: usualMeter,
    sheet: 'abc',
    note: 'held by hand',
  },
});

/** A PNG that any decoder reads: grey, of so many pixels, with so many bytes of noise beside them. */
export function png(width = 2, height = 2, noise = 0): Buffer {
  const chunk = (name: string, content: Buffer): Buffer => {
    const head = Buffer.alloc(4);
    head.writeUInt32BE(content.length);
    const body = Buffer.concat([Buffer.from(name, 'latin1'), content]);
    const sum = Buffer.alloc(4);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([head, body, sum]);
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header[8] = 8;
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    ...(noise > 0 ? [chunk('prVt', randomBytes(noise))] : []),
    chunk('IDAT', deflateSync(Buffer.alloc(Math.min((width + 1) * height, 1e6)))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** Built as a JPEG is, with so many bytes of scan data. */
export function jpeg(bytes: number, width = 8, height = 8): Buffer {
  const frame = Buffer.from([0xff, 0xc0, 0, 11, 8, 0, 0, 0, 0, 1, 1, 0x11, 0]);
  frame.writeUInt16BE(height, 5);
  frame.writeUInt16BE(width, 7);
  return Buffer.concat([
    Buffer.from([0xff, 0xd8]),
    frame,
    Buffer.from([0xff, 0xda, 0, 8, 1, 1, 0, 0, 63, 0]),
    Buffer.alloc(bytes, 3),
    Buffer.from([0xff, 0xd9]),
  ]);
}
