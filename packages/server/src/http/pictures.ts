import type { RequestHandler, Response } from 'express';
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
      next(isForm ? error : Object.assign(error as Error, { status: 400 }));
    });
  };
}

/** A picture never changes: its id is made once for its bytes. */
export function sendPicture(response: Response, picture: { type: string; content: Buffer }): void {
  response
    .type(picture.type)
    .set('Cache-Control', 'private, max-age=31536000, immutable')
    .send(picture.content);
}
