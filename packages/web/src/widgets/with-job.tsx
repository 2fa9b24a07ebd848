import type { ComponentType } from 'react';
import { useParams } from 'react-router';
import type { Board } from '@jiko/core/board';
import { benchSetup } from '@jiko/core/play';
import { useBenchState, type BenchState } from '../data/bench-state.ts';
import { useJobOnBoard } from '../data/job-on-board.ts';
import type { JobSeen } from '../data/job-diagnosis.ts';
import { useJob } from '../data/queries.ts';
import { JobNotShown } from './job-not-shown.tsx';

/** What a view of a job on its board is given. */
export interface JobViewProps extends JobSeen {
  onBench: (change: Partial<BenchState>) => void;
}

/**
 * The bench strip on the board of the job: what it says of another board, chosen before it was corrected,
 * is none of this one.
 */
function benchOn(board: Board, bench: BenchState): BenchState {
  const { source } = benchSetup(board, bench);
  const attached = bench.attached.filter((id) => board.attachments.some((one) => one.id === id));
  return source === bench.source && attached.length === bench.attached.length
    ? bench
    : { ...bench, source, attached };
}

/** The page of a view: the job of the address on its board as the bench stands, or why it is not shown. */
export function withJob(View: ComponentType<JobViewProps>): () => React.JSX.Element {
  return function JobPage() {
    const { id = '' } = useParams();
    const { job, events } = useJob(id);
    const [bench, setBench] = useBenchState(id, job);
    const found = useJobOnBoard(id, bench.source, bench.attached);
    if (found.state !== 'ready') return <JobNotShown id={id} found={found} />;
    return (
      <View
        id={id}
        {...found}
        events={events}
        bench={benchOn(found.healthy.board, bench)}
        onBench={setBench}
      />
    );
  };
}
