import { Router } from 'express';
import { api } from '@jiko/contract';
import type { ShopUseCases } from '../shop/shop.ts';
import { sendProblem } from './problem.ts';

/** The shop's data as a whole: where it lies, its backups, the demo. */
export function shopRoutes(shop: ShopUseCases): Router {
  const router = Router();
  router.get(api.shop, async (_request, response) => {
    response.json(await shop.look());
  });
  router.post(api.backups, async (_request, response) => {
    const done = await shop.backUp();
    if (!done.ok) return sendProblem(response, done.problem);
    response.json(done.value);
  });
  router.delete(api.demo, async (_request, response) => {
    response.json(await shop.removeDemo());
  });
  return router;
}
