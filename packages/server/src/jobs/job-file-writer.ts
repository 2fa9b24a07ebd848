import { strToU8, zipSync, type Zippable } from 'fflate';
import { firmwareType } from '@jiko/contract';
import { deriveJob, keptEventSchema } from '@jiko/core/record';
import { sha256 } from './job-file-reader.ts';
import type { JobFile, RawEvent, WholeJob } from './job-file-format.ts';

const extension = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/webp': 'webp',
  [firmwareType]: 'bin',
} as const;

/** One job as one zip file, and the name it is handed out under. */
export function writeJobFile(id: string, job: WholeJob): { name: string; bytes: Uint8Array } {
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
  const events = JSON.parse(job.events) as RawEvent[];
  const { createdAt } = job;
  const head: JobFile = {
    ...{ format: 'jiko-job', version: 1, id, createdAt },
    ...{ events, sheets, pictures },
  };
  files['job.json'] = strToU8(JSON.stringify(head, null, 1));
  const { intake } = deriveJob(events.map((event) => keptEventSchema.parse(event)));
  const device = (intake?.device ?? 'job').toLowerCase().replace(/[^a-z0-9]+/g, '-');
  return {
    name: `jiko-${device.slice(0, 60)}-${id.slice(0, 8)}.zip`,
    bytes: zipSync(files),
  };
}
