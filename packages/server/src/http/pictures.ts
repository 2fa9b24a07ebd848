import type { RequestHandler, Response } from 'express';
import multer from 'multer';
import { largestAttachmentBytes } from '@jiko/contract';
import { unkeepable } from '@jiko/core/record';

/** Takes one file of a form into memory, up to the largest picture. */
export const pictureUpload = (): RequestHandler => fileUpload(largestAttachmentBytes);

export function fileUpload(largestBytes: number): RequestHandler {
  const take = multer({
    storage: multer.memoryStorage(),
    // Browsers send names in UTF-8; taken for latin1, `Größe.png` is kept as something else.
    defParamCharset: 'utf8',
    limits: { fileSize: largestBytes, files: 1, fields: 5, fieldSize: 1024 },
  }).single('file');
  return (request, response, next) => {
    void take(request, response, (error: unknown) => {
      // What breaks off or is no form at all is the sender's.
      const isForm = error === undefined || error instanceof multer.MulterError;
      if (error instanceof multer.MulterError) Object.assign(error, { largestBytes });
      const name = request.file?.originalname;
      if (error === undefined && name !== undefined && unkeepable(name) !== null)
        return next(Object.assign(new Error('a file name that cannot be kept'), { status: 400 }));
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
