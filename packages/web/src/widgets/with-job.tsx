import type { ComponentType } from 'react';
import { useParams } from 'react-router';
import type { HealthyBoard } from '@jiko/core/powerup';
import type { Job, KeptEvent } from '@jiko/core/record';
import type { Trace } from '@jiko/core/trace';
import { useBenchState, type BenchState } from '../data/bench-state.ts';
import { useJobOnBoard } from '../data/job-on-board.ts';
import { useJob } from '../data/queries.ts';
import { JobNotShown } from './job-not-shown.tsx';

/** What a view of a job on its board is given. */
export interface JobViewProps {
  id: string;
  job: Job;
  events: readonly KeptEvent[];
  healthy: HealthyBoard;
  trace: Trace;
  bench: BenchState;
  onBench: (change: Partial<BenchState>) => void;
}

/** The page of a view: the job of the address on its board as the bench stands, or why it is not shown. */
export function withJob(View: ComponentType<JobViewProps>): () => React.JSX.Element {
  return function JobPage() {
    const { id = '' } = useParams();
    const { job, events } = useJob(id);
    const [bench, setBench] = useBenchState(id, job);
    const found = useJobOnBoard(id, bench.source, bench.attached);
    if (found.state !== 'ready') return <JobNotShown found={found} />;
    return <View id={id} {...found} events={events} bench={bench} onBench={setBench} />;
  };
}
