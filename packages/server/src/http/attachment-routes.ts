import { Router } from 'express';
import multer from 'multer';
import { z } from 'zod';
import { api, largestAttachmentBytes } from '@jiko/contract';
import type { AttachmentUseCases } from '../jobs/attachments.ts';
import { invalid, sendProblem } from './problem.ts';

const paramsSchema = z.strictObject({ id: z.uuid() });
const fieldsSchema = z.object({ id: z.uuid('must be a UUID made by the sender') });

export function attachmentRoutes(attachments: AttachmentUseCases): Router {
  const upload = multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: largestAttachmentBytes, files: 1, fields: 5, fieldSize: 1024 },
  });
  const router = Router();
  router.post(api.jobAttachments(':id'), upload.single('file'), async (request, response) => {
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
    response
      .type(found.value.row.type)
      .set('Cache-Control', 'private, max-age=31536000, immutable')
      .send(found.value.content);
  });
  return router;
}
