import { Router } from 'express';
import { z } from 'zod';
import { api } from '@jiko/contract';
import type { AttachmentUseCases } from '../jobs/attachments.ts';
import { pictureUpload, sendPicture } from './pictures.ts';
import { invalid, sendProblem } from './problem.ts';

const paramsSchema = z.strictObject({ id: z.uuid() });
const fieldsSchema = z.object({ id: z.uuid('must be a UUID made by the sender') });

export function attachmentRoutes(attachments: AttachmentUseCases): Router {
  const router = Router();
  router.post(api.jobAttachments(':id'), pictureUpload(), async (request, response) => {
    const params = paramsSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const fields = fieldsSchema.safeParse(request.body ?? {});
    if (!fields.success) return invalid(response, fields.error);
    if (!request.file) {
      return sendProblem(response, {
        status: 400,
        title: 'The request is not valid',
        errors: [{ field: 'file', message: 'is missing' }],
      });
    }
    const name = request.file.originalname.slice(0, 200);
    const added = await attachments.add(params.data.id, fields.data.id, name, request.file.buffer);
    if (!added.ok) return sendProblem(response, added.problem);
    response.status(201).json(added.value);
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
