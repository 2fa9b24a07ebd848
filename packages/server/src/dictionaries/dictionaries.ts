import { randomInt } from 'node:crypto';
import { makeAside, TookTooMuch } from '../aside/aside.ts';
import type { Outcome } from '../outcome.ts';
import type { Asked } from './check-worker.ts';

/** Dictionaries browsers made, by name: a cache that may be emptied at any time. */
export interface DictionaryStore {
  read(name: string): Promise<Buffer | null>;
  keep(name: string, content: Buffer): Promise<void>;
}
/** The text of a version of a sheet. */
export interface KnownSheets {
  find(id: string, hash: string | null): Promise<{ text: string } | null>;
}
/** What a dictionary is of. */
export interface OfBench {
  board: string;
  hash: string;
  /** A bench as JSON, as the browser set it up. */
  bench: string;
}

export interface DictionaryUseCases {
  read(name: string): Promise<Buffer | null>;
  /** Keeps one for other browsers, once a random sample of it was played anew. */
  keep(name: string, content: Buffer, of: OfBench): Promise<Outcome<null>>;
}

/** Whoever spoils so many rows in a hundred is found with a chance of 1 - 0.99^16 for one, 0.8 for ten. */
const sampled = 16;
const limitSeconds = 60;

export function makeDictionaries(
  store: DictionaryStore,
  sheets: KnownSheets,
  check: (asked: Asked) => Promise<string | null> = checkAside,
): DictionaryUseCases {
  return {
    read: (name) => store.read(name),
    async keep(name, content, { board, hash, bench }) {
      const sheet = await sheets.find(board, hash);
      if (!sheet)
        return {
          ok: false,
          problem: {
            status: 404,
            title: 'No such version of the sheet',
            detail: `${board} ${hash}`,
          },
        };
      const chances = Array.from({ length: sampled }, () => randomInt(2 ** 40) / 2 ** 40);
      const trouble = await check({ name, text: sheet.text, bench, content, chances });
      if (trouble !== null)
        return {
          ok: false,
          problem: {
            status: 409,
            title: 'The dictionary does not hold what the sheet plays',
            detail: `${trouble}. Nothing was kept.`,
          },
        };
      await store.keep(name, content);
      return { ok: true, value: null };
    },
  };
}

const aside = makeAside(new URL('./check-worker.ts', import.meta.url));

async function checkAside(asked: Asked): Promise<string | null> {
  try {
    return await aside<string | null>('trouble', asked, { seconds: limitSeconds });
  } catch (error) {
    return error instanceof TookTooMuch
      ? 'it takes too much to be played anew'
      : `it cannot be checked (${(error as Error).message})`;
  }
}
