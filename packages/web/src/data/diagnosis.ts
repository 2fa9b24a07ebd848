import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { useEffect } from 'react';
import type { BoardDetail } from '@jiko/contract';
import type { BenchNow, Diagnosis, Evidence } from '@jiko/core/diagnosis';
import type { BenchSetup, Dictionary } from '@jiko/core/powerup';
import type { DiagnosisWorker } from '../workers/diagnosis.worker.ts';
import { useDictionary, type Making } from './dictionaries.ts';

let worker: Remote<DiagnosisWorker> | null = null;
let prepared: { key: string; done: Promise<void> } | null = null;

function diagnosisWorker(): Remote<DiagnosisWorker> {
  worker ??= wrap<DiagnosisWorker>(
    new Worker(new URL('../workers/diagnosis.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker;
}

async function diagnose(
  sheet: BoardDetail,
  bench: BenchSetup,
  dictionary: Dictionary,
  evidence: Evidence,
  now: BenchNow,
): Promise<Diagnosis> {
  if (prepared?.key !== dictionary.key) {
    const done = Promise.resolve(diagnosisWorker().prepare(sheet.text, bench, dictionary));
    prepared = { key: dictionary.key, done };
    done.catch(() => (prepared = null));
  }
  await prepared.done;
  return diagnosisWorker().diagnose(evidence, now);
}

/** Suspects and next probes for what was read; the dictionary is made by itself where none is kept. */
export function useDiagnosis(
  sheet: BoardDetail | undefined,
  bench: BenchSetup,
  evidence: Evidence | null,
  now: BenchNow,
): { making: Making; diagnosis: Diagnosis | null } {
  const { making, start } = useDictionary(sheet, bench);
  useEffect(() => {
    // A kept one is looked for first; a moment later it is made.
    if (making.state !== 'none' || !sheet) return;
    const soon = setTimeout(start, 400);
    return () => clearTimeout(soon);
  }, [making.state, sheet, start]);
  const dictionary = making.state === 'ready' ? making.dictionary : null;
  const query = useQuery({
    queryKey: ['diagnosis', dictionary?.key, evidence, now],
    queryFn: () =>
      diagnose(sheet as BoardDetail, bench, dictionary as Dictionary, evidence as Evidence, now),
    enabled: sheet !== undefined && dictionary !== null && evidence !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
  return { making, diagnosis: dictionary ? (query.data ?? null) : null };
}
