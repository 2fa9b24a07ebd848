import { useState } from 'react';
import { phases, type Phase } from '@jiko/core/readings';
import type { Job } from '@jiko/core/record';

/** What the bench is doing now, for one job; it survives a reload. */
export interface BenchState {
  phase: Phase;
  source: string;
  attached: string[];
}

/** `known` is the job: what the strip does not say is as the bench stood at its last reading in volts. */
export function useBenchState(
  job: string,
  known: Job | null,
): [BenchState, (change: Partial<BenchState>) => void] {
  const key = `jiko-bench-${job}`;
  const [state, setState] = useState<Partial<BenchState>>(() => {
    try {
      const kept = JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<BenchState>;
      return {
        ...(phases.includes(kept.phase as Phase) ? { phase: kept.phase as Phase } : {}),
        ...(typeof kept.source === 'string' ? { source: kept.source } : {}),
        ...(Array.isArray(kept.attached) ? { attached: kept.attached } : {}),
      };
    } catch {
      return {};
    }
  });
  const last = known?.readings.findLast(
    ({ standing, reading }) =>
      standing.kind === 'stands' && reading.phase !== 'cold' && reading.mode === 'volts',
  )?.reading;
  const whole: BenchState = {
    phase: 'standby',
    source: last?.source?.id ?? known?.intake?.source ?? '',
    attached: last?.attached ?? [],
    ...state,
  };
  return [
    whole,
    (change) => {
      const next = { ...state, ...change };
      setState(next);
      localStorage.setItem(key, JSON.stringify(next));
    },
  ];
}
