import { parentPort, workerData } from 'node:worker_threads';
import { PdfTrouble, readPdf, type PdfContent } from '@jiko/pdf';

/** What the thread answers: the document, or why it is none. */
export type PdfAnswer = { ok: true; content: PdfContent } | { ok: false; why: string };

const answer = (one: PdfAnswer): void => parentPort?.postMessage(one);
try {
  answer({ ok: true, content: await readPdf(workerData as Uint8Array) });
} catch (error) {
  const why = error instanceof PdfTrouble ? error.message : 'is broken beyond reading.';
  answer({ ok: false, why });
}
