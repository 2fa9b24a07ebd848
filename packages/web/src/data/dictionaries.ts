import { proxy, wrap } from 'comlink';
import { createStore, get, set, keys, delMany } from 'idb-keyval';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, type BoardDetail } from '@jiko/contract';
import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { likeliestFirst } from '@jiko/core/diagnosis';
import {
  benchSetup,
  dictionaryBytes,
  dictionaryFrom,
  dictionaryKey,
  outlineDictionary,
  putRows,
  type BenchSetup,
  type Dictionary,
  type RowsPacket,
} from '@jiko/core/powerup';
import type { DictionaryWorker } from '../workers/dictionary.worker.ts';

export type Making =
  | { state: 'none' }
  /**
   * `sofar` is the dictionary with the likeliest faults played, given anew every few seconds; it is
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

/** Two cores are had everywhere; more workers would leave none for the page. */
const workerCount = 2;
/** First suspects come from the likeliest faults; then they are refined now and then. */
const firstSnapshotMilliseconds = 900;
const laterSnapshotMilliseconds = 4000;

/** A browser keeps the latest few; each is some megabytes. */
const mostKept = 12;

const unreadableText =
  'What another browser had played cannot be read here: everything is played anew.';

/** Dictionaries made in this browser, kept by the content of sheet and bench. */
const store = () => createStore('jiko-dictionaries', 'made');

async function kept(key: string): Promise<Dictionary | 'unreadable' | null> {
  try {
    const here = await get<Dictionary>(key, store());
    if (here) return here;
  } catch {
    // a browser without a store asks the server, or makes it anew
  }
  const there = await fromServer(key);
  if (there && there !== 'unreadable') await keep(there);
  return there;
}

const octets = 'application/octet-stream';

/** Made in another browser before, of the same sheet and bench. */
async function fromServer(key: string): Promise<Dictionary | 'unreadable' | null> {
  try {
    const response = await fetch(api.dictionary(contentHash(key)));
    if (!response.ok) return null;
    return dictionaryFrom(new Uint8Array(await response.arrayBuffer()), key) ?? 'unreadable';
  } catch {
    return null;
  }
}

async function toServer(
  dictionary: Dictionary,
  of: { board: string; hash: string; bench: string },
): Promise<void> {
  try {
    await fetch(api.dictionary(contentHash(dictionary.key), of), {
      method: 'PUT',
      headers: { 'Content-Type': octets },
      body: dictionaryBytes(dictionary),
    });
  } catch {
    // others make their own
  }
}

async function keep(dictionary: Dictionary): Promise<void> {
  try {
    await set(dictionary.key, dictionary, store());
    const all = await keys<string>(store());
    if (all.length > mostKept)
      await delMany(
        all.filter((key) => key !== dictionary.key).slice(0, all.length - mostKept),
        store(),
      );
  } catch {
    // no room: it is made anew next time
  }
}

/**
 * The fault dictionary of a sheet on a bench: taken from what is kept, or made when `start` is called,
 * in the order of what each fault has left by `known`, where something is known.
 */
export function useDictionary(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
): {
  making: Making;
  /** What is to be said of it besides. */
  note: string | null;
  start: (known?: Float32Array | null) => void;
  cancel: () => void;
} {
  const benchText = JSON.stringify(bench);
  const subject = `${sheet?.hash ?? ''} ${benchText}`;
  const [last, setLast] = useState<{ subject: string; making: Making }>({
    subject,
    making: { state: 'none' },
  });
  const [note, setNote] = useState<{ subject: string; text: string } | null>(null);
  const workers = useRef<readonly Worker[]>([]);

  const cancel = useCallback(() => {
    workers.current.forEach((one) => one.terminate());
    workers.current = [];
    setLast({ subject, making: { state: 'none' } });
  }, [subject]);

  // Another sheet or bench: another dictionary. What was under way is of no use any more.
  useEffect(() => {
    let isCurrent = true;
    const stop = (): void => {
      workers.current.forEach((one) => one.terminate());
      workers.current = [];
    };
    const key = sheet && keyOf(sheet.text, benchText);
    if (key)
      void kept(key).then((dictionary) => {
        if (!isCurrent || !dictionary) return;
        if (dictionary === 'unreadable') {
          setNote({ subject, text: unreadableText });
          return;
        }
        // It arrived from elsewhere: nothing is to be made any more.
        stop();
        setLast({ subject, making: { state: 'ready', dictionary } });
      });
    return () => {
      isCurrent = false;
      stop();
    };
  }, [sheet, benchText, subject]);

  const start = useCallback(
    (known: Float32Array | null = null) => {
      if (!sheet || workers.current.length > 0) return;
      const loaded = loadSheet(sheet.text);
      if (!loaded.ok) return;
      const bench = JSON.parse(benchText) as BenchSetup;
      const { dictionary } = outlineDictionary(loaded.value, benchSetup(loaded.value, bench));
      const { order, enough } = likeliestFirst(loaded.value, dictionary, known);
      const first = order.subarray(0, enough);
      const made = Array.from(
        { length: workerCount },
        () =>
          new Worker(new URL('../workers/dictionary.worker.ts', import.meta.url), {
            type: 'module',
          }),
      );
      workers.current = made;
      const isCurrent = (): boolean => workers.current === made;
      const setMaking = (making: Making): void => setLast({ subject, making });
      const played = new Set<number>();
      const began = performance.now();
      let shown: Dictionary | null = null;
      let shownAt = -Infinity;
      let isEnough = false;
      const working = (): void => {
        const now = performance.now();
        const wait = shown ? laterSnapshotMilliseconds : firstSnapshotMilliseconds;
        const isEnoughNow = !isEnough && first.every((row) => played.has(row));
        isEnough ||= isEnoughNow;
        if (isEnoughNow || (played.size > 1 && now - Math.max(began, shownAt) > wait)) {
          // A copy: the worker that weighs takes it over as it is now.
          shown = { ...dictionary, key: `${dictionary.key} ${played.size}` };
          shownAt = now;
        }
        setMaking({
          state: 'working',
          done: played.size,
          total: dictionary.rows,
          sofar: shown,
          enough: isEnough,
        });
      };
      const total = dictionary.rows;
      setMaking({ state: 'working', done: 0, total, sofar: null, enough: false });
      const shares = made.map((one, index) =>
        wrap<DictionaryWorker>(one).make(
          sheet.text,
          bench,
          order,
          { index, of: made.length },
          proxy((packet: RowsPacket) => {
            if (!isCurrent()) return;
            putRows(dictionary, packet);
            packet.rows.forEach((row) => played.add(row));
            working();
          }),
        ),
      );
      Promise.all(shares)
        .then(
          () => {
            if (!isCurrent()) return;
            setMaking({ state: 'ready', dictionary });
            void keep(dictionary);
            void toServer(dictionary, { board: sheet.id, hash: sheet.hash, bench: benchText });
          },
          (error: unknown) => {
            if (isCurrent()) setMaking({ state: 'failed', because: (error as Error).message });
          },
        )
        .finally(() => {
          made.forEach((one) => one.terminate());
          if (isCurrent()) workers.current = [];
        });
    },
    [sheet, benchText, subject],
  );

  const making: Making = last.subject === subject ? last.making : { state: 'none' };
  return { making, note: note?.subject === subject ? note.text : null, start, cancel };
}

function keyOf(text: string, benchText: string): string | null {
  const loaded = loadSheet(text);
  if (!loaded.ok) return null;
  return dictionaryKey(loaded.value, benchSetup(loaded.value, JSON.parse(benchText) as BenchSetup));
}
