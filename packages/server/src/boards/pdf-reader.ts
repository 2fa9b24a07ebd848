import { Worker } from 'node:worker_threads';
import type { PdfAnswer } from './pdf-worker.ts';

/** Longer than any schematic takes: 60 pages are read in about two seconds. */
export const usualLimitSeconds = 30;
/** What a document may unpack to while it is read; a file of 64 MB could hold a thousand times itself. */
export const usualLimitBytes = 1.5e9;

const tooMuch = 'takes more memory than a schematic may.';
let before: Promise<unknown> = Promise.resolve();

/**
 * Reads a document on a thread of its own, with bounded time and memory: what takes more is refused, and
 * nobody else's requests wait. One document at a time, so that many at once take no more than one.
 */
export function readPdfAside(
  bytes: Uint8Array,
  limitSeconds = usualLimitSeconds,
  limitBytes = usualLimitBytes,
): Promise<PdfAnswer> {
  const answer = before.then(() => readNow(bytes, limitSeconds, limitBytes));
  before = answer;
  return answer;
}

function readNow(bytes: Uint8Array, limitSeconds: number, limitBytes: number): Promise<PdfAnswer> {
  return new Promise((resolve) => {
    const worker = new Worker(new URL('./pdf-worker.ts', import.meta.url), {
      workerData: bytes,
      execArgv: ['--import', '@oxc-node/core/register'],
      resourceLimits: { maxOldGenerationSizeMb: 1024 },
    });
    // Unpacked streams lie beside the heap, where the thread's own limit does not see them.
    const begun = process.memoryUsage.rss();
    const watch = setInterval(() => {
      if (process.memoryUsage.rss() - begun > limitBytes) done({ ok: false, why: tooMuch });
    }, 100);
    const done = (answer: PdfAnswer): void => {
      clearTimeout(timer);
      clearInterval(watch);
      resolve(answer);
      void worker.terminate();
    };
    const timer = setTimeout(
      () => done({ ok: false, why: `takes longer than ${limitSeconds} s to read.` }),
      limitSeconds * 1000,
    );
    worker.once('message', done);
    worker.once('error', (error: NodeJS.ErrnoException) =>
      done({
        ok: false,
        why: error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooMuch : 'is broken beyond reading.',
      }),
    );
  });
}
