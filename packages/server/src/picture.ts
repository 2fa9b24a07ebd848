import { crc32 } from 'node:zlib';
import { attachmentTypes } from '@jiko/contract';
import type { Refusal } from './outcome.ts';

type PictureType = (typeof attachmentTypes)[number];

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

/** Cameras append a few bytes after the end of a picture. */
const trailingBytes = 4096;
/** What decodes to more than this stops a browser: larger than any camera of a workshop gives. */
const mostSide = 20_000;
const mostPixels = 120_000_000;

interface Size {
  width: number;
  height: number;
}

/**
 * Pixels of a file that is built as its format says, to its end; null for a copy that broke off, or
 * garbage. Nothing is decoded.
 */
function sizeOf(content: Buffer, type: PictureType): Size | null {
  switch (type) {
    case 'image/png':
      return sizeOfPng(content);
    case 'image/jpeg':
      return sizeOfJpeg(content);
    case 'image/webp':
      return sizeOfWebp(content);
  }
}

/** PNG (ISO/IEC 15948): chunks with their checksums, from IHDR over IDAT to IEND. */
function sizeOfPng(content: Buffer): Size | null {
  let size: Size | null = null;
  let hasData = false;
  for (let at = 8; at + 12 <= content.length;) {
    const length = content.readUInt32BE(at);
    const end = at + 8 + length;
    if (end + 4 > content.length) return null;
    const name = content.toString('latin1', at + 4, at + 8);
    if (crc32(content.subarray(at + 4, end)) !== content.readUInt32BE(end)) return null;
    if (at === 8) {
      if (name !== 'IHDR' || length !== 13) return null;
      size = { width: content.readUInt32BE(16), height: content.readUInt32BE(20) };
    }
    if (name === 'IDAT') hasData = true;
    at = end + 4;
    if (name === 'IEND') return hasData && content.length - at <= trailingBytes ? size : null;
  }
  return null;
}

/** JPEG (ITU-T T.81): segments by their lengths up to the first scan, and the end of image near the end. */
function sizeOfJpeg(content: Buffer): Size | null {
  let size: Size | null = null;
  for (let at = 2; at + 4 <= content.length;) {
    if (content[at] !== 0xff) return null;
    const marker = content[at + 1]!;
    // Fill bytes before a marker.
    if (marker === 0xff) {
      at++;
      continue;
    }
    if (marker === 0xda)
      return content.lastIndexOf(Buffer.from([0xff, 0xd9])) >= content.length - trailingBytes
        ? size
        : null;
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame && at + 9 <= content.length)
      size = { width: content.readUInt16BE(at + 7), height: content.readUInt16BE(at + 5) };
    at += 2 + content.readUInt16BE(at + 2);
  }
  return null;
}

/** WebP (RFC 9649): a RIFF file whose chunks fill it, one of them a picture. */
function sizeOfWebp(content: Buffer): Size | null {
  if (content.length < 30) return null;
  const end = content.readUInt32LE(4) + 8;
  if (end > content.length || content.length - end > trailingBytes) return null;
  let size: Size | null = null;
  let hasPicture = false;
  let at = 12;
  while (at + 18 <= end) {
    const name = content.toString('latin1', at, at + 4);
    if (name === 'VP8 ') {
      size ??= {
        width: content.readUInt16LE(at + 14) & 0x3fff,
        height: content.readUInt16LE(at + 16) & 0x3fff,
      };
    } else if (name === 'VP8L') {
      const bits = content.readUInt32LE(at + 9);
      size ??= { width: (bits & 0x3fff) + 1, height: ((bits >>> 14) & 0x3fff) + 1 };
    } else if (name === 'VP8X') {
      size = {
        width: content.readUIntLE(at + 12, 3) + 1,
        height: content.readUIntLE(at + 15, 3) + 1,
      };
    }
    if (/^(VP8 |VP8L|ANMF)$/.test(name)) hasPicture = true;
    const length = content.readUInt32LE(at + 4);
    at += 8 + length + (length % 2);
  }
  return hasPicture && at <= end ? size : null;
}

/** The type of a picture that is whole and can be shown, or why it is refused. */
export function checkPicture(
  name: string,
  content: Buffer,
): { ok: true; type: PictureType } | { ok: false; problem: Refusal } {
  const type = pictureType(content);
  const refuse = (title: string, detail: string, message: string) => ({
    ok: false as const,
    problem: {
      status: 415 as const,
      title,
      detail: `${detail} Nothing was stored.`,
      errors: [{ field: 'file', message }],
    },
  });
  if (!type)
    return refuse(
      'Not a picture',
      `${name} is not one of: ${attachmentTypes.join(', ')}.`,
      'must be a PNG, JPEG or WebP picture',
    );
  const broken = refuse(
    'The picture is broken',
    `${name} ends before the picture does, or is damaged: copy it again from the camera.`,
    'is not whole',
  );
  const size = sizeOf(content, type);
  if (!size || size.width < 1 || size.height < 1) return broken;
  const { width, height } = size;
  if (Math.max(width, height) > mostSide || width * height > mostPixels)
    return refuse(
      'The picture is too large',
      `${name} is ${width} x ${height}: at most ${mostSide} on a side and ${mostPixels / 1e6} megapixels.`,
      'has too many pixels',
    );
  return { ok: true, type };
}
