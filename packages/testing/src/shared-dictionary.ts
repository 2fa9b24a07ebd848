import { contentHash } from '@jiko/core/base';
import type { Board } from '@jiko/core/board';
import {
  dictionaryBytes,
  dictionaryFrom,
  dictionaryKey,
  wholeDictionary,
  type Dictionary,
} from '@jiko/core/dictionary';
import { usualSetup, type PlaySetup } from '@jiko/core/play';

const made = new Map<string, Dictionary>();

/** Where processes of one test run leave dictionaries for each other, by the hash of their keys. */
export interface DictionaryShelf {
  /** Null where it has to be made by who asks. */
  read(name: string): Uint8Array<ArrayBuffer> | null;
  keep(name: string, bytes: Uint8Array): void;
}
let shelf: DictionaryShelf | null = null;

/** From now on `sharedDictionary` looks there first, and leaves there what it makes. */
export function shareDictionaries(place: DictionaryShelf): void {
  shelf = place;
}

/** The whole dictionary of a bench, made once per process, or per run: for tests, which only read it. */
export function sharedDictionary(board: Board, setup: PlaySetup = usualSetup(board)): Dictionary {
  const key = dictionaryKey(board, setup);
  // A changed line under a mutation test plays otherwise: what was made before it would hide that.
  if (isChanged() && !shelf) return wholeDictionary(board, setup);
  const known = made.get(key);
  if (known) return known;
  const name = contentHash(key);
  const kept = shelf?.read(name);
  const dictionary = (kept && dictionaryFrom(kept, key)) ?? played(board, setup, name);
  made.set(key, dictionary);
  return dictionary;
}

function played(board: Board, setup: PlaySetup, name: string): Dictionary {
  const dictionary = wholeDictionary(board, setup);
  shelf?.keep(name, dictionaryBytes(dictionary));
  return dictionary;
}

/**
 * Whether lines are changed one after the other by a mutation test, which keeps its state in a global of this
 * name; its first run, without a change, too: by that it judges how long the others may take.
 */
const isChanged = (): boolean => '__stryker__' in globalThis;
