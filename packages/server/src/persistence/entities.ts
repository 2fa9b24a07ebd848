import { EntitySchema } from 'typeorm';
import type { EventBody, Intake, JobSummary, Taught } from '@jiko/core/record';

// Entity schemas without decorators: the loader and vitest carry no decorator metadata. Names of
// constraints are spelled out here and in the migrations alike, so that the two can be compared.

export interface BoardVersionEntity {
  id: string;
  hash: string;
  title: string;
  revision: string;
  depth: 'rails' | 'chips' | 'full';
  text: string;
  savedAt: Date;
}
export const BoardVersion = new EntitySchema<BoardVersionEntity>({
  name: 'board_version',
  columns: {
    id: { type: 'text', primary: true, primaryKeyConstraintName: 'pk_board_version' },
    hash: { type: 'text', primary: true, primaryKeyConstraintName: 'pk_board_version' },
    title: { type: 'text' },
    revision: { type: 'text' },
    depth: { type: 'text' },
    text: { type: 'text' },
    savedAt: { type: 'timestamptz', name: 'saved_at' },
  },
});

export interface JobEntity {
  id: string;
  /** The latest intake, so that the list needs no events. */
  intake: Intake;
  closed: string | null;
  /** What the list says of it; null once something was added, until the list is asked for. */
  summary: JobSummary | null;
  /** What it teaches the next jobs; worked out with the summary. */
  taught: Taught | null;
  /** Words it is found by, as the database keeps them; worked out with the summary. */
  words: string | null;
  createdAt: Date;
  updatedAt: Date;
}
export const JobTable = new EntitySchema<JobEntity>({
  name: 'job',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'pk_job' },
    intake: { type: 'jsonb' },
    closed: { type: 'text', nullable: true },
    summary: { type: 'jsonb', nullable: true },
    taught: { type: 'jsonb', nullable: true },
    words: { type: 'tsvector', nullable: true, select: false },
    createdAt: { type: 'timestamptz', name: 'created_at' },
    updatedAt: { type: 'timestamptz', name: 'updated_at' },
  },
  // Indexes of kinds that cannot be said here: see the migration that made them.
  indices: [
    { name: 'ix_job_words', synchronize: false },
    { name: 'ix_job_board', synchronize: false },
  ],
});

export interface JobEventEntity {
  id: string;
  jobId: string;
  /** Order of recording; given by the database. */
  seq: string;
  who: string;
  at: Date;
  body: EventBody;
  recordedAt: Date;
}
export const JobEventTable = new EntitySchema<JobEventEntity>({
  name: 'job_event',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'pk_job_event' },
    jobId: { type: 'uuid', name: 'job_id' },
    seq: { type: 'bigint', generated: 'increment' },
    who: { type: 'text' },
    at: { type: 'timestamptz' },
    body: { type: 'jsonb' },
    recordedAt: { type: 'timestamptz', name: 'recorded_at', default: () => 'now()' },
  },
  indices: [{ name: 'ix_job_event_job_seq', columns: ['jobId', 'seq'] }],
  foreignKeys: [
    {
      name: 'fk_job_event_job',
      target: 'job',
      columnNames: ['jobId'],
      referencedColumnNames: ['id'],
    },
  ],
});

export interface AttachmentEntity {
  id: string;
  jobId: string;
  name: string;
  type: string;
  bytes: number;
  content: Buffer;
  addedAt: Date;
}
export const AttachmentTable = new EntitySchema<AttachmentEntity>({
  name: 'attachment',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'pk_attachment' },
    jobId: { type: 'uuid', name: 'job_id' },
    name: { type: 'text' },
    type: { type: 'text' },
    bytes: { type: 'integer' },
    content: { type: 'bytea' },
    addedAt: { type: 'timestamptz', name: 'added_at', default: () => 'now()' },
  },
  indices: [{ name: 'ix_attachment_job', columns: ['jobId'] }],
  foreignKeys: [
    {
      name: 'fk_attachment_job',
      target: 'job',
      columnNames: ['jobId'],
      referencedColumnNames: ['id'],
    },
  ],
});

export interface DictionaryEntity {
  name: string;
  content: Buffer;
  usedAt: Date;
}
export const DictionaryTable = new EntitySchema<DictionaryEntity>({
  name: 'dictionary',
  columns: {
    name: { type: 'text', primary: true, primaryKeyConstraintName: 'pk_dictionary' },
    content: { type: 'bytea' },
    usedAt: { type: 'timestamptz', name: 'used_at', default: () => 'now()' },
  },
});

export interface BoardPictureEntity {
  id: string;
  board: string;
  side: 'top' | 'bottom';
  name: string;
  type: string;
  bytes: number;
  content: Buffer;
  addedAt: Date;
  takenBackAt: Date | null;
}
export const BoardPictureTable = new EntitySchema<BoardPictureEntity>({
  name: 'board_picture',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'pk_board_picture' },
    board: { type: 'text' },
    side: { type: 'text' },
    name: { type: 'text' },
    type: { type: 'text' },
    bytes: { type: 'integer' },
    content: { type: 'bytea' },
    addedAt: { type: 'timestamptz', name: 'added_at', default: () => 'now()' },
    takenBackAt: { type: 'timestamptz', name: 'taken_back_at', nullable: true },
  },
  indices: [{ name: 'ix_board_picture_board', columns: ['board', 'side'] }],
});

export interface BoardPlaceEntity {
  board: string;
  ref: string;
  /** Id of the photo, or `drawn`. */
  frame: string;
  side: 'top' | 'bottom';
  u: number;
  v: number;
  who: string;
  placedAt: Date;
}
export const BoardPlaceTable = new EntitySchema<BoardPlaceEntity>({
  name: 'board_place',
  columns: {
    board: { type: 'text', primary: true, primaryKeyConstraintName: 'pk_board_place' },
    ref: { type: 'text', primary: true, primaryKeyConstraintName: 'pk_board_place' },
    frame: { type: 'text', primary: true, primaryKeyConstraintName: 'pk_board_place' },
    side: { type: 'text' },
    u: { type: 'double precision' },
    v: { type: 'double precision' },
    who: { type: 'text' },
    placedAt: { type: 'timestamptz', name: 'placed_at' },
  },
});

export interface BoardDocumentEntity {
  id: string;
  board: string;
  kind: string;
  name: string;
  bytes: number;
  pageCount: number;
  pagesWithText: number;
  troubles: unknown;
  pages: unknown;
  content: Buffer;
  addedAt: Date;
  takenBackAt: Date | null;
}
export const BoardDocumentTable = new EntitySchema<BoardDocumentEntity>({
  name: 'board_document',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'pk_board_document' },
    board: { type: 'text' },
    kind: { type: 'text' },
    name: { type: 'text' },
    bytes: { type: 'integer' },
    pageCount: { type: 'integer', name: 'page_count' },
    pagesWithText: { type: 'integer', name: 'pages_with_text' },
    troubles: { type: 'jsonb' },
    pages: { type: 'jsonb' },
    content: { type: 'bytea' },
    addedAt: { type: 'timestamptz', name: 'added_at', default: () => 'now()' },
    takenBackAt: { type: 'timestamptz', name: 'taken_back_at', nullable: true },
  },
  indices: [{ name: 'ix_board_document_board', columns: ['board'] }],
});

export interface SettingEntity {
  name: string;
  value: string;
}
export const SettingTable = new EntitySchema<SettingEntity>({
  name: 'setting',
  columns: {
    name: { type: 'text', primary: true, primaryKeyConstraintName: 'pk_setting' },
    value: { type: 'text' },
  },
});

interface ShelfItemEntity {
  id: string;
  item: object;
  updatedAt: Date;
}
/** Donor boards and loose parts of the shop. */
const ShelfItemTable = new EntitySchema<ShelfItemEntity>({
  name: 'ShelfItem',
  tableName: 'shelf_item',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'pk_shelf_item' },
    item: { type: 'jsonb' },
    updatedAt: { name: 'updated_at', type: 'timestamptz', default: () => 'now()' },
  },
});

export const entities = [
  SettingTable,
  BoardVersion,
  JobTable,
  JobEventTable,
  AttachmentTable,
  DictionaryTable,
  BoardPictureTable,
  BoardPlaceTable,
  BoardDocumentTable,
  ShelfItemTable,
];
