import { Router } from 'express';
import { z } from 'zod';
import { api, documentKinds, largestDocumentBytes } from '@jiko/contract';
import type { DocumentUseCases } from '../boards/documents.ts';
import { invalid, sendProblem } from './problem.ts';
import { fileUpload } from './pictures.ts';

const boardSchema = z.strictObject({ id: z.string().max(64) });
const documentSchema = z.strictObject({ id: z.uuid() });
const fieldsSchema = z.object({
  id: z.uuid('must be a UUID made by the sender'),
  kind: z.enum(documentKinds),
});
const forGood = 'private, max-age=31536000, immutable';

export function documentRoutes(documents: DocumentUseCases): Router {
  const router = Router();
  router.get(api.documents(':id'), async (request, response) => {
    const params = boardSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const found = await documents.list(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    response.json(found.value);
  });
  router.post(api.documents(':id'), fileUpload(largestDocumentBytes), async (request, response) => {
    const params = boardSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const fields = fieldsSchema.safeParse(request.body ?? {});
    if (!fields.success) return invalid(response, fields.error);
    if (!request.file)
      return sendProblem(response, {
        status: 400,
        title: 'The request is not valid',
        errors: [{ field: 'file', message: 'is missing' }],
      });
    const name = request.file.originalname.slice(0, 200) || 'document.pdf';
    const added = await documents.add(
      params.data.id,
      { ...fields.data, name },
      request.file.buffer,
    );
    if (!added.ok) return sendProblem(response, added.problem);
    response.status(201).json(added.value);
  });
  router.get(api.document(':id'), async (request, response) => {
    const params = documentSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const found = await documents.content(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    // Only ever handed over to the app's own reader, never opened as a page of its own.
    response
      .type('application/pdf')
      .set('Content-Disposition', 'attachment')
      .set('Cache-Control', forGood)
      .send(found.value.content);
  });
  router.get(api.documentPages(':id'), async (request, response) => {
    const params = documentSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const found = await documents.pages(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    response.type('application/json').set('Cache-Control', forGood).send(found.value);
  });
  router.delete(api.document(':id'), async (request, response) => {
    const params = documentSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const left = await documents.takeBack(params.data.id);
    if (!left.ok) return sendProblem(response, left.problem);
    response.json(left.value);
  });
  return router;
}
