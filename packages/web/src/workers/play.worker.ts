import { expose } from 'comlink';
import { loadSheet, type Board } from '@jiko/core/board';
import { withFaults, type Fault } from '@jiko/core/faults';
import { playBoard, usualSetup, type Play } from '@jiko/core/powerup';

let board: { hash: string; board: Board } | null = null;

/** Plays a sheet's power-up away from the interface. The text must be a sheet that loads. */
function play(text: string, hash: string, source: string, faults: readonly Fault[]): Play {
  if (board?.hash !== hash) {
    const loaded = loadSheet(text);
    if (!loaded.ok) throw new Error('the sheet cannot be read');
    board = { hash, board: loaded.value };
  }
  return playBoard(withFaults(board.board, faults), usualSetup(board.board, source));
}

const worker = { play };
export type PlayWorker = typeof worker;
expose(worker);
