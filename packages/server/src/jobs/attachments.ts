import { createHash } from 'node:crypto';
import { firmwareType, type AttachmentRow } from '@jiko/contract';
import { checkPicture } from '../picture.ts';
import { jobProblem, type Outcome } from '../outcome.ts';

export interface AttachmentStore {
  jobExists(job: string): Promise<boolean>;
  /** False when the id is taken by the same bytes already: sending again is harmless. */
  add(job: string, row: AttachmentRow, content: Buffer): Promise<'added' | 'known' | 'taken'>;
  read(id: string): Promise<{ row: AttachmentRow; content: Buffer } | null>;
}

export interface AttachmentUseCases {
  add(job: string, id: string, name: string, content: Buffer): Promise<Outcome<AttachmentRow>>;
  /** Contents of a flash; refused where they are not those the sender hashed. */
  addFirmware(
    job: string,
    id: string,
    name: string,
    content: Buffer,
    sha256: string,
  ): Promise<Outcome<AttachmentRow>>;
  read(id: string): Promise<Outcome<{ row: AttachmentRow; content: Buffer }>>;
}

export function makeAttachments(store: AttachmentStore): AttachmentUseCases {
  const keep = async (
    job: string,
    row: AttachmentRow,
    content: Buffer,
  ): Promise<Outcome<AttachmentRow>> => {
    const stored = await store.add(job, row, content);
    return stored === 'taken'
      ? { ok: false, problem: { status: 409, title: 'This id belongs to another file' } }
      : { ok: true, value: row };
  };
  return {
    async add(job, id, name, content) {
      if (!(await store.jobExists(job))) return jobProblem(job);
      const checked = checkPicture(name, content);
      if (!checked.ok) return checked;
      return keep(job, { id, type: checked.type, bytes: content.length, name }, content);
    },
    async addFirmware(job, id, name, content, sha256) {
      if (!(await store.jobExists(job))) return jobProblem(job);
      if (createHash('sha256').update(content).digest('hex') !== sha256)
        return {
          ok: false,
          problem: {
            status: 400,
            title: 'The contents changed on their way',
            detail: `${name} is not what its hash says. Nothing was stored.`,
            errors: [{ field: 'file', message: 'does not have this SHA-256' }],
          },
        };
      return keep(job, { id, type: firmwareType, bytes: content.length, name }, content);
    },
    async read(id) {
      const found = await store.read(id);
      return found
        ? { ok: true, value: found }
        : { ok: false, problem: { status: 404, title: 'No such file' } };
    },
  };
}
