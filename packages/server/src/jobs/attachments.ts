import { attachmentTypes, type AttachmentRow } from '@jiko/contract';
import { jobProblem, type Outcome } from '../outcome.ts';

export interface AttachmentStore {
  jobExists(job: string): Promise<boolean>;
  /** False when the id is taken by the same bytes already: sending again is harmless. */
  add(job: string, row: AttachmentRow, content: Buffer): Promise<'added' | 'known' | 'taken'>;
  read(id: string): Promise<{ row: AttachmentRow; content: Buffer } | null>;
}

export interface AttachmentUseCases {
  add(job: string, id: string, name: string, content: Buffer): Promise<Outcome<AttachmentRow>>;
  read(id: string): Promise<Outcome<{ row: AttachmentRow; content: Buffer }>>;
}

/** Pictures are told by their first bytes, never by what the sender says. */
export function pictureType(content: Buffer): AttachmentRow['type'] | null {
  const starts = (...bytes: number[]): boolean => bytes.every((byte, at) => content[at] === byte);
  if (starts(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'image/png';
  if (starts(0xff, 0xd8, 0xff)) return 'image/jpeg';
  if (content.toString('latin1', 0, 4) === 'RIFF' && content.toString('latin1', 8, 12) === 'WEBP') {
    return 'image/webp';
  }
  return null;
}

export function makeAttachments(store: AttachmentStore): AttachmentUseCases {
  return {
    async add(job, id, name, content) {
      if (!(await store.jobExists(job))) return jobProblem(job);
      const type = pictureType(content);
      if (!type) {
        return {
          ok: false,
          problem: {
            status: 415,
            title: 'Not a picture',
            detail: `${name} is not one of: ${attachmentTypes.join(', ')}. It may be broken.`,
            errors: [{ field: 'file', message: 'must be a PNG, JPEG or WebP picture' }],
          },
        };
      }
      const row: AttachmentRow = { id, type, bytes: content.length, name };
      const stored = await store.add(job, row, content);
      if (stored === 'taken') {
        return { ok: false, problem: { status: 409, title: 'This id belongs to another picture' } };
      }
      return { ok: true, value: row };
    },
    async read(id) {
      const found = await store.read(id);
      return found
        ? { ok: true, value: found }
        : { ok: false, problem: { status: 404, title: 'No such picture' } };
    },
  };
}
