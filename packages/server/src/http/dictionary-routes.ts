import express, { Router } from 'express';
import { z } from 'zod';
import { api, largestDictionaryBytes } from '@jiko/contract';
import type { DictionaryUseCases } from '../dictionaries/dictionaries.ts';
import { invalid, sendProblem } from './problem.ts';

const paramsSchema = z.strictObject({
  name: z.string().regex(/^[0-9a-f]{16}$/, 'is no name of a dictionary'),
});
const benchSchema = z.strictObject({
  source: z.string().max(64).optional(),
  attached: z.array(z.string().max(64)).max(40),
  lifted: z.array(z.string().max(64)).max(200).optional(),
  supply: z.strictObject({ volts: z.number(), limitAmps: z.number() }).optional(),
});
const ofSchema = z.object({
  board: z.string().max(64),
  hash: z.string().max(64),
  bench: z.string().max(20_000).refine(isBench, 'is no bench'),
});

function isBench(text: string): boolean {
  try {
    return benchSchema.safeParse(JSON.parse(text)).success;
  } catch {
    return false;
  }
}

/** What one browser made another need not make again; a sample is played anew before it is kept. */
export function dictionaryRoutes(dictionaries: DictionaryUseCases): Router {
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
      const of = ofSchema.safeParse(request.query);
      if (!of.success) return invalid(response, of.error);
      const content: unknown = request.body;
      if (!Buffer.isBuffer(content) || content.length === 0)
        return sendProblem(response, {
          status: 400,
          title: 'The request is not valid',
          errors: [{ field: 'body', message: 'must be the bytes of a dictionary' }],
        });
      const kept = await dictionaries.keep(params.data.name, content, of.data);
      if (!kept.ok) return sendProblem(response, kept.problem);
      response.status(204).end();
    },
  );
  return router;
}
