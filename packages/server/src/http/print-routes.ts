import { Router } from 'express';
import { api } from '@jiko/contract';
import { printedSchema } from '@jiko/core/report';
import { printPdf, type PictureOf } from '@jiko/pdf';
import type { AttachmentUseCases } from '../jobs/attachments.ts';
import { invalid } from './problem.ts';

/** A report as it stands on the page, on paper: nothing of it is kept. */
export function printRoutes(now: () => Date, attachments: AttachmentUseCases): Router {
  const pictureOf: PictureOf = async (id) => {
    const found = await attachments.read(id);
    return found.ok ? { type: found.value.row.type, content: found.value.content } : null;
  };
  const router = Router();
  router.post(api.print, async (request, response) => {
    const printed = printedSchema.safeParse(request.body);
    if (!printed.success) return invalid(response, printed.error);
    const name = printed.data.title.toLowerCase().replace(/[^a-z0-9]+/g, '-');
    response
      .type('application/pdf')
      .attachment(`${name}.pdf`)
      .send(Buffer.from(await printPdf(printed.data, now(), pictureOf)));
  });
  return router;
}
