import type { RequestHandler } from 'express';
import { unkeepable } from '@jiko/core/record';
import { sendProblem } from './problem.ts';

/** Refuses what no database can keep, in address or body, before anything else looks at it. */
export const keepableOnly: RequestHandler = (request, response, next) => {
  const field = /%00/.test(request.url) ? 'address' : unkeepable(request.body);
  if (field === null) return next();
  sendProblem(response, {
    status: 400,
    title: 'The request holds something that cannot be kept',
    detail:
      'A NUL, half of a surrogate pair, or lists nested over a hundred deep. Nothing was stored.',
    errors: [{ field, message: 'cannot be kept' }],
  });
};
