import type { RequestHandler, Response } from 'express';
import multer from 'multer';
import { largestAttachmentBytes } from '@jiko/contract';

/** Takes one file of a form into memory, up to the largest picture. */
export function pictureUpload(): RequestHandler {
  return multer({
    storage: multer.memoryStorage(),
    limits: { fileSize: largestAttachmentBytes, files: 1, fields: 5, fieldSize: 1024 },
  }).single('file');
}

/** A picture never changes: its id is made once for its bytes. */
export function sendPicture(response: Response, picture: { type: string; content: Buffer }): void {
  response
    .type(picture.type)
    .set('Cache-Control', 'private, max-age=31536000, immutable')
    .send(picture.content);
}
