import { proxy, wrap } from 'comlink';
import { createStore, delMany, get, keys, set } from 'idb-keyval';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, type BoardDetail } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import type { BenchSetup } from '@jiko/core/play';
import type { Dictionary } from '@jiko/core/dictionary';
import type { DictionaryWorker } from '../workers/dictionary.worker.ts';
import { playersFor, searchDictionary, type KnownBefore } from './dictionary-search.ts';
import { makeDictionaryStore } from './dictionary-store.ts';
import { makePlayerPool } from './player-pool.ts';
import { boardOf } from './read-sheet.ts';
import { makeSharedSearches, type Seat, type Standing } from './shared-searches.ts';

export type { Making } from './dictionary-search.ts';

const unreadableText =
  'What another browser had played cannot be read here: everything is played anew.';

const made = () => createStore('jiko-dictionaries', 'made');
const store = makeDictionaryStore(
  {
    get: (key) => get<Dictionary>(key, made()),
    set: (key, dictionary) => set(key, dictionary, made()),
    keys: () => keys<string>(made()),
    remove: (list) => delMany(list, made()),
  },
  {
    get: async (hash) => {
      const response = await fetch(api.dictionary(hash));
      return response.ok ? new Uint8Array(await response.arrayBuffer()) : null;
    },
    put: async (hash, of, body) => {
      const headers = { 'Content-Type': 'application/octet-stream' };
      await fetch(api.dictionary(hash, { ...of }), { method: 'PUT', headers, body });
    },
  },
);

let isWarm = false;
const newPlayer = makePlayerPool(() => {
  isWarm = true;
  const worker = new Worker(new URL('../workers/dictionary.worker.ts', import.meta.url), {
    type: 'module',
  });
  const remote = wrap<DictionaryWorker>(worker);
  return {
    make: (board, bench, order, share, report) =>
      remote.make(board, bench, order, share, proxy(report)),
    hold: (isHeld) => remote.hold(isHeld),
    stop: () => remote.stop(),
    terminate: () => worker.terminate(),
  };
});

/** Rows enough for a worker to have compiled what it plays with. */
const warmRows = Int32Array.from({ length: 24 }, (_, row) => row);

/**
 * Lets the workers compile what they play with, once: whoever is about to change a sheet waits less for
 * what it then plays.
 */
export function warmPlayers(board: Board): void {
  const source = board.sources[0]?.id;
  if (isWarm || !source) return;
  const bench: BenchSetup = { source, attached: [], lifted: [] };
  const count = playersFor(threads());
  for (const player of Array.from({ length: count }, newPlayer))
    void player
      .make(board, bench, warmRows, { index: 0, of: 1 }, () => undefined)
      // What such a board cannot play is said where its plays are asked for.
      .catch(() => undefined)
      .finally(() => player.end());
}

const threads = (): number => navigator.hardwareConcurrency || 2;

const searches = makeSharedSearches();

/** Takes part in the search for the plays of a sheet on a bench, which goes on when all have left it. */
export function joinPlays(
  sheet: { id: string; hash: string },
  board: Board | null,
  bench: BenchSetup,
  listen: (standing: Standing) => void,
): Seat {
  return searches.join(
    `${sheet.hash} ${JSON.stringify(bench)}`,
    sheet.hash,
    (tell, tellNote) =>
      searchDictionary({
        sheet,
        board,
        bench,
        store,
        newPlayer,
        threads: threads(),
        tell,
        tellUnreadable: () => tellNote(unreadableText),
        now: () => performance.now(),
      }),
    listen,
  );
}

/**
 * The fault dictionary of a sheet on a bench: taken from what is kept, or made when `start` is called,
 * the likeliest faults first by what is known. It goes on being made when the page that asked is left.
 */
export function useDictionary(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
): Standing & { start: (known?: KnownBefore) => void; cancel: () => void } {
  const benchText = JSON.stringify(bench);
  const subject = `${sheet?.hash ?? ''} ${benchText}`;
  const [last, setLast] = useState<{ subject: string; standing: Standing } | null>(null);
  const seat = useRef<Seat | null>(null);

  useEffect(() => {
    if (!sheet) return;
    const here = joinPlays(sheet, boardOf(sheet), JSON.parse(benchText) as BenchSetup, (standing) =>
      setLast({ subject, standing }),
    );
    seat.current = here;
    return () => {
      here.leave();
      seat.current = null;
    };
  }, [sheet, benchText, subject]);

  const start = useCallback((known: KnownBefore = {}) => seat.current?.start(known), []);
  const cancel = useCallback(() => seat.current?.cancel(), []);

  const standing = last?.subject === subject ? last.standing : notAsked;
  return { ...standing, start, cancel };
}

const notAsked: Standing = { making: { state: 'none' }, note: null };
