import { useState } from 'react';
import { phases, type Phase } from '@jiko/core/readings';

/** What the bench is doing now, for one job; it survives a reload. */
export interface BenchState {
  phase: Phase;
  source: string;
  attached: string[];
}

export function useBenchState(
  job: string,
  usualSource: string,
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
  const whole: BenchState = { phase: 'standby', source: usualSource, attached: [], ...state };
  return [
    whole,
    (change) => {
      const next = { ...state, ...change };
      setState(next);
      localStorage.setItem(key, JSON.stringify(next));
    },
  ];
}
