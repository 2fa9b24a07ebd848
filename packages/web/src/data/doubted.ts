import { useMemo } from 'react';
import type { HealthyBoard } from '@jiko/core/powerup';
import type { Job, KeptEvent } from '@jiko/core/record';
import { timelineOf, withoutEffect } from '@jiko/core/repair';

/** Parts worked on without effect, in one text, so that nothing is weighed anew while they stay the same. */
export function useDoubted(healthy: HealthyBoard, job: Job, events: readonly KeptEvent[]): string {
  const isWorked = job.repairs.length > 0;
  return useMemo(
    () =>
      isWorked
        ? [
            ...new Set(
              withoutEffect(timelineOf(healthy, events, Date.parse)).map((one) => one.part),
            ),
          ].join(' ')
        : '',
    [isWorked, healthy, events],
  );
}
