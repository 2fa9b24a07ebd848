import { proxy, wrap } from 'comlink';
import { createStore, get, set, keys, delMany } from 'idb-keyval';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, type BoardDetail } from '@jiko/contract';
import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import {
  benchSetup,
  dictionaryBytes,
  dictionaryFrom,
  dictionaryKey,
  type BenchSetup,
  type Dictionary,
} from '@jiko/core/powerup';
import type { DictionaryWorker } from '../workers/dictionary.worker.ts';

export type Making =
  | { state: 'none' }
  | { state: 'working'; done: number; total: number }
  | { state: 'ready'; dictionary: Dictionary }
  | { state: 'failed'; because: string };

/** A browser keeps the latest few; each is some megabytes. */
const mostKept = 12;

/** Dictionaries made in this browser, kept by the content of sheet and bench. */
const store = () => createStore('jiko-dictionaries', 'made');

async function kept(key: string): Promise<Dictionary | null> {
  try {
    const here = await get<Dictionary>(key, store());
    if (here) return here;
  } catch {
    // a browser without a store asks the server, or makes it anew
  }
  const there = await fromServer(key);
  if (there) await keep(there);
  return there;
}

const octets = 'application/octet-stream';

/** Made in another browser before, of the same sheet and bench. */
async function fromServer(key: string): Promise<Dictionary | null> {
  try {
    const response = await fetch(api.dictionary(contentHash(key)));
    if (!response.ok) return null;
    return dictionaryFrom(new Uint8Array(await response.arrayBuffer()), key);
  } catch {
    return null;
  }
}

async function toServer(dictionary: Dictionary): Promise<void> {
  try {
    await fetch(api.dictionary(contentHash(dictionary.key)), {
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

/** The fault dictionary of a sheet on a bench: taken from what is kept, or made when `start` is called. */
export function useDictionary(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
): { making: Making; start: () => void; cancel: () => void } {
  const benchText = JSON.stringify(bench);
  const subject = `${sheet?.hash ?? ''} ${benchText}`;
  const [last, setLast] = useState<{ subject: string; making: Making }>({
    subject,
    making: { state: 'none' },
  });
  const worker = useRef<Worker | null>(null);

  const cancel = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
    setLast({ subject, making: { state: 'none' } });
  }, [subject]);

  // Another sheet or bench: another dictionary. What was under way is of no use any more.
  useEffect(() => {
    let isCurrent = true;
    const key = sheet && keyOf(sheet.text, benchText);
    if (key)
      void kept(key).then((dictionary) => {
        if (isCurrent && dictionary) setLast({ subject, making: { state: 'ready', dictionary } });
      });
    return () => {
      isCurrent = false;
      worker.current?.terminate();
      worker.current = null;
    };
  }, [sheet, benchText, subject]);

  const start = useCallback(() => {
    if (!sheet || worker.current) return;
    const made = new Worker(new URL('../workers/dictionary.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.current = made;
    const isCurrent = (): boolean => worker.current === made;
    const setMaking = (making: Making): void => setLast({ subject, making });
    setMaking({ state: 'working', done: 0, total: 0 });
    wrap<DictionaryWorker>(made)
      .make(
        sheet.text,
        JSON.parse(benchText) as BenchSetup,
        proxy((done: number, total: number) => {
          if (isCurrent()) setMaking({ state: 'working', done, total });
        }),
      )
      .then(
        (dictionary) => {
          if (!isCurrent()) return;
          setMaking({ state: 'ready', dictionary });
          void keep(dictionary);
          void toServer(dictionary);
        },
        (error: unknown) => {
          if (isCurrent()) setMaking({ state: 'failed', because: (error as Error).message });
        },
      )
      .finally(() => {
        made.terminate();
        if (isCurrent()) worker.current = null;
      });
  }, [sheet, benchText, subject]);

  const making: Making = last.subject === subject ? last.making : { state: 'none' };
  return { making, start, cancel };
}

function keyOf(text: string, benchText: string): string | null {
  const loaded = loadSheet(text);
  if (!loaded.ok) return null;
  return dictionaryKey(loaded.value, benchSetup(loaded.value, JSON.parse(benchText) as BenchSetup));
}
