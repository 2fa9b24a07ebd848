import type { AttachmentRow } from '@jiko/contract';
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
  read(id: string): Promise<Outcome<{ row: AttachmentRow; content: Buffer }>>;
}

export function makeAttachments(store: AttachmentStore): AttachmentUseCases {
  return {
    async add(job, id, name, content) {
      if (!(await store.jobExists(job))) return jobProblem(job);
      const checked = checkPicture(name, content);
      if (!checked.ok) return checked;
      const row: AttachmentRow = { id, type: checked.type, bytes: content.length, name };
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
