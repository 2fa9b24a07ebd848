import express, { Router } from 'express';
import { z } from 'zod';
import { api, largestDictionaryBytes } from '@jiko/contract';
import type { DictionaryStore } from '../dictionaries/dictionaries.ts';
import { invalid, sendProblem } from './problem.ts';

const paramsSchema = z.strictObject({
  name: z.string().regex(/^[0-9a-f]{16}$/, 'is no name of a dictionary'),
});

/** What one browser made another need not make again. The browser checks that it is what it asked for. */
export function dictionaryRoutes(dictionaries: DictionaryStore): Router {
  const router = Router();
  router.get(api.dictionary(':name'), async (request, response) => {
    const params = paramsSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const content = await dictionaries.read(params.data.name);
    if (!content) return sendProblem(response, { status: 404, title: 'Not made yet' });
    response.type('application/octet-stream').send(content);
  });
  router.put(
    api.dictionary(':name'),
    express.raw({ type: 'application/octet-stream', limit: largestDictionaryBytes }),
    async (request, response) => {
      const params = paramsSchema.safeParse(request.params);
      if (!params.success) return invalid(response, params.error);
      const content: unknown = request.body;
      if (!Buffer.isBuffer(content) || content.length === 0)
        return sendProblem(response, {
          status: 400,
          title: 'The request is not valid',
          errors: [{ field: 'body', message: 'must be the bytes of a dictionary' }],
        });
      await dictionaries.keep(params.data.name, content);
      response.status(204).end();
    },
  );
  return router;
}
