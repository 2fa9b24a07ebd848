import type { Board } from '../board/index.ts';
import { attachedIn, benchSetup, type BenchSetup } from '../play/index.ts';
import { liftedParts, type Job } from '../record/index.ts';

/** The bench as it last stood in a job: on its last reading in volts, else as it came in with nothing attached. */
export function benchOfJob(
  board: Board,
  job: Job,
): { source: string; attached: string[]; lifted: string[] } {
  const last = job.readings.findLast(
    ({ standing, reading }) =>
      standing.kind === 'stands' && reading.phase !== 'cold' && reading.mode === 'volts',
  )?.reading;
  const usual: BenchSetup = {
    source: last?.source?.id ?? job.intake?.source,
    attached: last?.attached ?? [],
  };
  const setup = benchSetup(board, usual);
  return { source: setup.source, attached: attachedIn(board, setup), lifted: liftedParts(job) };
}
