import {
  intakeSchema,
  jobEventSchema,
  keptEventSchema,
  jobSummarySchema,
  picturePlaceSchema,
  allOutcomes,
  failureWays,
  shelfItemSchema,
  knownGoodSchema,
  proofs,
} from '@jiko/core/record';
import { z } from 'zod';
import { attachmentTypes, keptTypes, largestSheetCharacters } from './api.ts';

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
  summary: jobSummarySchema,
  /** Why it cannot be shown as it is; null where it can. */
  trouble: z.string().nullable(),
  closed: z.enum(allOutcomes).nullable(),
});
export type JobRow = z.output<typeof jobRowSchema>;
export const jobRowsSchema = z.array(jobRowSchema);

const day = z.iso.date();
/** What jobs are searched by, as it stands in the address; every word of `q` begins a word of the job. */
export const jobSearchSchema = z.object({
  q: z.string().max(200).default(''),
  board: boardId.optional(),
  state: z.enum(['open', 'closed']).optional(),
  /** Days, both included: something was written since, and it was taken in by then. */
  from: day.optional(),
  to: day.optional(),
});
export type JobSearchQuery = z.output<typeof jobSearchSchema>;
/** The latest first; `total` counts those that are not shown as well. */
export const foundJobsSchema = z.strictObject({ total: z.number().int(), rows: jobRowsSchema });
export type FoundJobs = z.output<typeof foundJobsSchema>;

export const jobDetailSchema = z.strictObject({
  id,
  createdAt: moment,
  events: z.array(keptEventSchema),
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
/** Versions of one board, the present one first. */
export const boardVersionsSchema = z.array(boardRowSchema);

/** A board in the list: one that was put away is offered for no new job. */
export const listedBoardSchema = boardRowSchema.extend({ archived: z.boolean() });
export type ListedBoard = z.output<typeof listedBoardSchema>;
export const boardRowsSchema = z.array(listedBoardSchema);
export const archiveSchema = z.strictObject({ archived: z.boolean() });

export const boardDetailSchema = boardRowSchema.extend({ text: z.string() });
export type BoardDetail = z.output<typeof boardDetailSchema>;

const habit = { times: z.number().int().positive(), how: z.enum(failureWays).optional() };
/** Where closed jobs on a board ended, most often first; then where those on others of its scheme did. */
export const habitsSchema = z.array(
  z.union([
    z.strictObject({ part: z.string(), ...habit }),
    z.strictObject({ role: z.string(), ...habit }),
  ]),
);

/** What closed jobs left of a board: where they ended, and what good ones read. */
export const boardHistorySchema = z.strictObject({
  lessons: z.array(
    z.strictObject({
      job: z.string(),
      device: z.string(),
      at: z.string(),
      outcome: z.enum(allOutcomes),
      proof: z.enum(proofs),
      parts: z.array(z.string()),
      how: z.enum(failureWays).nullable(),
      cause: z.string(),
      teaches: z.boolean(),
    }),
  ),
  known: z.array(knownGoodSchema),
});
export type BoardHistory = z.output<typeof boardHistorySchema>;

/** Donor boards and loose parts of the shop. */
export const shelfSchema = z.array(z.strictObject({ id, item: shelfItemSchema }));
export type Shelf = z.output<typeof shelfSchema>;

/** A sheet with the version it was made from: null for a board that is not there yet. */
export const newBoardSchema = z.strictObject({
  base: z
    .string()
    .regex(/^[0-9a-f]{16}$/, 'is no version of a sheet')
    .nullable(),
  text: z.string().min(1, 'is empty').max(largestSheetCharacters),
});
export type NewBoard = z.output<typeof newBoardSchema>;

export const attachmentRowSchema = z.strictObject({
  id,
  type: z.enum(keptTypes),
  bytes: z.number().int(),
  name: z.string(),
});
export type AttachmentRow = z.output<typeof attachmentRowSchema>;

const side = z.enum(['top', 'bottom']);
const name = z.string().min(1).max(64);

/** A photo of one side of a board. */
export const boardPictureSchema = z.strictObject({
  id,
  side,
  type: z.enum(attachmentTypes),
  bytes: z.number().int(),
  name: z.string(),
  /** Whether its pixels are mirrored against the sheet's places is found from placed parts. */
  addedAt: moment,
});
export type BoardPicture = z.output<typeof boardPictureSchema>;

/** A picture parts are placed on: a photo by its id, or the one drawn from the sheet. */
const frame = z.union([id, z.literal('drawn')]);

/** Where a part is on a picture: once placed it serves every job on that board. */
export const boardPlaceSchema = z.strictObject({
  /** A part, a chip or a point of the sheet. */
  ref: name,
  frame,
  at: picturePlaceSchema,
  who: z.string().trim().min(1).max(60),
});
export type BoardPlace = z.output<typeof boardPlaceSchema>;

export const boardLookSchema = z.strictObject({
  /** The newest of each side. */
  pictures: z.array(boardPictureSchema),
  places: z.array(boardPlaceSchema),
});
export type BoardLook = z.output<typeof boardLookSchema>;

/** What a document of a board is for. */
export const documentKinds = ['schematic', 'placement', 'data sheet', 'other'] as const;

/** A PDF of a board. */
export const boardDocumentSchema = z.strictObject({
  id,
  kind: z.enum(documentKinds),
  name: z.string(),
  bytes: z.number().int(),
  pages: z.number().int(),
  /** Pages whose text could be read; none of a scanned document. */
  pagesWithText: z.number().int(),
  /** Pages that could not be read, with why. */
  troubles: z.array(z.strictObject({ page: z.number().int(), why: z.string() })),
  addedAt: moment,
});
export type BoardDocument = z.output<typeof boardDocumentSchema>;
export const boardDocumentsSchema = z.array(boardDocumentSchema);

const box = { x: z.number(), y: z.number(), w: z.number(), h: z.number() };
/** What was read of a document's pages; see PageContent of the core. */
export const documentPagesSchema = z.array(
  z.strictObject({
    page: z.number().int(),
    width: z.number(),
    height: z.number(),
    runs: z.array(
      z.strictObject({
        text: z.string(),
        turn: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]),
        ...box,
      }),
    ),
    wires: z.array(z.tuple([z.number(), z.number(), z.number(), z.number()])),
    boxes: z.array(z.strictObject(box)),
  }),
);

/** Places to keep; those with `at` null are taken off again. */
export const setPlacesSchema = z.strictObject({
  places: z
    .array(boardPlaceSchema.extend({ at: picturePlaceSchema.nullable() }))
    .min(1)
    .max(500),
});
export type SetPlaces = z.output<typeof setPlacesSchema>;

/** Takes words out: the entry that says so, with its id made by the client. */
export const eraseSchema = z.strictObject({ event: jobEventSchema });

export const healthSchema = z.strictObject({
  status: z.enum(['ok', 'failing']),
  /** Reading, and writing: a full disk reads and does not write. */
  database: z.enum(['ok', 'unreachable', 'read-only', 'damaged']),
  /** Why not, in words. */
  because: z.string().nullable(),
});

const backupSchema = z.strictObject({
  name: z.string(),
  bytes: z.number(),
  at: moment,
});
/** The shop's data as a whole: where it lies, its backups, the room left. */
export const shopSchema = z.strictObject({
  /** Null where the database is somebody else's: it is backed up there. */
  folder: z.string().nullable(),
  /** Daily backups, newest first. */
  backups: z.array(backupSchema),
  /** What became of the last attempt; null before the first. */
  last: z.strictObject({ at: moment, ok: z.boolean(), words: z.string() }).nullable(),
  freeBytes: z.number().nullable(),
  warnings: z.array(z.string()),
  demo: z.enum(['loaded', 'left-out', 'removed']),
});
export type Shop = z.output<typeof shopSchema>;

/** A job taken over from a file. */
export const importedSchema = z.strictObject({
  id,
  device: z.string(),
  entries: z.number().int(),
  pictures: z.number().int(),
  sheets: z.number().int(),
  /** False where it was here already, the same. */
  isNew: z.boolean(),
});
export type Imported = z.output<typeof importedSchema>;
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
