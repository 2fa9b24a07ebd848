import { loadSheet, type Board } from '@jiko/core/board';

/** The board of a sheet that is known to load; throws what is wrong with one that does not. */
export function plainBoard(text: string): Board {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error.slice(0, 3)));
  return loaded.value;
}
