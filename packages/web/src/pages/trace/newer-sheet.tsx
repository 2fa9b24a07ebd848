import { useQuery } from '@tanstack/react-query';
import { Button } from 'antd';
import { useMemo } from 'react';
import type { GoalId } from '@jiko/core/board';
import { attachedIn, benchSetup } from '@jiko/core/play';
import { studyHealthyBoard, type HealthyBoard } from '@jiko/core/expectations';
import { valueText } from '@jiko/core/readings';
import type { Job } from '@jiko/core/record';
import { compareSheets } from '@jiko/core/sheet-edit';
import { jobNow, traceJob, type Trace } from '@jiko/core/trace';
import { boardQuery, jobSheetQuery } from '../../data/queries.ts';
import { boardOf } from '../../data/read-sheet.ts';
import { verdictWord } from '../../widgets/verdict-mark.tsx';

const mostLines = 6;

/** A sheet that was changed since this job stands on it: what differs, in it and in the verdicts. */
export function NewerSheet({
  healthy,
  job,
  trace,
  onMove,
}: {
  healthy: HealthyBoard;
  job: Job;
  trace: Trace;
  onMove: (hash: string) => void;
}) {
  const newest = useQuery(boardQuery(job.intake?.board ?? '')).data;
  const here = useQuery(jobSheetQuery(job)).data;
  const isNewer = job.sheet !== null && newest !== undefined && newest.hash !== job.sheet;
  const told = useMemo(() => {
    if (!isNewer || !newest || !here) return null;
    const board = boardOf(newest);
    if (!board) return null;
    const { setup } = healthy.play;
    const attached = attachedIn(healthy.board, setup);
    const moved = studyHealthyBoard(board, benchSetup(board, { source: setup.source, attached }));
    const after = traceJob(moved, jobNow(moved, job), (job.intake?.goal ?? '') as GoalId);
    const verdicts = trace.readings.flatMap((one, at) => {
      const then = after.readings[at];
      if (one.standing.kind !== 'stands' || !then || then.verdict.kind === one.verdict.kind)
        return [];
      const { at: place, mode, phase, value } = one.reading;
      return [
        `${place.net} ${phase} ${valueText(value, mode)}: ${verdictWord(one.verdict.kind)} -> ${verdictWord(then.verdict.kind)}`,
      ];
    });
    return { changes: compareSheets(here.text, newest.text), verdicts };
  }, [isNewer, newest, here, healthy, job, trace]);
  if (!told || !newest) return null;
  return (
    <section className="narrow" aria-label="The sheet has a newer version">
      <h3>The sheet has a newer version</h3>
      <ul>
        {told.changes.slice(0, mostLines).map((line) => (
          <li key={line}>{line}</li>
        ))}
        {told.changes.length > mostLines && <li>and {told.changes.length - mostLines} more</li>}
      </ul>
      <p className="quiet">
        {told.verdicts.length === 0
          ? 'No verdict of this job changes.'
          : `Verdicts that change: ${told.verdicts.join('; ')}.`}
      </p>
      <Button size="small" onClick={() => onMove(newest.hash)}>
        Go on with it
      </Button>
    </section>
  );
}
