import { contentHash } from '@jiko/core/base';
import { dictionaryBytes, dictionaryFrom, type Dictionary } from '@jiko/core/dictionary';

/** What this browser keeps; every call may fail: no store, no room. */
export interface Shelf {
  get(key: string): Promise<Dictionary | undefined>;
  set(key: string, dictionary: Dictionary): Promise<void>;
  /** Oldest first. */
  keys(): Promise<string[]>;
  remove(keys: string[]): Promise<void>;
}

/** What a dictionary is of, for the server to play a sample of it anew. */
export interface DictionaryOf {
  board: string;
  hash: string;
  bench: string;
}

/** What other browsers made; every call may fail: no network. */
export interface Elsewhere {
  /** Null where nobody made it yet. */
  get(hash: string): Promise<Uint8Array<ArrayBuffer> | null>;
  put(hash: string, of: DictionaryOf, bytes: Uint8Array<ArrayBuffer>): Promise<void>;
}

export interface DictionaryStore {
  /** `unreadable`: another version of Jiko made it, or it was cut short on its way. */
  find(key: string): Promise<Dictionary | 'unreadable' | null>;
  /** Into this browser, and to the server for others. Whoever cannot take it makes its own. */
  keep(dictionary: Dictionary, of: DictionaryOf): Promise<void>;
}

/** A browser keeps the latest few; each is some megabytes. */
export const mostKept = 12;

/** Dictionaries by the content of sheet and bench: of this browser first, then of any other. */
export function makeDictionaryStore(shelf: Shelf, elsewhere: Elsewhere): DictionaryStore {
  const keepHere = async (dictionary: Dictionary): Promise<void> => {
    try {
      await shelf.set(dictionary.key, dictionary);
      const all = await shelf.keys();
      if (all.length > mostKept)
        await shelf.remove(
          all.filter((key) => key !== dictionary.key).slice(0, all.length - mostKept),
        );
    } catch {
      // no room: it is made anew next time
    }
  };
  return {
    async find(key) {
      try {
        const here = await shelf.get(key);
        if (here) return here;
      } catch {
        // a browser without a store asks the server, or makes it anew
      }
      try {
        const bytes = await elsewhere.get(contentHash(key));
        if (!bytes) return null;
        const there = dictionaryFrom(bytes, key);
        if (!there) return 'unreadable';
        await keepHere(there);
        return there;
      } catch {
        return null;
      }
    },
    async keep(dictionary, of) {
      await keepHere(dictionary);
      try {
        await elsewhere.put(contentHash(dictionary.key), of, dictionaryBytes(dictionary));
      } catch {
        // others make their own
      }
    },
  };
}
