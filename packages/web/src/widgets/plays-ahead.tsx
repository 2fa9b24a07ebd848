import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { liftedParts, type Job } from '@jiko/core/record';
import { netsInDoubt, type Trace } from '@jiko/core/trace';
import type { BenchState } from '../data/bench-state.ts';
import { usePlaysAhead } from '../data/diagnosis.ts';
import { jobSheetQuery } from '../data/queries.ts';

/**
 * Plays the faults of a job's board while its view needs none, so that they are there in the next. It
 * shows nothing: a component of its own, so that the view is not drawn anew with each report.
 */
export function PlaysAhead({ job, trace, bench }: { job: Job; trace: Trace; bench: BenchState }) {
  const sheet = useQuery(jobSheetQuery(job));
  const { source, attached } = bench;
  const lifted = liftedParts(job).join(' ');
  const setup = useMemo(
    () => ({ source, attached, lifted: lifted === '' ? [] : lifted.split(' ') }),
    [source, attached, lifted],
  );
  usePlaysAhead(sheet.data, setup, netsInDoubt(trace));
  return null;
}
