import { createHash } from 'node:crypto';
import { strFromU8, unzipSync } from 'fflate';
import { firmwareType, largestAttachmentBytes, largestFirmwareBytes } from '@jiko/contract';
import { loadSheet } from '@jiko/core/board';
import { deriveJob, keptEventSchema, unkeepable } from '@jiko/core/record';
import type { Outcome, Refusal } from '../outcome.ts';
import { checkPicture } from '../picture.ts';
import {
  jobFileSchema,
  type JobFile,
  type KeptPicture,
  type SheetVersion,
} from './job-file-format.ts';

// Reads a job file to its last picture. It is anybody's: all of this runs aside (job-file-worker.ts).

/** What it may hold once unpacked. */
const largestUnpackedBytes = 600 * 1024 ** 2;
/** A hundred thousand entries are half of this. */
const largestHeadBytes = 100 * 1024 ** 2;
/** As sheets are taken elsewhere. */
const largestSheetBytes = 2 * 1024 ** 2;
const mostFiles = 2300;

/** A job file that was found whole. */
export interface ReadJobFile {
  id: string;
  createdAt: string;
  /** When the last entry was recorded. */
  updatedAt: string;
  device: string;
  /** How the job ended; null while it is open. */
  closed: string | null;
  /** JSON of the first entry's intake. */
  intake: string;
  /** JSON of all entries, in their order. */
  events: string;
  entries: number;
  pictures: KeptPicture[];
  sheets: SheetVersion[];
}

export function readJobFile(bytes: Uint8Array): Outcome<ReadJobFile> {
  let files: Record<string, Uint8Array>;
  let unpacked = 0;
  let count = 0;
  try {
    files = unzipSync(bytes, {
      filter({ name, originalSize }) {
        unpacked += originalSize;
        count++;
        if (unpacked > largestUnpackedBytes || count > mostFiles) throw new Error('too large');
        if (name === 'job.json' && originalSize > largestHeadBytes)
          throw new Error('job.json is too large');
        return true;
      },
    });
  } catch (error) {
    return refuse('This is no job file, or it is not whole', (error as Error).message);
  }
  const head = readHead(files['job.json']);
  if (!head.ok) return head;
  const pictures = readPictures(head.value, files);
  if (!pictures.ok) return pictures;
  const sheets = readSheets(head.value, files);
  if (!sheets.ok) return sheets;
  const { id, createdAt, events } = head.value;
  const job = deriveJob(events.map((event) => keptEventSchema.parse(event)));
  return {
    ok: true,
    value: {
      ...{ id, createdAt, updatedAt: events.at(-1)?.at ?? createdAt },
      device: job.intake?.device ?? '',
      closed: job.close?.body.outcome ?? null,
      intake: JSON.stringify(events[0]?.body['intake']),
      events: JSON.stringify(events),
      entries: events.length,
      ...{ pictures: pictures.value, sheets: sheets.value },
    },
  };
}

function readHead(content: Uint8Array | undefined): Outcome<JobFile> {
  if (!content) return refuse('This is no job file', 'There is no job.json in it.');
  let written: unknown;
  try {
    written = JSON.parse(strFromU8(content));
  } catch {
    return refuse('job.json cannot be read', 'It is no JSON.');
  }
  const head = jobFileSchema.safeParse(written);
  if (!head.success) {
    const [issue] = head.error.issues;
    return notAsItShouldBe(`${issue?.path.join('.') ?? ''}: ${issue?.message ?? ''}`);
  }
  const odd = unkeepable(head.data);
  if (odd !== null) return refuse('job.json holds a character that cannot be kept', odd);
  const first = head.data.events[0]?.body;
  if (first?.type !== 'intake' || typeof first['intake'] !== 'object' || first['intake'] === null)
    return notAsItShouldBe('events.0: a job starts with its intake');
  for (const [what, ids] of [
    ['events', head.data.events.map((event) => event.id)],
    ['pictures', head.data.pictures.map((picture) => picture.id)],
    ['sheets', head.data.sheets.map(({ id, hash }) => `${id} ${hash}`)],
  ] as const)
    if (new Set(ids).size < ids.length) return notAsItShouldBe(`${what}: one is there twice`);
  return { ok: true, value: head.data };
}

function readPictures(head: JobFile, files: Record<string, Uint8Array>): Outcome<KeptPicture[]> {
  const pictures: KeptPicture[] = [];
  for (const { file, sha256: wanted, id, name, type } of head.pictures) {
    const content = files[file];
    if (!content) return refuse('The file is not whole', `${file} is missing.`);
    const isFirmware = type === firmwareType;
    const checked = isFirmware
      ? { ok: true as const, type }
      : checkPicture(file, Buffer.from(content.buffer, content.byteOffset, content.byteLength));
    if (!checked.ok) return checked;
    if (
      sha256(content) !== wanted ||
      checked.type !== type ||
      content.length > (isFirmware ? largestFirmwareBytes : largestAttachmentBytes)
    )
      return refuse('The file is damaged', `${file} is not what job.json says.`);
    pictures.push({ id, name, type, content });
  }
  return { ok: true, value: pictures };
}

function readSheets(head: JobFile, files: Record<string, Uint8Array>): Outcome<SheetVersion[]> {
  const sheets: SheetVersion[] = [];
  for (const { file, id, hash, savedAt } of head.sheets) {
    const content = files[file];
    if (!content) return refuse('The file is not whole', `${file} is missing.`);
    if (content.length > largestSheetBytes)
      return refuse('A sheet in the file is too large', `${file} has over 2 MB.`);
    const text = strFromU8(content);
    const loaded = loadSheet(text);
    if (!loaded.ok) return refuse('A sheet in the file cannot be read', file);
    const { title, revision, depth } = loaded.value;
    if (loaded.value.id !== id || loaded.value.hash !== hash)
      return refuse('The file is damaged', `${file} is not what job.json says.`);
    sheets.push({ id, hash, title, revision, depth, text, savedAt });
  }
  return { ok: true, value: sheets };
}

export const sha256 = (content: Uint8Array): string =>
  createHash('sha256').update(content).digest('hex');

const notAsItShouldBe = (detail: string): { ok: false; problem: Refusal } =>
  refuse('job.json is not what it should be', detail);
const refuse = (title: string, detail: string): { ok: false; problem: Refusal } => ({
  ok: false,
  problem: { status: 400, title, detail },
});
