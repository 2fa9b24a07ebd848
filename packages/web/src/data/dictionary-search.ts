import type { Board, NetId } from '@jiko/core/board';
import { faultKey, type Fault } from '@jiko/core/faults';
import { likeliestFirst } from '@jiko/core/diagnosis';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import {
  dictionaryKey,
  outlineDictionary,
  putRows,
  type Dictionary,
  type RowsPacket,
} from '@jiko/core/dictionary';
import type { DictionaryStore } from './dictionary-store.ts';

export type Making =
  /** `isMissing`: it was looked for, and nobody has made it yet. */
  | { state: 'none'; isMissing?: boolean }
  /**
   * `sofar` is the dictionary with the likeliest faults played, given anew now and then; it is
   * `enough` where little else could still be it.
   */
  | {
      state: 'working';
      done: number;
      total: number;
      sofar: Dictionary | null;
      enough: boolean;
    }
  | { state: 'ready'; dictionary: Dictionary }
  | { state: 'failed'; because: string };

/** One of several that play a share of the faults each. */
export interface Player {
  make(
    board: Board,
    bench: BenchSetup,
    order: Int32Array,
    share: { index: number; of: number },
    report: (packet: RowsPacket) => void,
  ): Promise<void>;
  /** Waits, or goes on. */
  hold(isHeld: boolean): void;
  /** Ends what it is at; it is not asked for anything any more. */
  end(): void;
}

/** Half of what the machine can do at once is left for the page, and two are had everywhere. */
export const playersFor = (threads: number): number =>
  Math.min(6, Math.max(2, Math.floor(threads / 2)));
/**
 * First suspects come from the likeliest faults; then they are refined, at longer and longer intervals:
 * weighing what is there so far takes its time from the playing.
 */
const firstSnapshotMilliseconds = 500;
/** Sooner where it is known what could be it: that is what was played by then. */
const soonSnapshotMilliseconds = 300;
const secondSnapshotMilliseconds = 2000;
/** How far it is, is said this often: the page is drawn anew each time, on the threads that play. */
const progressMilliseconds = 1000;

/** What was left of each fault when it was last weighed: on another bench, or by another version of the sheet. */
export interface Left {
  faults: readonly Fault[];
  byFault: Float32Array;
}

/** What says which faults to play first. */
export interface KnownBefore {
  left?: Left | null;
  /** Nets at which the trouble sits by what was read. */
  near?: readonly NetId[];
}

/** The dictionary of one sheet on one bench: sought among what is kept, made when asked for. */
export interface DictionarySearch {
  /** Makes it, the likeliest first by what is known; nothing where it is under way or there. */
  start(known?: KnownBefore): void;
  /** Stops making it; it can be started again. */
  cancel(): void;
  /** Lets the players wait while something more urgent is worked out, or go on. */
  hold(isHeld: boolean): void;
  /** Stops all of it for good: nothing is told any more. */
  end(): void;
}

/** What a search is of, and what it works with. */
export interface Searched {
  sheet: { id: string; hash: string };
  /** Null where the sheet cannot be read: then nothing is found or made. */
  board: Board | null;
  bench: BenchSetup;
  store: DictionaryStore;
  newPlayer: () => Player;
  /** How much the machine can do at once. */
  threads: number;
  /** How it stands, as often as that changes. */
  tell: (making: Making) => void;
  /** What another browser made cannot be read. */
  tellUnreadable: () => void;
  /** Milliseconds by a clock that only goes forward. */
  now: () => number;
}

export function searchDictionary(searched: Searched): DictionarySearch {
  const { sheet, board, bench, store, newPlayer, threads, tell, tellUnreadable, now } = searched;
  let players: readonly Player[] = [];
  let isOver = board === null;
  let isThere = false;

  const stop = (): void => {
    players.forEach((one) => one.end());
    players = [];
  };

  if (board)
    void store.find(dictionaryKey(board, benchSetup(board, bench))).then((found) => {
      if (isOver || isThere) return;
      if (!found) {
        if (players.length === 0) tell({ state: 'none', isMissing: true });
        return;
      }
      if (found === 'unreadable') {
        tellUnreadable();
        return;
      }
      // It arrived from elsewhere: nothing is to be made any more.
      stop();
      isThere = true;
      tell({ state: 'ready', dictionary: found });
    });

  const start = ({ left = null, near = [] }: KnownBefore = {}): void => {
    if (isOver || isThere || !board || players.length > 0) return;
    const { dictionary } = outlineDictionary(board, benchSetup(board, bench));
    const { order, first, enough } = likeliestFirst(board, dictionary, {
      known: left && leftOf(dictionary.faults, left),
      near,
    });
    const areAll = (count: number): boolean =>
      order.subarray(0, count).every((row) => played.has(row));
    const made = Array.from({ length: playersFor(threads) }, newPlayer);
    players = made;
    const isCurrent = (): boolean => players === made;
    const played = new Set<number>();
    const began = now();
    let shown: Dictionary | null = null;
    let shownAt = -Infinity;
    let isEnough = false;
    let toldAt = began;
    let wait = left ? soonSnapshotMilliseconds : firstSnapshotMilliseconds;
    const working = (): void => {
      const at = now();
      const isEnoughNow = !isEnough && areAll(enough);
      isEnough ||= isEnoughNow;
      const isShownAnew =
        isEnoughNow || (played.size > 1 && at - Math.max(began, shownAt) > wait && areAll(first));
      if (!isShownAnew && at - toldAt < progressMilliseconds) return;
      toldAt = at;
      if (isShownAnew) {
        // A copy: the worker that weighs takes it over as it is now.
        shown = { ...dictionary, key: `${dictionary.key} ${played.size}` };
        shownAt = at;
        wait = Math.max(secondSnapshotMilliseconds, 2 * wait);
      }
      tell({
        state: 'working',
        done: played.size,
        total: dictionary.rows,
        sofar: shown,
        enough: isEnough,
      });
    };
    tell({ state: 'working', done: 0, total: dictionary.rows, sofar: null, enough: false });
    const shares = made.map((one, index) =>
      one.make(board, bench, order, { index, of: made.length }, (packet) => {
        if (!isCurrent()) return;
        putRows(dictionary, packet);
        packet.rows.forEach((row) => played.add(row));
        working();
      }),
    );
    Promise.all(shares)
      .then(
        () => {
          if (!isCurrent()) return;
          isThere = true;
          tell({ state: 'ready', dictionary });
          const of = { board: sheet.id, hash: sheet.hash, bench: JSON.stringify(bench) };
          void store.keep(dictionary, of);
        },
        (error: unknown) => {
          if (isCurrent()) tell({ state: 'failed', because: (error as Error).message });
        },
      )
      .finally(() => {
        if (isCurrent()) stop();
      });
  };

  return {
    start,
    cancel: () => {
      if (isOver || isThere) return;
      stop();
      tell({ state: 'none' });
    },
    hold: (isHeld) => players.forEach((one) => one.hold(isHeld)),
    end: () => {
      isOver = true;
      stop();
    },
  };
}

/** By fault of another list: a change of the sheet moves their places, not their names. */
function leftOf(faults: readonly Fault[], left: Left): Float32Array {
  if (faults === left.faults) return left.byFault;
  const byKey = new Map(left.faults.map((fault, at) => [faultKey(fault), left.byFault[at]!]));
  // What is new may be it as well as any other.
  return Float32Array.from(faults, (fault) => byKey.get(faultKey(fault)) ?? 1 / faults.length);
}
