import { intakeSchema, jobEventSchema } from '@jiko/core/record';
import { z } from 'zod';
import { attachmentTypes, largestSheetCharacters } from './api.ts';

const id = z.uuid();
const boardId = z.string().regex(/^[a-z0-9][a-z0-9-]{1,40}$/);
const hash = z.string().regex(/^[0-9a-f]{16}$/);
const moment = z.iso.datetime({ offset: true });

/** A job with its first events; the ids are made by the client. */
export const newJobSchema = z.strictObject({
  id,
  events: z.array(jobEventSchema).min(1).max(50),
});
export type NewJob = z.output<typeof newJobSchema>;

export const jobRowSchema = z.strictObject({
  id,
  createdAt: moment,
  updatedAt: moment,
  intake: intakeSchema,
  boardTitle: z.string(),
  readings: z.number().int(),
  closed: z.enum(['repaired', 'not-repaired', 'returned']).nullable(),
});
export type JobRow = z.output<typeof jobRowSchema>;
export const jobRowsSchema = z.array(jobRowSchema);

export const jobDetailSchema = z.strictObject({
  id,
  createdAt: moment,
  events: z.array(jobEventSchema),
});
export type JobDetail = z.output<typeof jobDetailSchema>;

export const appendEventsSchema = z.strictObject({
  events: z.array(jobEventSchema).min(1).max(200),
});
export type AppendEvents = z.output<typeof appendEventsSchema>;

/** Which of the sent events were new; the others were there already. */
export const appendedSchema = z.strictObject({ recorded: z.array(id), known: z.array(id) });
export type Appended = z.output<typeof appendedSchema>;

export const boardRowSchema = z.strictObject({
  id: boardId,
  title: z.string(),
  revision: z.string(),
  depth: z.enum(['rails', 'chips', 'full']),
  hash,
  updatedAt: moment,
});
export type BoardRow = z.output<typeof boardRowSchema>;
export const boardRowsSchema = z.array(boardRowSchema);

export const boardDetailSchema = boardRowSchema.extend({ text: z.string() });
export type BoardDetail = z.output<typeof boardDetailSchema>;

/** Where closed jobs on a board ended, most often first. */
export const habitsSchema = z.array(
  z.strictObject({ part: z.string(), times: z.number().int().positive() }),
);

export const newBoardSchema = z.strictObject({
  text: z.string().min(1, 'is empty').max(largestSheetCharacters),
});
export type NewBoard = z.output<typeof newBoardSchema>;

export const attachmentRowSchema = z.strictObject({
  id,
  type: z.enum(attachmentTypes),
  bytes: z.number().int(),
  name: z.string(),
});
export type AttachmentRow = z.output<typeof attachmentRowSchema>;

export const healthSchema = z.strictObject({
  status: z.enum(['ok', 'failing']),
  database: z.enum(['ok', 'unreachable']),
});
export type Health = z.output<typeof healthSchema>;

/** Problem details for HTTP APIs, RFC 9457, with the fields at fault. */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string().optional(),
  errors: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
});
export type Problem = z.output<typeof problemSchema>;
