import { Router } from 'express';
import { z } from 'zod';
import { api, setPlacesSchema } from '@jiko/contract';
import type { LookUseCases } from '../boards/board-look.ts';
import { invalid, sendProblem } from './problem.ts';
import { pictureUpload, sendPicture } from './pictures.ts';

const boardSchema = z.strictObject({ id: z.string().max(64) });
const pictureSchema = z.strictObject({ id: z.uuid() });
const fieldsSchema = z.object({
  id: z.uuid('must be a UUID made by the sender'),
  side: z.enum(['top', 'bottom']),
});

export function lookRoutes(look: LookUseCases): Router {
  const router = Router();
  router.get(api.look(':id'), async (request, response) => {
    const params = boardSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const found = await look.look(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    response.json(found.value);
  });
  router.post(api.boardPictures(':id'), pictureUpload(), async (request, response) => {
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
    const name = request.file.originalname.slice(0, 200);
    const picture = { ...fields.data, name };
    const added = await look.addPicture(params.data.id, picture, request.file.buffer);
    if (!added.ok) return sendProblem(response, added.problem);
    response.status(201).json(added.value);
  });
  router.get(api.boardPicture(':id'), async (request, response) => {
    const params = pictureSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const found = await look.picture(params.data.id);
    if (!found.ok) return sendProblem(response, found.problem);
    sendPicture(response, found.value);
  });
  router.delete(api.boardPicture(':id'), async (request, response) => {
    const params = pictureSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const left = await look.takeBack(params.data.id);
    if (!left.ok) return sendProblem(response, left.problem);
    response.json(left.value);
  });
  router.put(api.places(':id'), async (request, response) => {
    const params = boardSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const body = setPlacesSchema.safeParse(request.body);
    if (!body.success) return invalid(response, body.error);
    const kept = await look.setPlaces(params.data.id, body.data.places);
    if (!kept.ok) return sendProblem(response, kept.problem);
    response.json(kept.value);
  });
  return router;
}
