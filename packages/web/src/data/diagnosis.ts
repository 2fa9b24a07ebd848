import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState, type RefObject } from 'react';
import type { BoardDetail } from '@jiko/contract';
import type { Board, NetId } from '@jiko/core/board';
import type { BenchNow, BenchOf, Diagnosis, Evidence } from '@jiko/core/diagnosis';
import type { DrawStop } from '@jiko/core/prepare';
import type { BenchSetup, Dictionary } from '@jiko/core/powerup';
import type { DiagnosisWorker } from '../workers/diagnosis.worker.ts';
import { makeDesk, type OtherBench } from './diagnosis-desk.ts';
import { useDictionary, type Making } from './dictionaries.ts';
import type { Left } from './dictionary-search.ts';
import { boardOf } from './read-sheet.ts';

let worker: Remote<DiagnosisWorker> | null = null;
const desk = makeDesk(
  () =>
    (worker ??= wrap<DiagnosisWorker>(
      new Worker(new URL('../workers/diagnosis.worker.ts', import.meta.url), { type: 'module' }),
    )),
);

const benchKey = (sheet: BoardDetail | undefined, bench: BenchSetup): string =>
  JSON.stringify([sheet?.hash, bench]);

/**
 * Longer nobody waits to hear whether there is a kept one, here or on the server. Where none is, that is
 * said within some milliseconds; one that is on its way would only be held up by playing.
 */
const findMilliseconds = 1000;

/**
 * Starts making a dictionary once it is not found among the kept ones, in the order of what the last
 * diagnosis left of each fault, or what touches the nets in doubt first.
 */
function useMade(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
  left: RefObject<Left | null>,
  near: readonly NetId[],
): {
  making: Making;
  note: string | null;
  whole: Dictionary | null;
  sofar: Dictionary | null;
  enough: Dictionary | null;
  hold: (isHeld: boolean) => void;
} {
  const { making, note, start, hold } = useDictionary(sheet, bench);
  const nearText = near.join(' ');
  const isMissing = making.state === 'none' && making.isMissing === true;
  useEffect(() => {
    if (making.state !== 'none' || !sheet) return;
    const known = {
      left: left.current,
      near: nearText === '' ? [] : (nearText.split(' ') as NetId[]),
    };
    const soon = setTimeout(() => start(known), isMissing ? 0 : findMilliseconds);
    return () => clearTimeout(soon);
  }, [making.state, isMissing, sheet, start, left, nearText]);
  const whole = making.state === 'ready' ? making.dictionary : null;
  // The likeliest faults are played first: what is there by then says something already.
  const sofar = whole ?? (making.state === 'working' ? making.sofar : null);
  const isEnough = whole !== null || (making.state === 'working' && making.enough);
  return { making, note, whole, sofar, enough: isEnough ? sofar : null, hold };
}

/** Makes the dictionary of a bench for whoever asks next; weighs nothing. */
export function usePlaysAhead(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
  near: readonly NetId[],
): void {
  const left = useRef<Left | null>(null);
  useMade(sheet, bench, left, near);
}

/** What boards draw that stop at each stage of the bench as it stands; null until every fault was played. */
export function useDrawStops(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
  dictionary: Dictionary | null,
): DrawStop[] | null {
  const board = sheet ? boardOf(sheet) : null;
  const query = useQuery({
    queryKey: ['draws', sheet?.hash, dictionary?.key],
    queryFn: () =>
      desk.draws({ board: board as Board, bench, dictionary: dictionary as Dictionary }),
    enabled: board !== null && dictionary !== null,
    staleTime: Infinity,
  });
  return query.data ?? null;
}

/**
 * Suspects and next probes for what was read; dictionaries are made by themselves where none is
 * kept, that of the bench as it stands first, then those of benches other readings were taken on.
 */
export function useDiagnosis(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
  evidence: Evidence | null,
  now: BenchNow,
  /** Nets at which the trouble sits by what was read: faults there are played first. */
  near: readonly NetId[] = [],
): {
  making: Making;
  /** What is to be said of the plays besides. */
  note: string | null;
  dictionary: Dictionary | null;
  also: Making;
  diagnosis: Diagnosis | null;
  /** What stood on this bench by the version of the sheet before, until there is something by this one. */
  before: Diagnosis | null;
  /** What stands here is of before the last reading. */
  isWeighing: boolean;
} {
  const board = sheet ? boardOf(sheet) : null;
  const left = useRef<Left | null>(null);
  useEffect(() => desk.wake(), []);
  const { making, note, whole, sofar, hold } = useMade(sheet, bench, left, near);
  const here = benchKey(sheet, bench);
  // Of another board nothing is kept: its suspects are none of this one.
  const stands = JSON.stringify([sheet?.id, bench]);
  // The plays a question is asked of. While one is open no newer ones are taken: on a slow machine the
  // answers would never be of what is asked.
  const [taken, setTaken] = useState<{ bench: string; dictionary: Dictionary } | null>(null);
  const dictionary = taken?.bench === here ? taken.dictionary : null;
  const [allOthers, setOthers] = useState<readonly OtherBench[]>([]);
  const others = allOthers.filter((one) => one.sheet === sheet?.hash);
  const query = useQuery({
    queryKey: [
      'diagnosis',
      sheet?.hash,
      dictionary?.key,
      evidence,
      now,
      others.map((one) => one.dictionary.key),
    ],
    queryFn: async () => ({
      bench: here,
      stands,
      faults: (dictionary as Dictionary).faults,
      diagnosis: await desk.diagnose(
        { board: board as Board, bench, dictionary: dictionary as Dictionary },
        others,
        evidence as Evidence,
        now,
      ),
    }),
    enabled: board !== null && dictionary !== null && evidence !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
  if (sofar && (dictionary === null || (dictionary !== sofar && !query.isFetching)))
    setTaken({ bench: here, dictionary: sofar });
  // What stood for another bench says nothing of this one.
  const weighed = query.data;
  const found = weighed?.bench === here ? weighed.diagnosis : null;
  // The first suspects are worth more than plays a moment sooner.
  const isFirst = query.isFetching && found === null;
  useEffect(() => hold(isFirst), [hold, isFirst]);
  useEffect(() => {
    left.current = weighed ? { faults: weighed.faults, byFault: weighed.diagnosis.byFault } : null;
  }, [weighed]);
  const asked =
    dictionary && !query.isPlaceholderData
      ? (found?.unused.find((one) => one.bench !== null)?.bench ?? null)
      : null;
  // Wanted until it is whole; it counts as soon as all that could still be it is played.
  const [wanted, setWanted] = useState<BenchOf | null>(null);
  if (asked && !wanted) setWanted(asked);
  const other = useMade(
    wanted ? sheet : undefined,
    {
      source: wanted?.source ?? bench.source,
      attached: wanted?.attached ?? [],
      lifted: wanted?.lifted ?? [],
    },
    left,
    near,
  );
  const enough = other.enough;
  const isSame = (one: OtherBench): boolean => JSON.stringify(one.bench) === JSON.stringify(wanted);
  const before = others.find(isSame);
  if (sheet && wanted && enough && (!before || (other.whole && before.dictionary !== enough)))
    setOthers([
      ...others.filter((one) => !isSame(one)),
      { sheet: sheet.hash, bench: wanted, dictionary: enough },
    ]);
  if (wanted && other.whole) setWanted(null);
  return {
    making,
    note,
    dictionary: whole,
    also: wanted && !other.enough ? other.making : { state: 'none' },
    diagnosis: dictionary ? found : null,
    before: (dictionary && found) || weighed?.stands !== stands ? null : weighed.diagnosis,
    isWeighing: dictionary !== null && query.isPlaceholderData,
  };
}
