import { Router } from 'express';
import { api } from '@jiko/contract';
import { printedSchema, type Printed } from '@jiko/core/report';
import type { PrintedPicture } from '@jiko/pdf';
import { makeAside, TookTooMuch } from '../aside/aside.ts';
import type { AttachmentUseCases } from '../jobs/attachments.ts';
import type { PrintTask } from './print-worker.ts';
import { invalid, sendProblem } from './problem.ts';

/** A report of two thousand readings takes some seconds. */
const usualSeconds = 60;
/** Pictures past this are named, not drawn. */
const mostPictureBytes = 150 * 1024 ** 2;
const aside = makeAside(new URL('./print-worker.ts', import.meta.url));

/** A report as it stands on the page, on paper: nothing of it is kept. */
export function printRoutes(
  now: () => Date,
  attachments: AttachmentUseCases,
  seconds = usualSeconds,
): Router {
  const router = Router();
  router.post(api.print, async (request, response) => {
    const printed = printedSchema.safeParse(request.body);
    if (!printed.success) return invalid(response, printed.error);
    const task: PrintTask = {
      printed: printed.data,
      createdAt: now(),
      pictures: await picturesOf(printed.data, attachments),
    };
    let bytes: Uint8Array;
    try {
      bytes = await aside<Uint8Array>('print', task, { seconds });
    } catch (error) {
      if (!(error instanceof TookTooMuch)) throw error;
      return sendProblem(response, {
        status: 413,
        title: 'The report is too long to be printed in one piece',
        detail: `It ${error.message}. Markdown and CSV have no such limit.`,
      });
    }
    const name = printed.data.title.toLowerCase().replace(/[^a-z0-9]+/g, '-');
    response.type('application/pdf').attachment(`${name}.pdf`).send(Buffer.from(bytes));
  });
  return router;
}

async function picturesOf(
  { blocks }: Printed,
  attachments: AttachmentUseCases,
): Promise<Map<string, PrintedPicture>> {
  const pictures = new Map<string, PrintedPicture>();
  let bytes = 0;
  for (const block of blocks) {
    if (block.kind !== 'picture' || pictures.has(block.attachment)) continue;
    const found = await attachments.read(block.attachment);
    if (!found.ok) continue;
    const { row, content } = found.value;
    bytes += content.length;
    if (bytes > mostPictureBytes) break;
    pictures.set(block.attachment, { type: row.type, content });
  }
  return pictures;
}
