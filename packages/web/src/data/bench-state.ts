import { z } from 'zod';
import { phases, type Phase } from '@jiko/core/readings';
import type { Job } from '@jiko/core/record';
import { useKept } from './kept.ts';

/** What the strip says; what cannot be read of it was not said. */
const stateSchema = z.object({
  phase: z.enum(phases).optional().catch(undefined),
  source: z.string().optional().catch(undefined),
  attached: z.array(z.string()).optional().catch(undefined),
  cooler: z.boolean().optional().catch(undefined),
  pressedAt: z.number().optional().catch(undefined),
});
type Said = z.output<typeof stateSchema>;
const nothingSaid: Said = {};

/** What the bench is doing now, for one job; it survives a reload. */
export interface BenchState {
  phase: Phase;
  source: string;
  attached: string[];
  /** The cooler sits on the processor; it does unless somebody says that it is off. */
  cooler: boolean;
  /** When the strip first said that the button was pressed, in ms of the clock; null while it does not. */
  pressedAt: number | null;
}

const isPressed = (phase: Phase): boolean => phase !== 'cold' && phase !== 'standby';

/** When the button was pressed, after a change: it counts from the press, or from when the cooler came off. */
export function pressedAfter(
  before: BenchState,
  change: Partial<BenchState>,
  now: number,
): number | null {
  if (change.pressedAt !== undefined) return change.pressedAt;
  const after = { ...before, ...change };
  if (!isPressed(after.phase)) return null;
  const isNew = !isPressed(before.phase) || (before.cooler && !after.cooler);
  return isNew ? now : (before.pressedAt ?? now);
}

/** `known` is the job: what the strip does not say is as the bench stood at its last reading in volts. */
export function useBenchState(
  job: string,
  known: Job | null,
): [BenchState, (change: Partial<BenchState>) => void] {
  const key = `jiko-bench-${job}`;
  const [state, setState] = useKept(key, stateSchema, nothingSaid);
  const last = known?.readings.findLast(
    ({ standing, reading }) =>
      standing.kind === 'stands' && reading.phase !== 'cold' && reading.mode === 'volts',
  )?.reading;
  const whole: BenchState = {
    phase: 'standby',
    source: last?.source?.id ?? known?.intake?.source ?? '',
    attached: last?.attached ?? [],
    cooler: true,
    ...state,
    pressedAt: state.pressedAt ?? null,
  };
  return [
    whole,
    (change) =>
      setState({
        ...state,
        ...change,
        pressedAt: pressedAfter(whole, change, Date.now()) ?? undefined,
      }),
  ];
}
