import { queryOptions } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { BoardDetail } from '@jiko/contract';
import { faultKey, type Fault } from '@jiko/core/faults';
import type { Play } from '@jiko/core/powerup';
import type { PlayWorker } from '../workers/play.worker.ts';

let worker: Remote<PlayWorker> | null = null;

function playWorker(): Remote<PlayWorker> {
  worker ??= wrap<PlayWorker>(
    new Worker(new URL('../workers/play.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker;
}

/** A play of a sheet with faults in it; the same play is never computed twice. */
export const playQuery = (
  sheet: BoardDetail | undefined,
  source: string,
  faults: readonly Fault[],
) =>
  queryOptions({
    queryKey: ['play', sheet?.hash, source, faults.map(faultKey)],
    queryFn: async (): Promise<Play> => {
      if (!sheet) throw new Error('no sheet');
      return playWorker().play(sheet.text, sheet.hash, source, faults);
    },
    enabled: sheet !== undefined && source !== '',
    staleTime: Infinity,
  });
