import { useSyncExternalStore } from 'react';

/** What belongs to this bench rather than to a job; kept in this browser. */
export type Light = 'day' | 'night';
export interface Bench {
  who: string;
  light: Light;
}
export const benches = ['Bench 1', 'Bench 2'] as const;

const key = 'jiko-bench';
let bench: Bench = read();
const listeners = new Set<() => void>();

function read(): Bench {
  const usual: Bench = { who: benches[0], light: 'day' };
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Bench>;
    return {
      who: typeof kept.who === 'string' && kept.who ? kept.who : usual.who,
      light: kept.light === 'night' ? 'night' : 'day',
    };
  } catch {
    return usual;
  }
}

export function setBench(change: Partial<Bench>): void {
  bench = { ...bench, ...change };
  try {
    localStorage.setItem(key, JSON.stringify(bench));
  } catch {
    // a browser that keeps nothing still works for this sitting
  }
  listeners.forEach((listener) => listener());
}

export function useBench(): Bench {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => bench,
  );
}
