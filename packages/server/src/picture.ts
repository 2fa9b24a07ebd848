import { attachmentTypes, type AttachmentRow } from '@jiko/contract';
import type { Refusal } from './outcome.ts';

type PictureType = AttachmentRow['type'];

/** Pictures are told by their first bytes, never by what the sender says. */
export function pictureType(content: Buffer): PictureType | null {
  const starts = (...bytes: number[]): boolean => bytes.every((byte, at) => content[at] === byte);
  if (starts(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'image/png';
  if (starts(0xff, 0xd8, 0xff)) return 'image/jpeg';
  if (content.toString('latin1', 0, 4) === 'RIFF' && content.toString('latin1', 8, 12) === 'WEBP') {
    return 'image/webp';
  }
  return null;
}

/** Cameras append a few bytes after the end of a JPEG. */
const trailingBytes = 4096;

/** Whether the file ends where its format says: a copy that broke off does not. */
function isWhole(content: Buffer, type: PictureType): boolean {
  switch (type) {
    case 'image/png':
      return content.includes('IEND', Math.max(8, content.length - trailingBytes), 'latin1');
    case 'image/jpeg':
      return content.lastIndexOf(Buffer.from([0xff, 0xd9])) >= content.length - trailingBytes;
    case 'image/webp':
      return content.length >= content.readUInt32LE(4) + 8;
  }
}

/** The type of a picture that is whole, or why it is refused. */
export function checkPicture(
  name: string,
  content: Buffer,
): { ok: true; type: PictureType } | { ok: false; problem: Refusal } {
  const type = pictureType(content);
  const refuse = (title: string, detail: string, message: string) => ({
    ok: false as const,
    problem: { status: 415 as const, title, detail, errors: [{ field: 'file', message }] },
  });
  if (!type)
    return refuse(
      'Not a picture',
      `${name} is not one of: ${attachmentTypes.join(', ')}. Nothing was stored.`,
      'must be a PNG, JPEG or WebP picture',
    );
  if (!isWhole(content, type))
    return refuse(
      'The picture is broken',
      `${name} ends before the picture does: copy it again from the camera. Nothing was stored.`,
      'ends too early',
    );
  return { ok: true, type };
}
