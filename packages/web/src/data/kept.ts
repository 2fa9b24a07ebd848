import { useCallback, useState } from 'react';
import { z } from 'zod';

// The one way to what this browser keeps for the pages. A browser that has no room, or keeps nothing at
// all, works as any other until the page is gone.

/** What the browser had no room for: it is in this page only. */
const inPage = new Map<string, string | null>();

function textOf(key: string): string | null {
  const here = inPage.get(key);
  if (here !== undefined) return here;
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

/** What is kept under a key, or `otherwise` where there is nothing, or nothing that can be read. */
export function kept<T>(key: string, schema: z.ZodType<T>, otherwise: T): T {
  const text = textOf(key);
  if (text === null) return otherwise;
  // Earlier versions kept words as they are.
  for (const value of [fromJson(text), text]) {
    const read = schema.safeParse(value);
    if (read.success) return read.data;
  }
  return otherwise;
}

/** Keeps a value under a key; null lets go of it. */
export function keep(key: string, value: unknown): void {
  const text = value === null || value === undefined ? null : JSON.stringify(value);
  try {
    if (text === null) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
    inPage.delete(key);
  } catch {
    inPage.set(key, text);
  }
}

/** A state that outlives the page. `schema` and `otherwise` are to be the same at each drawing. */
export function useKept<T>(
  key: string,
  schema: z.ZodType<T>,
  otherwise: T,
): [T, (next: T) => void] {
  const [state, setState] = useState(() => ({ key, value: kept(key, schema, otherwise) }));
  const set = useCallback(
    (next: T): void => {
      setState({ key, value: next });
      keep(key, next);
    },
    [key],
  );
  return [state.key === key ? state.value : kept(key, schema, otherwise), set];
}

/** Text, whatever it looks like. */
export const keptText = z.string();

function fromJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
