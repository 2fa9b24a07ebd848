import { z } from 'zod';
import { keptTypes } from '@jiko/contract';
import { momentSchema } from '@jiko/core/record';

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
  type: (typeof keptTypes)[number];
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
