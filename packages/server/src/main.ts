import { readFileSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import pino from 'pino';
import { z } from 'zod';
import { makeDocuments } from './boards/documents.ts';
import { makeBoardLook } from './boards/board-look.ts';
import { makeBoards } from './boards/boards.ts';
import { makeApp } from './http/app.ts';
import { makeDictionaries } from './dictionaries/dictionaries.ts';
import { makeAttachments } from './jobs/attachments.ts';
import { makeJobFiles } from './jobs/job-file.ts';
import { makeJobs } from './jobs/jobs.ts';
import { makeDemo } from './demo/load-demo.ts';
import { isLoopback, loopbackOnly } from './loopback.ts';
import { makeBackupFolder } from './shop/backup-folder.ts';
import { makeShop } from './shop/shop.ts';
import { makeAttachmentStore } from './persistence/attachment-store.ts';
import { makeBoardStore } from './persistence/board-store.ts';
import { makeDictionaryStore } from './persistence/dictionary-store.ts';
import { makeDocumentStore } from './persistence/document-store.ts';
import { makeLookStore } from './persistence/look-store.ts';
import {
  bringUpToDate,
  makeDatabaseCheck,
  makeDataSource,
  NewerData,
  openDatabase,
} from './persistence/database.ts';
import { makeSettingStore } from './persistence/setting-store.ts';
import { makeShelfStore } from './persistence/shelf-store.ts';
import { makeJobFileStore } from './persistence/job-file-store.ts';
import { makeJobStore } from './persistence/job-store.ts';
import { loggedError } from './log-error.ts';

const settings = z
  .object({
    DATABASE_URL: z.string().min(1),
    HOST: z.string().default('127.0.0.1'),
    PORT: z.coerce.number().int().min(0).max(65535).default(4600),
    LOG_LEVEL: z.enum(['trace', 'debug', 'info', 'warn', 'error', 'silent']).default('info'),
    JIKO_WEB: z.string().optional(),
    JIKO_DEMO: z.enum(['once', 'reset', 'remove', 'none']).default('none'),
    /** What may change tables; missing where DATABASE_URL may. */
    DATABASE_OWNER_URL: z.string().optional(),
    /** The data folder and what backs it up; missing where the database is somebody else's. */
    JIKO_FOLDER: z.string().optional(),
    JIKO_DATA_TOOL: z.string().optional(),
    /** Stop when standard input closes: the starter is gone, however it ended. */
    JIKO_TIED: z.enum(['yes', 'no']).default('no'),
    JIKO_SHEETS: z.string().default('sheets'),
  })
  .safeParse(process.env);
if (!settings.success) {
  process.stderr.write(`Settings: ${z.prettifyError(settings.error)}\n`);
  process.exit(2);
}
const { DATABASE_URL, DATABASE_OWNER_URL, HOST, PORT, LOG_LEVEL } = settings.data;
const { JIKO_WEB, JIKO_DEMO, JIKO_TIED, JIKO_SHEETS, JIKO_FOLDER, JIKO_DATA_TOOL } = settings.data;
if (!isLoopback(HOST)) fail(loopbackOnly);
const logger = pino({ level: LOG_LEVEL, serializers: { err: loggedError } });

await ready();
// Only the tables' owner knows this one; the app goes on without it.
delete process.env['DATABASE_OWNER_URL'];
const database = await openDatabase(DATABASE_URL);
const boardStore = makeBoardStore(database);
const boards = makeBoards(boardStore);
const documents = makeDocuments(makeDocumentStore(database));
const jobs = makeJobs(makeJobStore(database), boardStore);
const demo = makeDemo(database, boards, jobs, makeSettingStore(database), documents, async () => {
  const names = (await readdir(JIKO_SHEETS)).sort();
  const file = (name: string): string => join(JIKO_SHEETS, name);
  const suffix = '.schematic.pdf';
  return {
    sheets: names
      .filter((name) => name.endsWith('.yaml'))
      .map((name) => readFileSync(file(name), 'utf8')),
    schematics: names
      .filter((name) => name.endsWith(suffix))
      .map((name) => ({
        board: name.slice(0, -suffix.length),
        name,
        content: readFileSync(file(name)),
      })),
  };
});
if (JIKO_DEMO === 'reset') await demo.reset();
else if (JIKO_DEMO === 'remove') await demo.remove();
else await demo.begin(JIKO_DEMO === 'once' ? 'once' : 'never');
const shop = makeShop(
  JIKO_FOLDER && JIKO_DATA_TOOL ? makeBackupFolder(JIKO_FOLDER, JIKO_DATA_TOOL) : null,
  demo,
);

const app = makeApp({
  jobs,
  boards,
  look: makeBoardLook(makeLookStore(database)),
  documents,
  attachments: makeAttachments(makeAttachmentStore(database)),
  jobFiles: makeJobFiles(makeJobFileStore(database)),
  dictionaries: makeDictionaries(makeDictionaryStore(database), boardStore),
  shop,
  shelf: makeShelfStore(database),
  checkDatabase: makeDatabaseCheck(database),
  logger,
  webFolder: JIKO_WEB ? resolve(JIKO_WEB) : null,
});
const server = app.listen(PORT, HOST, () => {
  // Called for a port that could not be taken too: the words for it are below.
  if (!server.listening) return;
  const { port } = server.address() as AddressInfo;
  // The starter waits for this line.
  process.stdout.write(`listening on http://${HOST}:${port}\n`);
});
// Longer than any browser keeps a line open: else it may close while a request is on its way.
server.keepAliveTimeout = 75_000;
server.on('error', (error: NodeJS.ErrnoException) => {
  process.stderr.write(
    error.code === 'EADDRINUSE'
      ? `Port ${PORT} is taken: set PORT to another one.\n`
      : `${error.message}\n`,
  );
  process.exit(1);
});

/** Brings the tables up to date as their owner, before the app connects as itself. */
async function ready(): Promise<void> {
  const owner = await makeDataSource(DATABASE_OWNER_URL ?? DATABASE_URL).initialize();
  try {
    await bringUpToDate(owner, DATABASE_OWNER_URL ? new URL(DATABASE_URL).username : null);
  } catch (error) {
    if (error instanceof NewerData) fail(error.message);
    throw error;
  } finally {
    await owner.destroy();
  }
}

function fail(words: string): never {
  process.stderr.write(`${words}\n`);
  process.exit(2);
}

// A backup a day, looked after by whoever runs; the first one once things have come to rest.
const daily = (): void => void shop.keepDaily().catch((error: unknown) => logger.error(error));
setTimeout(daily, 60_000).unref();
setInterval(daily, 3_600_000).unref();

/** Whoever started us kills after 8 s; this is for when nobody is left to do so. */
const lastDeadlineMilliseconds = 7000;

let stopping = false;
function stop(): void {
  if (stopping) return;
  stopping = true;
  shop.stop();
  server.close(() => {
    void database.destroy().finally(() => process.exit(0));
  });
  // A database that died meanwhile never lets go of its connections: then without a goodbye.
  setTimeout(() => process.exit(1), lastDeadlineMilliseconds).unref();
  server.closeIdleConnections();
  // Open connections get a moment, then the door is shut.
  setTimeout(() => server.closeAllConnections(), 2000).unref();
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
if (JIKO_TIED === 'yes') {
  process.stdin.resume();
  process.stdin.once('end', stop);
  process.stdin.once('error', stop);
}
