import { proxy, wrap } from 'comlink';
import { createStore, delMany, get, keys, set } from 'idb-keyval';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, type BoardDetail } from '@jiko/contract';
import type { BenchSetup, Dictionary } from '@jiko/core/powerup';
import type { DictionaryWorker } from '../workers/dictionary.worker.ts';
import {
  searchDictionary,
  type DictionarySearch,
  type KnownBefore,
  type Making,
} from './dictionary-search.ts';
import { makeDictionaryStore } from './dictionary-store.ts';
import { makePlayerPool } from './player-pool.ts';
import { boardOf } from './read-sheet.ts';

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

const newPlayer = makePlayerPool(() => {
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

/**
 * The fault dictionary of a sheet on a bench: taken from what is kept, or made when `start` is called,
 * the likeliest faults first by what is known.
 */
export function useDictionary(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
): {
  making: Making;
  /** What is to be said of it besides. */
  note: string | null;
  start: (known?: KnownBefore) => void;
  cancel: () => void;
  /** Lets the players wait, or go on. */
  hold: (isHeld: boolean) => void;
} {
  const benchText = JSON.stringify(bench);
  const subject = `${sheet?.hash ?? ''} ${benchText}`;
  const [last, setLast] = useState<{ subject: string; making: Making }>({
    subject,
    making: { state: 'none' },
  });
  const [note, setNote] = useState<{ subject: string; text: string } | null>(null);
  const search = useRef<DictionarySearch | null>(null);

  // Another sheet or bench: another dictionary. What was under way is of no use any more.
  useEffect(() => {
    if (!sheet) return;
    const here = searchDictionary({
      sheet,
      board: boardOf(sheet),
      bench: JSON.parse(benchText) as BenchSetup,
      store,
      newPlayer,
      threads: navigator.hardwareConcurrency || 2,
      tell: (making) => setLast({ subject, making }),
      tellUnreadable: () => setNote({ subject, text: unreadableText }),
      now: () => performance.now(),
    });
    search.current = here;
    return () => {
      here.end();
      search.current = null;
    };
  }, [sheet, benchText, subject]);

  const start = useCallback((known: KnownBefore = {}) => search.current?.start(known), []);
  const cancel = useCallback(() => search.current?.cancel(), []);
  const hold = useCallback((isHeld: boolean) => search.current?.hold(isHeld), []);

  const making: Making = last.subject === subject ? last.making : { state: 'none' };
  return { making, note: note?.subject === subject ? note.text : null, start, cancel, hold };
}
