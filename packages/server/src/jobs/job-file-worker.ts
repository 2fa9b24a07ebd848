import { move, transferableSymbol, valueSymbol } from 'piscina';
import type { Outcome } from '../outcome.ts';
import type { WholeJob } from './job-file-format.ts';
import { readJobFile, type ReadJobFile } from './job-file-reader.ts';
import { writeJobFile } from './job-file-writer.ts';

// Runs aside. Bytes are handed back, not copied: a job may hold hundreds of megabytes.

export function read(bytes: Uint8Array): Outcome<ReadJobFile> {
  const done = readJobFile(bytes);
  return done.ok
    ? handed(
        done,
        done.value.pictures.map(({ content }) => content),
      )
    : done;
}

export function write({ id, job }: { id: string; job: WholeJob }): ReturnType<typeof writeJobFile> {
  const written = writeJobFile(id, job);
  return handed(written, [written.bytes]);
}

function handed<T extends object>(value: T, contents: readonly Uint8Array[]): T {
  return move({
    get [transferableSymbol]() {
      return [...new Set(contents.map(({ buffer }) => buffer))];
    },
    get [valueSymbol]() {
      return value;
    },
  }) as T;
}
