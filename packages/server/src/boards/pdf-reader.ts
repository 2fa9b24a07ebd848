import { Worker } from 'node:worker_threads';
import { serially } from '@jiko/core/base';
import type { PdfAnswer, PdfQuestion } from './pdf-worker.ts';

/** Longer than any schematic takes: 60 pages are read in about two seconds. */
export const usualLimitSeconds = 30;
/** What a document may unpack to while it is read; a file of 64 MB could hold a thousand times itself. */
export const usualLimitBytes = 1.5e9;

const tooMuch = 'takes more memory than a schematic may.';
const inTurn = serially();

/**
 * Reads a document on a thread of its own, with bounded time and memory: what takes more is refused, and
 * nobody else's requests wait. One document at a time, so that many at once take no more than one.
 */
export function readPdfAside(
  bytes: Uint8Array,
  limitSeconds = usualLimitSeconds,
  limitBytes = usualLimitBytes,
): Promise<PdfAnswer> {
  return inTurn(async () => {
    const parts = await Promise.all(
      Array.from({ length: threads }, (_, part) =>
        readNow({ bytes, share: { of: threads, part } }, limitSeconds, limitBytes),
      ),
    );
    return together(parts);
  });
}

/** Pages are shared by so many threads: a schematic is there while one looks. */
const threads = 2;

/** The pages of all shares in order; what one could not read, none did. */
function together(parts: readonly PdfAnswer[]): PdfAnswer {
  const failed = parts.find((one) => !one.ok);
  if (failed) return failed;
  const read = parts.flatMap((one) => (one.ok ? [one.content] : []));
  return {
    ok: true,
    content: {
      pages: read.flatMap((one) => one.pages).sort((a, b) => a.page - b.page),
      troubles: read.flatMap((one) => one.troubles).sort((a, b) => a.page - b.page),
    },
  };
}

/** Threads that wait for a document: a new one takes longer to load than a schematic to be read. */
const waiting: { worker: Worker; end: NodeJS.Timeout }[] = [];
const waitSeconds = 120;

function newThread(): Worker {
  const worker = new Worker(new URL('./pdf-worker.ts', import.meta.url), {
    execArgv: ['--import', '@oxc-node/core/register'],
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  });
  // A thread that waits holds nobody up.
  worker.unref();
  return worker;
}

function letWait(worker: Worker): void {
  // By name: the thread hangs where its own listeners go too.
  worker.removeAllListeners('error');
  worker.unref();
  const one = {
    worker,
    end: setTimeout(() => {
      waiting.splice(waiting.indexOf(one), 1);
      void worker.terminate();
    }, waitSeconds * 1000).unref(),
  };
  // What breaks or ends while it waits is asked no more.
  const gone = (): void => {
    const at = waiting.indexOf(one);
    if (at >= 0) waiting.splice(at, 1);
  };
  worker.once('error', gone);
  worker.once('exit', gone);
  waiting.push(one);
}

/** Threads are made ready: somebody looks at the documents of a board. */
export function expectDocument(): void {
  while (waiting.length < threads) letWait(newThread());
}

function takeThread(): Worker {
  const one = waiting.pop();
  if (!one) return newThread();
  clearTimeout(one.end);
  one.worker.removeAllListeners('error');
  return one.worker;
}

function readNow(
  question: PdfQuestion,
  limitSeconds: number,
  limitBytes: number,
): Promise<PdfAnswer> {
  return new Promise((resolve) => {
    const worker = takeThread();
    worker.ref();
    // Unpacked streams lie beside the heap, where the thread's own limit does not see them.
    const begun = process.memoryUsage.rss();
    const watch = setInterval(() => {
      if (process.memoryUsage.rss() - begun > limitBytes) giveUp(tooMuch);
    }, 100);
    const timer = setTimeout(
      () => giveUp(`takes longer than ${limitSeconds} s to read.`),
      limitSeconds * 1000,
    );
    const stop = (): void => {
      clearTimeout(timer);
      clearInterval(watch);
      worker.off('exit', ended);
    };
    const giveUp = (why: string): void => {
      stop();
      resolve({ ok: false, why });
      void worker.terminate();
    };
    // A thread that ends without a word answers nobody any more.
    const ended = (): void => giveUp('could not be read: the reader ended in the middle of it.');
    worker.once('exit', ended);
    worker.once('message', (answer: PdfAnswer) => {
      stop();
      resolve(answer);
      letWait(worker);
    });
    worker.once('error', (error: NodeJS.ErrnoException) =>
      giveUp(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooMuch : 'is broken beyond reading.'),
    );
    worker.postMessage(question);
  });
}
