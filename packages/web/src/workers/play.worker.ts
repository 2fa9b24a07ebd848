import { expose } from 'comlink';
import { loadSheet, type Board, type NetId } from '@jiko/core/board';
import type { Fault } from '@jiko/core/faults';
import { benchSetup, playFaulty, type BenchSetup, type Play } from '@jiko/core/play';
import { readCold, type ColdReadings } from '@jiko/core/cold';
import { usualMeter } from '@jiko/core/readings';
import type { Habit, Job } from '@jiko/core/record';
import { huntShort, ohmsNow, planLiveFeed, type Hunt, type LiveFeed } from '@jiko/core/short-hunt';

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

/** Where the hunt for a short stands; whether the rail may be fed while the board is on. */
function hunt(
  text: string,
  hash: string,
  bench: BenchSetup,
  { job, net, habits, asked, read }: HuntAsked,
): { hunt: Hunt; live: LiveFeed } {
  const board = boardOf(text, hash);
  // Parts that are out are in the job; the rail is fed with all else as on the bench.
  const setup = benchSetup(board, { ...bench, lifted: [] });
  return {
    hunt: huntShort(board, setup, job, net, habits, asked),
    live: planLiveFeed(board, setup, net, { volts: read, ohms: ohmsNow(board, job, net) }),
  };
}

export interface HuntAsked {
  job: Job;
  net: NetId;
  habits: readonly Habit[];
  asked?: { volts: number; limitAmps: number } | undefined;
  /** Volts the rail was read at with the source on; null where nobody read it. */
  read: number | null;
}

const worker = { play, cold, hunt };
export type PlayWorker = typeof worker;
expose(worker);
