import { Router } from 'express';
import { z } from 'zod';
import { api, type Shelf } from '@jiko/contract';
import { shelfItemSchema, type ShelfItem } from '@jiko/core/record';
import { invalid } from './problem.ts';

const paramsSchema = z.strictObject({ id: z.uuid('is not an id of the shelf') });

/** The shop's donor boards and loose parts; putting one there twice changes nothing. */
export function shelfRoutes(shelf: {
  list(): Promise<Shelf>;
  keep(id: string, item: ShelfItem): Promise<void>;
}): Router {
  const router = Router();
  router.get(api.shelf, async (_request, response) => {
    response.json(await shelf.list());
  });
  router.put(api.shelfItem(':id'), async (request, response) => {
    const params = paramsSchema.safeParse(request.params);
    if (!params.success) return invalid(response, params.error);
    const item = shelfItemSchema.safeParse(request.body);
    if (!item.success) return invalid(response, item.error);
    await shelf.keep(params.data.id, item.data);
    response.json(await shelf.list());
  });
  return router;
}
