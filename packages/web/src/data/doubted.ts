import { useMemo } from 'react';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { Job, KeptEvent } from '@jiko/core/record';
import { timelineOf, withoutEffect } from '@jiko/core/repair';

/** Parts worked on without effect, by what was read again; the same list while they stay the same. */
export function useDoubted(
  healthy: HealthyBoard,
  job: Job,
  events: readonly KeptEvent[],
): readonly string[] {
  const isWorked = job.repairs.length > 0;
  const key = useMemo(
    () =>
      JSON.stringify(
        isWorked
          ? [
              ...new Set(
                withoutEffect(timelineOf(healthy, events, Date.parse)).map((one) => one.part),
              ),
            ]
          : [],
      ),
    [isWorked, healthy, events],
  );
  return useMemo(() => JSON.parse(key) as string[], [key]);
}
