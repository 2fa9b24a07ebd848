import {
  api,
  attachmentRowSchema,
  boardPictureSchema,
  largestAttachmentBytes,
  type AttachmentRow,
  type BoardPicture,
} from '@jiko/contract';
import { request } from './http.ts';

const megabytes = (bytes: number): string => `${(bytes / 1024 / 1024).toFixed(0)} MB`;

/** Why a file is no picture that can be kept; null where it is one. Looked at before it is sent. */
async function troubleWith(file: File): Promise<string | null> {
  const kept = 'Nothing was stored, nothing else is lost.';
  if (file.size > largestAttachmentBytes)
    return `${file.name} has ${megabytes(file.size)}; at most ${megabytes(largestAttachmentBytes)} are taken. ${kept}`;
  try {
    (await createImageBitmap(file)).close();
    return null;
  } catch {
    return `${file.name} is broken, or no PNG, JPEG or WebP picture. ${kept}`;
  }
}

async function send<S extends Parameters<typeof request>[0]>(
  schema: S,
  path: string,
  fields: Record<string, string>,
  file: File,
) {
  const trouble = await troubleWith(file);
  if (trouble !== null) throw new Error(trouble);
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  form.append('file', file);
  try {
    return await request(schema, path, { method: 'POST', body: form });
  } catch (error) {
    throw new Error(`${file.name} was not stored. ${(error as Error).message}`, { cause: error });
  }
}

/** Keeps a picture of a job; its id belongs into an event of the job. */
export const sendJobPicture = (job: string, file: File): Promise<AttachmentRow> =>
  send(attachmentRowSchema, api.jobAttachments(job), { id: crypto.randomUUID() }, file);

/** Keeps a photo of one side of a board, for every job on it. */
export const sendBoardPicture = (
  board: string,
  side: BoardPicture['side'],
  file: File,
): Promise<BoardPicture> =>
  send(boardPictureSchema, api.boardPictures(board), { id: crypto.randomUUID(), side }, file);
