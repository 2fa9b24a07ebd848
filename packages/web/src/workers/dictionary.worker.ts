import { expose } from 'comlink';
import type { Board } from '@jiko/core/board';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import { makeDictionary, takeRows, type RowsPacket } from '@jiko/core/dictionary';
import { usualMeter } from '@jiko/core/readings';

/** Until the first report of rows played; then half as long again each time, up to the other. */
const firstReportMilliseconds = 100;
const reportMilliseconds = 500;
/** So often it listens whether it is still wanted. */
const breathMilliseconds = 40;

const turns = new MessageChannel();
/** Lets messages in; a timer would make it wait for some milliseconds each time. */
const breath = (): Promise<void> =>
  new Promise((resolve) => {
    turns.port1.onmessage = () => resolve();
    turns.port2.postMessage(null);
  });

/** The one that counts: any other ends at its next breath. */
let current = 0;
/** Kept while it is to wait, with what lets it go on. */
let held: { until: Promise<void>; go: () => void } | null = null;

/**
 * Plays its share of the single faults of a board in the order given, away from the interface, and
 * hands the rows over as it goes. Asked anew, or to stop, it leaves what it was at.
 */
async function make(
  board: Board,
  bench: BenchSetup,
  order: Int32Array,
  share: { index: number; of: number },
  report: (packet: RowsPacket) => void,
): Promise<void> {
  const mine = ++current;
  const setup = benchSetup(board, bench);
  const making = makeDictionary(board, setup, usualMeter, { order, share });
  let rows: number[] = [];
  let last = performance.now();
  let listened = last;
  let wait = firstReportMilliseconds;
  for (;;) {
    const step = making.next();
    const dictionary = step.done ? step.value : step.value.dictionary;
    if (!step.done && step.value.row !== null) rows.push(step.value.row);
    const now = performance.now();
    if (rows.length > 0 && (step.done || now - last > wait)) {
      report(takeRows(dictionary, rows));
      rows = [];
      last = now;
      wait = Math.min(1.5 * wait, reportMilliseconds);
    }
    if (step.done) return;
    if (now - listened > breathMilliseconds) {
      await breath();
      await held?.until;
      if (mine !== current) return;
      listened = performance.now();
    }
  }
}

function stop(): void {
  current++;
  hold(false);
}

/** Waits, or goes on. */
function hold(isHeld: boolean): void {
  if (isHeld === (held !== null)) return;
  held?.go();
  held = null;
  if (!isHeld) return;
  let go = (): void => undefined;
  held = { until: new Promise((resolve) => (go = resolve)), go };
}

const worker = { make, hold, stop };
export type DictionaryWorker = typeof worker;
expose(worker);
