import { useSyncExternalStore } from 'react';
import { z } from 'zod';
import { keep, kept } from './kept.ts';

/** What belongs to this bench rather than to a job; kept in this browser. */
export type Light = 'day' | 'night';
export interface Bench {
  who: string;
  light: Light;
}
export const benches = ['Bench 1', 'Bench 2'] as const;

const key = 'jiko-bench';
const usual: Bench = { who: benches[0], light: 'day' };
const benchSchema = z.object({
  who: z.string().min(1).catch(usual.who),
  light: z.enum(['day', 'night']).catch(usual.light),
});
let bench: Bench = kept(key, benchSchema, usual);
const listeners = new Set<() => void>();

export function setBench(change: Partial<Bench>): void {
  bench = { ...bench, ...change };
  keep(key, bench);
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
