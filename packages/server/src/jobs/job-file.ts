import { z } from 'zod';
import { firmwareType, keptTypes, type Imported } from '@jiko/contract';
import { momentSchema } from '@jiko/core/record';
import { makeAside, TookTooMuch } from '../aside/aside.ts';
import { jobProblem, type Outcome, type Refusal } from '../outcome.ts';
import type { ReadJobFile } from './job-file-reader.ts';

// One job as one zip file: `job.json` says what is in it, beside it lie sheets and pictures.

const uuid = z.uuid();
const path = z.string().regex(/^(sheets|pictures)\/[\w.-]{1,120}$/, 'is no place in the file');

/** An entry as it was kept: kinds this version does not know go along unchanged. */
const rawEventSchema = z.strictObject({
  id: uuid,
  who: z.string().min(1).max(60),
  at: momentSchema,
  body: z.looseObject({ type: z.string().min(1).max(40) }),
});
export type RawEvent = z.output<typeof rawEventSchema>;

/** What `job.json` holds; published as JSON Schema by the server. */
export const jobFileSchema = z.strictObject({
  format: z.literal('jiko-job').describe('What this file is'),
  version: z.literal(1).describe('Of the format'),
  id: uuid,
  createdAt: momentSchema,
  events: z.array(rawEventSchema).min(1).max(100_000).describe('In the order they were recorded'),
  sheets: z
    .array(
      z.strictObject({
        id: z.string().max(64),
        hash: z.string().regex(/^[0-9a-f]{16}$/),
        savedAt: momentSchema,
        file: path,
      }),
    )
    .max(200)
    .describe('The board as it was whenever the job was worked on'),
  pictures: z
    .array(
      z.strictObject({
        id: uuid,
        name: z.string().max(200),
        type: z.enum(keptTypes),
        sha256: z.string().regex(/^[0-9a-f]{64}$/),
        file: path,
      }),
    )
    .max(2000),
});
export type JobFile = z.output<typeof jobFileSchema>;

export const jobFileJsonSchema = (): unknown => z.toJSONSchema(jobFileSchema, { io: 'input' });

export interface SheetVersion {
  id: string;
  hash: string;
  title: string;
  revision: string;
  depth: 'rails' | 'chips' | 'full';
  text: string;
  savedAt: string;
}
export interface KeptPicture {
  id: string;
  name: string;
  type: (typeof keptTypes)[number] | typeof firmwareType;
  content: Uint8Array;
}
/** All of a job. */
export interface WholeJob {
  createdAt: string;
  /** JSON of its entries as they lie in the database, in their order. */
  events: string;
  pictures: KeptPicture[];
  /** All versions of its boards. */
  sheets: SheetVersion[];
}

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
