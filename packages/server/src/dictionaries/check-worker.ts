import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import { dictionaryFrom, dictionaryKey, troubleWithDictionary } from '@jiko/core/dictionary';

export interface Asked {
  name: string;
  text: string;
  /** JSON. */
  bench: string;
  content: Uint8Array;
  /** Numbers from 0 to 1: which rows are played anew. */
  chances: readonly number[];
}

/** What is wrong with a dictionary, in words; null where nothing is. */
export function trouble({ name, text, bench, content, chances }: Asked): string | null {
  const loaded = loadSheet(text);
  if (!loaded.ok) return 'its sheet cannot be read';
  const board = loaded.value;
  const setup = benchSetup(board, JSON.parse(bench) as BenchSetup);
  const key = dictionaryKey(board, setup);
  if (contentHash(key) !== name) return 'its name is that of another sheet or bench';
  const dictionary = dictionaryFrom(Uint8Array.from(content), key);
  if (!dictionary) return 'it cannot be read';
  const rows = chances.map((chance) => Math.floor(chance * dictionary.rows));
  return troubleWithDictionary(board, setup, dictionary, [...new Set(rows)]);
}
