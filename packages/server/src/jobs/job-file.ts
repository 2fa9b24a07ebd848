import type { Imported } from '@jiko/contract';
import { makeAside, TookTooMuch } from '../aside/aside.ts';
import { jobProblem, type Outcome, type Refusal } from '../outcome.ts';
import type { WholeJob } from './job-file-format.ts';
import type { ReadJobFile } from './job-file-reader.ts';

/** What job files need of the world. */
export interface JobFileStore {
  whole(id: string): Promise<WholeJob | null>;
  /** Adds all of it or nothing; sheet versions that are there are left alone. */
  takeOver(job: ReadJobFile): Promise<'added' | 'same' | Conflict>;
}
type Conflict = 'differs' | 'event-taken' | 'picture-taken';
const conflicts: Record<Conflict, string> = {
  differs: 'This job is here already, with other entries',
  'event-taken': 'Entries of this job belong to another one here',
  'picture-taken': 'A picture of this job belongs to another one here',
};

export interface JobFileUseCases {
  save(id: string): Promise<Outcome<{ name: string; bytes: Uint8Array }>>;
  takeOver(bytes: Uint8Array): Promise<Outcome<Imported>>;
}

export const largestJobFileBytes = 300 * 1024 ** 2;

/** 300 MB are read or written in a few seconds. */
const usualSeconds = 60;
const aside = makeAside(new URL('./job-file-worker.ts', import.meta.url));

export function makeJobFiles(store: JobFileStore, seconds = usualSeconds): JobFileUseCases {
  return {
    async save(id) {
      const job = await store.whole(id);
      if (!job) return jobProblem(id);
      return { ok: true, value: await aside('write', { id, job }, { seconds: usualSeconds }) };
    },
    async takeOver(bytes) {
      let read: Outcome<ReadJobFile>;
      try {
        read = await aside<Outcome<ReadJobFile>>('read', bytes, { seconds });
      } catch (error) {
        if (!(error instanceof TookTooMuch)) throw error;
        return refuse(400, 'The job file is not taken', `It ${error.message}.`);
      }
      if (!read.ok) return read;
      const { id, device, entries, pictures, sheets } = read.value;
      const done = await store.takeOver(read.value);
      if (done !== 'added' && done !== 'same')
        return refuse(
          409,
          conflicts[done],
          'Nothing was changed: a job is taken over whole or not at all.',
        );
      return {
        ok: true,
        value: {
          ...{ id, device, entries },
          pictures: pictures.length,
          sheets: sheets.length,
          isNew: done === 'added',
        },
      };
    },
  };
}

const refuse = (
  status: Refusal['status'],
  title: string,
  detail: string,
): { ok: false; problem: Refusal } => ({ ok: false, problem: { status, title, detail } });
