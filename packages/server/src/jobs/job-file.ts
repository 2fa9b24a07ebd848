import { createHash } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { z } from 'zod';
import {
  firmwareType,
  keptTypes,
  largestAttachmentBytes,
  largestFirmwareBytes,
  type Imported,
} from '@jiko/contract';
import { loadSheet } from '@jiko/core/board';
import { deriveJob, keptEventSchema, unkeepable } from '@jiko/core/record';
import { jobProblem, type Outcome, type Refusal } from '../outcome.ts';
import { checkPicture } from '../picture.ts';

// One job as one zip file: `job.json` says what is in it, beside it lie sheets and pictures.

const uuid = z.uuid();
const moment = z.iso.datetime({ offset: true });
const path = z.string().regex(/^(sheets|pictures)\/[\w.-]{1,120}$/, 'is no place in the file');

/** An entry as it was kept: kinds this version does not know go along unchanged. */
const rawEventSchema = z.strictObject({
  id: uuid,
  who: z.string().min(1).max(60),
  at: moment,
  body: z.looseObject({ type: z.string().min(1).max(40) }),
});
export type RawEvent = z.output<typeof rawEventSchema>;

/** What `job.json` holds; published as JSON Schema by the server. */
export const jobFileSchema = z.strictObject({
  format: z.literal('jiko-job').describe('What this file is'),
  version: z.literal(1).describe('Of the format'),
  id: uuid,
  createdAt: moment,
  events: z.array(rawEventSchema).min(1).max(100_000).describe('In the order they were recorded'),
  sheets: z
    .array(
      z.strictObject({
        id: z.string().max(64),
        hash: z.string().regex(/^[0-9a-f]{16}$/),
        savedAt: moment,
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
type JobFile = z.output<typeof jobFileSchema>;

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
  content: Buffer;
}

/** What job files need of the world. */
export interface JobFileStore {
  /** The job's entries as they lie in the database, its pictures, and all versions of its board. */
  whole(id: string): Promise<{
    createdAt: string;
    events: RawEvent[];
    pictures: KeptPicture[];
    sheets: SheetVersion[];
  } | null>;
  /** Adds all of it or nothing; sheet versions that are there are left alone. */
  takeOver(job: {
    id: string;
    createdAt: string;
    /** How it ended; null while it is open. */
    closed: string | null;
    events: readonly RawEvent[];
    pictures: readonly KeptPicture[];
    sheets: readonly SheetVersion[];
  }): Promise<'added' | 'same' | 'differs' | 'event-taken'>;
}

export interface JobFileUseCases {
  save(id: string): Promise<Outcome<{ name: string; bytes: Uint8Array }>>;
  takeOver(bytes: Uint8Array): Promise<Outcome<Imported>>;
}

export const largestJobFileBytes = 300 * 1024 ** 2;
/** What it may hold once unpacked. */
const largestUnpackedBytes = 600 * 1024 ** 2;
const mostFiles = 2300;

const extension = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/webp': 'webp',
  [firmwareType]: 'bin',
} as const;

export function makeJobFiles(store: JobFileStore): JobFileUseCases {
  return {
    async save(id) {
      const job = await store.whole(id);
      if (!job) return jobProblem(id);
      const files: Zippable = {};
      const sheets = job.sheets.map(({ id: board, hash, savedAt, text }) => {
        const file = `sheets/${board}-${hash}.yaml`;
        files[file] = strToU8(text);
        return { id: board, hash, savedAt, file };
      });
      const pictures = job.pictures.map(({ id: picture, name, type, content }) => {
        const file = `pictures/${picture}.${extension[type]}`;
        // Pictures are packed already.
        files[file] = [content, { level: type === firmwareType ? 6 : 0 }];
        return { id: picture, name, type, sha256: sha256(content), file };
      });
      const { createdAt, events } = job;
      const head: JobFile = {
        ...{ format: 'jiko-job', version: 1, id, createdAt },
        ...{ events, sheets, pictures },
      };
      files['job.json'] = strToU8(JSON.stringify(head, null, 1));
      const { intake } = deriveJob(events.map((one) => keptEventSchema.parse(one)));
      const device = (intake?.device ?? 'job').toLowerCase().replace(/[^a-z0-9]+/g, '-');
      return {
        ok: true,
        value: { name: `jiko-${device.slice(0, 60)}-${id.slice(0, 8)}.zip`, bytes: zipSync(files) },
      };
    },
    async takeOver(bytes) {
      const read = readJobFile(bytes);
      if (!read.ok) return read;
      const { head, pictures, sheets } = read.value;
      const { id, createdAt, events } = head;
      const { intake, close } = deriveJob(events.map((one) => keptEventSchema.parse(one)));
      const closed = close?.body.outcome ?? null;
      const done = await store.takeOver({ id, createdAt, closed, events, pictures, sheets });
      if (done === 'differs' || done === 'event-taken')
        return refuse(
          409,
          done === 'differs'
            ? 'This job is here already, with other entries'
            : 'Entries of this job belong to another one here',
          'Nothing was changed: a job is taken over whole or not at all.',
        );
      return {
        ok: true,
        value: {
          id,
          device: intake?.device ?? '',
          entries: events.length,
          pictures: pictures.length,
          sheets: sheets.length,
          isNew: done === 'added',
        },
      };
    },
  };
}

/** All of a job file, checked to the last picture before anything is stored. */
function readJobFile(
  bytes: Uint8Array,
): Outcome<{ head: JobFile; pictures: KeptPicture[]; sheets: SheetVersion[] }> {
  let files: Record<string, Uint8Array>;
  let unpacked = 0;
  let count = 0;
  try {
    files = unzipSync(bytes, {
      filter({ originalSize }) {
        unpacked += originalSize;
        count++;
        if (unpacked > largestUnpackedBytes || count > mostFiles) throw new Error('too large');
        return true;
      },
    });
  } catch (error) {
    return refuse(400, 'This is no job file, or it is not whole', (error as Error).message);
  }
  const text = files['job.json'];
  if (!text) return refuse(400, 'This is no job file', 'There is no job.json in it.');
  let written: unknown;
  try {
    written = JSON.parse(strFromU8(text));
  } catch {
    return refuse(400, 'job.json cannot be read', 'It is no JSON.');
  }
  const head = jobFileSchema.safeParse(written);
  if (!head.success) {
    const [issue] = head.error.issues;
    return refuse(
      400,
      'job.json is not what it should be',
      `${issue?.path.join('.') ?? ''}: ${issue?.message ?? ''}`,
    );
  }
  const odd = unkeepable(head.data);
  if (odd !== null) return refuse(400, 'job.json holds a character that cannot be kept', odd);
  if (head.data.events[0]?.body.type !== 'intake')
    return refuse(
      400,
      'job.json is not what it should be',
      'events.0: a job starts with its intake',
    );
  const pictures: KeptPicture[] = [];
  for (const { file, sha256: wanted, id, name, type } of head.data.pictures) {
    const content = files[file];
    if (!content) return refuse(400, 'The file is not whole', `${file} is missing.`);
    const buffer = Buffer.from(content);
    const isFirmware = type === firmwareType;
    const checked = isFirmware ? { ok: true as const, type } : checkPicture(file, buffer);
    if (!checked.ok) return checked;
    if (
      sha256(buffer) !== wanted ||
      checked.type !== type ||
      buffer.length > (isFirmware ? largestFirmwareBytes : largestAttachmentBytes)
    )
      return refuse(400, 'The file is damaged', `${file} is not what job.json says.`);
    pictures.push({ id, name, type, content: buffer });
  }
  const sheets: SheetVersion[] = [];
  for (const { file, id, hash, savedAt } of head.data.sheets) {
    const content = files[file];
    if (!content) return refuse(400, 'The file is not whole', `${file} is missing.`);
    const sheet = strFromU8(content);
    const loaded = loadSheet(sheet);
    if (!loaded.ok) return refuse(400, 'A sheet in the file cannot be read', file);
    const { title, revision, depth } = loaded.value;
    if (loaded.value.id !== id || loaded.value.hash !== hash)
      return refuse(400, 'The file is damaged', `${file} is not what job.json says.`);
    sheets.push({ id, hash, title, revision, depth, text: sheet, savedAt });
  }
  return { ok: true, value: { head: head.data, pictures, sheets } };
}

const sha256 = (content: Uint8Array): string => createHash('sha256').update(content).digest('hex');

const refuse = (
  status: Refusal['status'],
  title: string,
  detail: string,
): { ok: false; problem: Refusal } => ({ ok: false, problem: { status, title, detail } });
