import { api, attachmentRowSchema, largestFirmwareBytes, type AttachmentRow } from '@jiko/contract';
import { request } from './http.ts';

/** The contents of a flash as a file, with its hash, or why it is none; `doubt` where it may be none. */
export async function lookAtFirmware(
  file: File,
): Promise<
  | { trouble: string; sha256: null; doubt: null }
  | { trouble: null; sha256: string; doubt: string | null }
> {
  const no = (trouble: string) => ({ trouble, sha256: null, doubt: null });
  if (file.size === 0) return no('This file is empty: read the flash again.');
  if (file.size > largestFirmwareBytes)
    return no(
      `${file.name} is larger than any flash of a mainboard: at most ${largestFirmwareBytes / 1024 / 1024} MB are taken.`,
    );
  let bytes: Uint8Array<ArrayBuffer>;
  try {
    bytes = new Uint8Array(await file.arrayBuffer());
  } catch {
    return no('This file cannot be read.');
  }
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return {
    trouble: null,
    sha256: Array.from(hash, (one) => one.toString(16).padStart(2, '0')).join(''),
    doubt: bytes.every((one) => one === bytes[0])
      ? 'Every byte of it is the same: a blank flash, or a clip that does not touch.'
      : null,
  };
}

/** Keeps the contents of a flash with a job; its id belongs into the entry of it. */
export async function sendFirmware(
  job: string,
  file: File,
  sha256: string,
): Promise<AttachmentRow> {
  const form = new FormData();
  form.append('id', crypto.randomUUID());
  form.append('sha256', sha256);
  form.append('file', file);
  try {
    return await request(attachmentRowSchema, api.jobFirmware(job), { method: 'POST', body: form });
  } catch (error) {
    throw new Error(`${file.name} was not stored. ${(error as Error).message}`, { cause: error });
  }
}
