import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { LintWorker, SheetCheck } from '../workers/lint.worker.ts';

let worker: Remote<LintWorker> | null = null;

/** Lint, healthy play, order of waking and changes of a text, on a thread of its own. */
export const sheetCheckQuery = (text: string, saved: string) =>
  queryOptions({
    queryKey: ['sheet check', text, saved],
    queryFn: async (): Promise<SheetCheck> => {
      worker ??= wrap<LintWorker>(
        new Worker(new URL('../workers/lint.worker.ts', import.meta.url), { type: 'module' }),
      );
      return worker.check(text, saved);
    },
    staleTime: Infinity,
    gcTime: 10_000,
    placeholderData: keepPreviousData,
  });
