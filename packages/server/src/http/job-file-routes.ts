import express, { Router } from 'express';
import { z } from 'zod';
import { api } from '@jiko/contract';
import { largestJobFileBytes, type JobFileUseCases } from '../jobs/job-file.ts';
import { jobFileJsonSchema } from '../jobs/job-file-format.ts';
import { invalid, sendProblem } from './problem.ts';

const paramsSchema = z.strictObject({ id: z.uuid('is not a job id') });

/** One job as one file, out and in. */
export function jobFileRoutes(files: JobFileUseCases): Router {
  const router = Router();
  router.get('/api/job-file.schema.json', (_request, response) => {
    response.json(jobFileJsonSchema());
  });
  router.get(api.jobFile(':id'), async (request, response) => {
    const params = paramsSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const saved = await files.save(params.data.id);
    if (!saved.ok) return sendProblem(response, saved.problem);
    response
      .type('application/zip')
      .attachment(saved.value.name)
      .send(Buffer.from(saved.value.bytes));
  });
  router.post(
    api.jobFiles,
    express.raw({ type: 'application/zip', limit: largestJobFileBytes }),
    async (request, response) => {
      const bytes: unknown = request.body;
      if (!Buffer.isBuffer(bytes) || bytes.length === 0)
        return sendProblem(response, {
          status: 400,
          title: 'The request is not valid',
          errors: [{ field: 'body', message: 'must be a job file (application/zip)' }],
        });
      const taken = await files.takeOver(bytes);
      if (!taken.ok) return sendProblem(response, taken.problem);
      response.status(taken.value.isNew ? 201 : 200).json(taken.value);
    },
  );
  return router;
}
