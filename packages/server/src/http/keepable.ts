import type { RequestHandler } from 'express';
import { unkeepable } from '@jiko/core/record';
import { sendProblem } from './problem.ts';

/** Refuses what no database can keep, before anything else looks at it. */
export const keepableOnly: RequestHandler = (request, response, next) => {
  const field = unkeepable(request.body);
  if (field === null) return next();
  sendProblem(response, {
    status: 400,
    title: 'The request holds a character that cannot be kept',
    detail: 'NUL or half of a surrogate pair. Nothing was stored.',
    errors: [{ field, message: 'holds a character that cannot be kept' }],
  });
};
