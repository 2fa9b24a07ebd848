import type { Board } from '../board/index.ts';
import {
  dictionaryKey,
  usualSetup,
  wholeDictionary,
  type Dictionary,
  type PlaySetup,
} from '../powerup/index.ts';

const made = new Map<string, Dictionary>();

/** The whole dictionary of a bench, made once per process: for tests, which only read it. */
export function sharedDictionary(board: Board, setup: PlaySetup = usualSetup(board)): Dictionary {
  const key = dictionaryKey(board, setup);
  let one = made.get(key);
  if (!one) made.set(key, (one = wholeDictionary(board, setup)));
  return one;
}
