import { Router, type Request, type Response } from 'express';
import { z } from 'zod';
import { api, largestFirmwareBytes } from '@jiko/contract';
import type { AttachmentUseCases } from '../jobs/attachments.ts';
import { fileUpload, pictureUpload, sendPicture } from './pictures.ts';
import { invalid, sendProblem } from './problem.ts';

const paramsSchema = z.strictObject({ id: z.uuid() });
const fieldsSchema = z.object({ id: z.uuid('must be a UUID made by the sender') });

const firmwareSchema = fieldsSchema.extend({
  sha256: z.string().regex(/^[0-9a-f]{64}$/, 'must be 64 hexadecimal digits'),
});

/** The file of a form with the fields beside it; what is wrong with them is answered here. */
function formOf<S extends z.ZodType>(
  request: Request,
  response: Response,
  schema: S,
): { job: string; fields: z.output<S>; name: string; content: Buffer } | null {
  const params = paramsSchema.safeParse(request.params);
  const fields = schema.safeParse(request.body ?? {});
  if (!params.success) invalid(response, params.error);
  else if (!fields.success) invalid(response, fields.error);
  else if (!request.file)
    sendProblem(response, {
      status: 400,
      title: 'The request is not valid',
      errors: [{ field: 'file', message: 'is missing' }],
    });
  else {
    const { originalname, buffer } = request.file;
    const name = originalname.slice(0, 200);
    return { job: params.data.id, fields: fields.data, name, content: buffer };
  }
  return null;
}

export function attachmentRoutes(attachments: AttachmentUseCases): Router {
  const router = Router();
  router.post(api.jobAttachments(':id'), pictureUpload(), async (request, response) => {
    const form = formOf(request, response, fieldsSchema);
    if (!form) return;
    const added = await attachments.add(form.job, form.fields.id, form.name, form.content);
    if (!added.ok) return sendProblem(response, added.problem);
    response.status(201).json(added.value);
  });
  router.post(
    api.jobFirmware(':id'),
    fileUpload(largestFirmwareBytes),
    async (request, response) => {
      const form = formOf(request, response, firmwareSchema);
      if (!form) return;
      const { id, sha256 } = form.fields;
      const added = await attachments.addFirmware(form.job, id, form.name, form.content, sha256);
      if (!added.ok) return sendProblem(response, added.problem);
      response.status(201).json(added.value);
    },
  );
  router.get(api.attachmentFile(':id'), async (request, response) => {
    const params = paramsSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const found = await attachments.read(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    response.attachment(found.value.row.name);
    sendPicture(response, { type: found.value.row.type, content: found.value.content });
  });
  router.get(api.attachment(':id'), async (request, response) => {
    const params = paramsSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const found = await attachments.read(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    sendPicture(response, { type: found.value.row.type, content: found.value.content });
  });
  return router;
}
