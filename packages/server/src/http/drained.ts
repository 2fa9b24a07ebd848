import type { Request } from 'express';

/** Longer the rest of a refused upload is not waited for. */
const drainMilliseconds = 30_000;

/**
 * Lets the rest of an upload come in and go: an answer sent while the sender still sends cuts the line,
 * and the sender never reads why it was refused.
 */
export function drained(request: Request): Promise<void> {
  return new Promise((resolve) => {
    if (request.complete || request.destroyed) return resolve();
    const late = setTimeout(resolve, drainMilliseconds);
    const done = (): void => {
      clearTimeout(late);
      resolve();
    };
    request.once('end', done).once('close', done).resume();
  });
}
