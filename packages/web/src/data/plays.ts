import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import type { BoardDetail } from '@jiko/contract';
import { faultKey, type Fault } from '@jiko/core/faults';
import type { BenchSetup, Play } from '@jiko/core/play';
import type { ColdReadings } from '@jiko/core/cold';
import type { Hunt, LiveFeed } from '@jiko/core/short-hunt';
import type { HuntAsked, PlayWorker } from '../workers/play.worker.ts';

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
  bench: BenchSetup,
  faults: readonly Fault[],
) =>
  queryOptions({
    queryKey: ['play', sheet?.hash, bench, faults.map(faultKey)],
    queryFn: async (): Promise<Play> => {
      if (!sheet) throw new Error('no sheet');
      return playWorker().play(sheet.text, sheet.hash, bench, faults);
    },
    enabled: sheet !== undefined,
    staleTime: Infinity,
  });

/** Ohms and diode-mode of the unpowered board with faults in it, net by net. */
export const coldQuery = (
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
  faults: readonly Fault[],
) =>
  queryOptions({
    queryKey: ['cold', sheet?.hash, bench.attached, faults.map(faultKey)],
    queryFn: async (): Promise<ColdReadings> => {
      if (!sheet) throw new Error('no sheet');
      return playWorker().cold(sheet.text, sheet.hash, bench, faults);
    },
    enabled: sheet !== undefined,
    staleTime: Infinity,
  });

/** The hunt for a short on a rail, worked out away from the interface; the last answer stays meanwhile. */
export const huntQuery = (sheet: BoardDetail | undefined, bench: BenchSetup, asked: HuntAsked) =>
  queryOptions({
    queryKey: ['hunt', sheet?.hash, bench, JSON.stringify(asked)],
    queryFn: async (): Promise<{ hunt: Hunt; live: LiveFeed }> => {
      if (!sheet) throw new Error('no sheet');
      return playWorker().hunt(sheet.text, sheet.hash, bench, asked);
    },
    enabled: sheet !== undefined,
    staleTime: Infinity,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
