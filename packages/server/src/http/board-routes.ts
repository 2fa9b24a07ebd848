import { Router } from 'express';
import { z } from 'zod';
import { api, archiveSchema, newBoardSchema } from '@jiko/contract';
import { sheetJsonSchema } from '@jiko/core/board';
import type { BoardUseCases } from '../boards/boards.ts';
import { invalid, sendProblem } from './problem.ts';

const askSchema = z.strictObject({
  id: z.string().max(64),
  hash: z.string().max(64).nullable(),
});

export function boardRoutes(boards: BoardUseCases): Router {
  const router = Router();
  router.get('/api/sheet.schema.json', (_request, response) => {
    response.json(sheetJsonSchema());
  });
  router.get(api.boards, async (_request, response) => {
    response.json(await boards.list());
  });
  router.post(api.boards, async (request, response) => {
    const body = newBoardSchema.safeParse(request.body);
    if (!body.success) return invalid(response, body.error);
    const saved = await boards.save(body.data.text, body.data.base);
    if (!saved.ok) return sendProblem(response, saved.problem);
    response.status(201).json(saved.value);
  });
  router.get(api.versions(':id'), async (request, response) => {
    const versions = await boards.versions(String(request.params.id));
    if (!versions.ok) return sendProblem(response, versions.problem);
    response.json(versions.value);
  });
  router.put(api.archived(':id'), async (request, response) => {
    const body = archiveSchema.safeParse(request.body);
    if (!body.success) return invalid(response, body.error);
    const done = await boards.archive(String(request.params.id), body.data.archived);
    if (!done.ok) return sendProblem(response, done.problem);
    response.json(done.value);
  });
  router.get(api.board(':id'), async (request, response) => {
    const ask = askSchema.safeParse({ id: request.params.id, hash: request.query.hash ?? null });
    if (!ask.success) return invalid(response, ask.error);
    const found = await boards.find(ask.data.id, ask.data.hash);
    if (!found.ok) return sendProblem(response, found.problem);
    response.json(found.value);
  });
  return router;
}
