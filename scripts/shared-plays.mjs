// Plays made once in a run of the tests: each process leaves its dictionaries in a folder (JIKO_PLAYS) that
// is new for every run, so that no play outlives the code it was made by.
import {
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { shareDictionaries } from '@jiko/testing';

const folder = process.env.JIKO_PLAYS;
/** Longer than any board takes to be played: who began it is gone. */
const mostSeconds = 240;

if (folder) {
  // Without it every process would wait for another one to play.
  mkdirSync(folder, { recursive: true });
  shareDictionaries({
    read(name) {
      const file = join(folder, `${name}.dictionary`);
      const playing = `${file}.playing`;
      for (;;) {
        if (existsSync(file)) return new Uint8Array(readFileSync(file));
        try {
          writeFileSync(playing, '', { flag: 'wx' });
          return null;
        } catch {
          // Another process plays it just now.
          if (ageOf(playing) > mostSeconds) rmSync(playing, { force: true });
          Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 200);
        }
      }
    },
    keep(name, bytes) {
      const file = join(folder, `${name}.dictionary`);
      writeFileSync(`${file}.new-${process.pid}`, bytes);
      renameSync(`${file}.new-${process.pid}`, file);
      rmSync(`${file}.playing`, { force: true });
    },
  });
}

/** Seconds since a file was written; 0 where it is gone. @param {string} file */
function ageOf(file) {
  const found = statSync(file, { throwIfNoEntry: false });
  return found ? (Date.now() - found.mtimeMs) / 1000 : 0;
}
