import { expose } from 'comlink';
import { loadSheet } from '@jiko/core/board';
import {
  benchSetup,
  makeDictionary,
  takeRows,
  type BenchSetup,
  type RowsPacket,
} from '@jiko/core/powerup';
import { usualMeter } from '@jiko/core/readings';

/** Until the first report of rows played, and between two. */
const firstReportMilliseconds = 150;
const reportMilliseconds = 500;

/**
 * Plays its share of the single faults of a sheet in the order given, away from the interface, and
 * hands the rows over as it goes. It is cancelled by ending the worker.
 */
function make(
  text: string,
  bench: BenchSetup,
  order: Int32Array,
  share: { index: number; of: number },
  report: (packet: RowsPacket) => void,
): void {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet cannot be read');
  const board = loaded.value;
  const setup = benchSetup(board, bench);
  const making = makeDictionary(board, setup, usualMeter, { order, share });
  let rows: number[] = [];
  let last = performance.now();
  let wait = firstReportMilliseconds;
  for (;;) {
    const step = making.next();
    const dictionary = step.done ? step.value : step.value.dictionary;
    if (!step.done && step.value.row !== null) rows.push(step.value.row);
    const isTime = performance.now() - last > wait;
    if (rows.length > 0 && (step.done || isTime)) {
      report(takeRows(dictionary, rows));
      rows = [];
      last = performance.now();
      wait = reportMilliseconds;
    }
    if (step.done) return;
  }
}

const worker = { make };
export type DictionaryWorker = typeof worker;
expose(worker);
