import { readFileSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { join, resolve } from 'node:path';
import pino from 'pino';
import { z } from 'zod';
import { makeBoardLook } from './boards/board-look.ts';
import { makeBoards } from './boards/boards.ts';
import { makeApp } from './http/app.ts';
import { makeAttachments } from './jobs/attachments.ts';
import { makeJobs } from './jobs/jobs.ts';
import { loadDemo } from './demo/load-demo.ts';
import { makeAttachmentStore } from './persistence/attachment-store.ts';
import { makeBoardStore } from './persistence/board-store.ts';
import { makeDictionaryStore } from './persistence/dictionary-store.ts';
import { makeLookStore } from './persistence/look-store.ts';
import { isReachable, openDatabase } from './persistence/database.ts';
import { makeJobStore } from './persistence/job-store.ts';

const settings = z
  .object({
    DATABASE_URL: z.string().min(1),
    HOST: z.string().default('127.0.0.1'),
    PORT: z.coerce.number().int().min(0).max(65535).default(4600),
    LOG_LEVEL: z.enum(['trace', 'debug', 'info', 'warn', 'error', 'silent']).default('info'),
    JIKO_WEB: z.string().optional(),
    JIKO_DEMO: z.enum(['once', 'reset', 'none']).default('none'),
    /** Stop when standard input closes: the starter is gone, however it ended. */
    JIKO_TIED: z.enum(['yes', 'no']).default('no'),
    JIKO_SHEETS: z.string().default('sheets'),
  })
  .safeParse(process.env);
if (!settings.success) {
  process.stderr.write(`Settings: ${z.prettifyError(settings.error)}\n`);
  process.exit(2);
}
const { DATABASE_URL, HOST, PORT, LOG_LEVEL, JIKO_WEB, JIKO_DEMO, JIKO_TIED, JIKO_SHEETS } =
  settings.data;
const logger = pino({ level: LOG_LEVEL });

const database = await openDatabase(DATABASE_URL);
const boardStore = makeBoardStore(database);
const boards = makeBoards(boardStore);
const jobs = makeJobs(makeJobStore(database), boardStore);
if (JIKO_DEMO !== 'none') {
  const names = (await readdir(JIKO_SHEETS)).filter((name) => name.endsWith('.yaml')).sort();
  const sheets = names.map((name) => readFileSync(join(JIKO_SHEETS, name), 'utf8'));
  const loaded = await loadDemo(database, boards, jobs, sheets, JIKO_DEMO);
  logger.info({ loaded }, 'demo data');
}

const app = makeApp({
  jobs,
  boards,
  look: makeBoardLook(makeLookStore(database)),
  attachments: makeAttachments(makeAttachmentStore(database)),
  dictionaries: makeDictionaryStore(database),
  databaseReachable: () => isReachable(database),
  logger,
  webFolder: JIKO_WEB ? resolve(JIKO_WEB) : null,
});
const server = app.listen(PORT, HOST, () => {
  const { port } = server.address() as AddressInfo;
  // The starter waits for this line.
  process.stdout.write(`listening on http://${HOST}:${port}\n`);
});
server.on('error', (error: NodeJS.ErrnoException) => {
  process.stderr.write(
    error.code === 'EADDRINUSE'
      ? `Port ${PORT} is taken: set PORT to another one.\n`
      : `${error.message}\n`,
  );
  process.exit(1);
});

let stopping = false;
function stop(): void {
  if (stopping) return;
  stopping = true;
  server.close(() => {
    void database.destroy().finally(() => process.exit(0));
  });
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
