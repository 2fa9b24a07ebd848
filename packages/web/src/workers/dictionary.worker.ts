import { expose } from 'comlink';
import { loadSheet } from '@jiko/core/board';
import { benchSetup, makeDictionary, type BenchSetup, type Dictionary } from '@jiko/core/powerup';

/** Rows between two reports: some tens of milliseconds. */
const rowsPerReport = 8;

/**
 * Plays every single fault of a sheet, away from the interface. It is cancelled by ending the
 * worker: nothing is kept before it is whole.
 */
function make(
  text: string,
  bench: BenchSetup,
  report: (done: number, total: number) => void,
): Dictionary {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet cannot be read');
  const making = makeDictionary(loaded.value, benchSetup(loaded.value, bench));
  for (;;) {
    const step = making.next();
    if (step.done) return step.value;
    const { done, total } = step.value;
    if (done % rowsPerReport === 0) report(done, total);
  }
}

const worker = { make };
export type DictionaryWorker = typeof worker;
expose(worker);
