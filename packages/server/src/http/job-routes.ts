import { Router } from 'express';
import { z } from 'zod';
import {
  api,
  appendEventsSchema,
  eraseSchema,
  jobSearchSchema,
  newJobSchema,
} from '@jiko/contract';
import { wordsOf } from '@jiko/core/record';
import type { JobUseCases } from '../jobs/jobs.ts';
import { invalid, sendProblem } from './problem.ts';

const idSchema = z.strictObject({ id: z.uuid('is not a job id') });

const dayAfter = (day: string): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000).toISOString();

export function jobRoutes(jobs: JobUseCases): Router {
  const router = Router();
  router.get(api.jobs, async (_request, response) => {
    response.json(await jobs.list());
  });
  router.get(api.jobSearch, async (request, response) => {
    const asked = jobSearchSchema.safeParse(request.query);
    if (!asked.success) return invalid(response, asked.error);
    const { q, board = null, state = null, from, to } = asked.data;
    const found = await jobs.search({
      words: wordsOf(q),
      ...{ board, state },
      from: from ? `${from}T00:00:00Z` : null,
      until: to ? dayAfter(to) : null,
    });
    response.json(found);
  });
  router.post(api.jobs, async (request, response) => {
    const body = newJobSchema.safeParse(request.body);
    if (!body.success) return invalid(response, body.error);
    const opened = await jobs.open(body.data);
    if (!opened.ok) return sendProblem(response, opened.problem);
    response.status(opened.value.recorded.length > 0 ? 201 : 200).json(opened.value);
  });
  router.get(api.habits(':id'), async (request, response) => {
    const { scheme } = request.query;
    response.json(
      await jobs.habits(
        String(request.params.id).slice(0, 64),
        typeof scheme === 'string' && scheme !== '' ? scheme.slice(0, 200) : null,
      ),
    );
  });
  router.get(api.history(':id'), async (request, response) => {
    response.json(await jobs.history(String(request.params.id).slice(0, 64)));
  });
  router.get(api.job(':id'), async (request, response) => {
    const params = idSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    // Asked for often and seldom changed: a long job is not read again for nothing.
    const version = await jobs.version(params.data.id);
    if (version !== null) {
      response.set({ ETag: `"${version}"`, 'Cache-Control': 'private, no-cache' });
      if (request.headers['if-none-match'] === `"${version}"`) {
        response.status(304).end();
        return;
      }
    }
    const found = await jobs.find(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    response.type('application/json').send(found.value);
  });
  router.post(api.events(':id'), async (request, response) => {
    const params = idSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const body = appendEventsSchema.safeParse(request.body);
    if (!body.success) return invalid(response, body.error);
    const recorded = await jobs.record(params.data.id, body.data.events);
    if (!recorded.ok) return sendProblem(response, recorded.problem);
    response.status(recorded.value.recorded.length > 0 ? 201 : 200).json(recorded.value);
  });
  router.post(api.erase(':id'), async (request, response) => {
    const params = idSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const body = eraseSchema.safeParse(request.body);
    if (!body.success) return invalid(response, body.error);
    const erased = await jobs.erase(params.data.id, body.data.event);
    if (!erased.ok) return sendProblem(response, erased.problem);
    // Pictures were kept for good by whoever looked at them: they never change, but now they are gone.
    response.set('Clear-Site-Data', '"cache"').type('application/json').send(erased.value);
  });
  return router;
}
