import { expose } from 'comlink';
import { loadSheet, type Board } from '@jiko/core/board';
import type { Fault } from '@jiko/core/faults';
import {
  benchSetup,
  playFaulty,
  readCold,
  type BenchSetup,
  type ColdReadings,
  type Play,
} from '@jiko/core/powerup';
import { usualMeter } from '@jiko/core/readings';

let kept: { hash: string; board: Board } | null = null;

function boardOf(text: string, hash: string): Board {
  if (kept?.hash !== hash) {
    const loaded = loadSheet(text);
    if (!loaded.ok) throw new Error('the sheet cannot be read');
    kept = { hash, board: loaded.value };
  }
  return kept.board;
}

/** Plays a sheet's power-up away from the interface. The text must be a sheet that loads. */
function play(text: string, hash: string, bench: BenchSetup, faults: readonly Fault[]): Play {
  const board = boardOf(text, hash);
  return playFaulty(board, benchSetup(board, bench), faults);
}

/** What a meter reads on the unpowered board, net by net. */
function cold(
  text: string,
  hash: string,
  bench: BenchSetup,
  faults: readonly Fault[],
): ColdReadings {
  const board = boardOf(text, hash);
  // Only what can be sent to the page.
  const { ohms, diode } = readCold(board, benchSetup(board, bench), faults, usualMeter);
  return { ohms, diode };
}

const worker = { play, cold };
export type PlayWorker = typeof worker;
expose(worker);
