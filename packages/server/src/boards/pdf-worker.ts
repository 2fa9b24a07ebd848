import { parentPort } from 'node:worker_threads';
import { PdfTrouble, readPdf, type PdfContent, type Share } from '@jiko/pdf';

/** What the thread answers: the document, or why it is none. */
export type PdfAnswer = { ok: true; content: PdfContent } | { ok: false; why: string };

/** What the thread is asked. */
export interface PdfQuestion {
  bytes: Uint8Array;
  share: Share;
}

parentPort?.on('message', ({ bytes, share }: PdfQuestion) => {
  void readPdf(bytes, share).then(
    (content) => parentPort?.postMessage({ ok: true, content } satisfies PdfAnswer),
    (error: unknown) => {
      const why = error instanceof PdfTrouble ? error.message : 'is broken beyond reading.';
      parentPort?.postMessage({ ok: false, why } satisfies PdfAnswer);
    },
  );
});
