import type { Request, RequestHandler, Response } from 'express';
import multer from 'multer';
import { largestAttachmentBytes } from '@jiko/contract';

/** Takes one file of a form into memory, up to the largest picture. */
export const pictureUpload = (): RequestHandler => fileUpload(largestAttachmentBytes);

export function fileUpload(largestBytes: number): RequestHandler {
  const take = multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: largestBytes, files: 1, fields: 5, fieldSize: 1024 },
  }).single('file');
  return (request, response, next) => {
    void take(request, response, (error: unknown) => {
      // What breaks off or is no form at all is the sender's.
      const isForm = error === undefined || error instanceof multer.MulterError;
      if (error instanceof multer.MulterError) Object.assign(error, { largestBytes });
      const answer = (): void =>
        next(isForm ? error : Object.assign(error as Error, { status: 400 }));
      if (error === undefined) answer();
      else void drained(request).then(answer);
    });
  };
}

/** Longer the rest of a refused upload is not waited for. */
const drainMilliseconds = 5000;

/**
 * Lets the rest of an upload come in and go: an answer sent while the sender still sends cuts the line,
 * and the sender never reads why it was refused.
 */
function drained(request: Request): Promise<void> {
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

/** A picture never changes: its id is made once for its bytes. */
export function sendPicture(response: Response, picture: { type: string; content: Buffer }): void {
  response
    .type(picture.type)
    .set('Cache-Control', 'private, max-age=31536000, immutable')
    .send(picture.content);
}
