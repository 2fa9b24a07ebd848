import { useMemo, useState } from 'react';
import type { HealthyBoard } from '@jiko/core/expectations';
import { valueText, whyText } from '@jiko/core/readings';
import { liftedParts, type EventInput, type Job } from '@jiko/core/record';
import {
  aftermathOf,
  gradeProof,
  openEnds,
  retestOf,
  timelineOf,
  verifyList,
  withoutEffect,
  type Retest,
  type RetestVerdict,
  proofBeside,
} from '@jiko/core/repair';
import type { Trace } from '@jiko/core/trace';
import { useBench } from '../../data/bench.ts';
import type { BenchState } from '../../data/bench-state.ts';
import { record } from '../../offline/outbox.ts';
import { BenchStrip } from '../../widgets/bench-strip.tsx';
import { GraceLine } from '../../widgets/grace-line.tsx';
import { withJob, type JobViewProps } from '../../widgets/with-job.tsx';
import { ReadCard } from '../../widgets/reading/read-card.tsx';
import { againTarget, type Target } from '../../widgets/reading/target.ts';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';
import { CloseJob } from './close-job.tsx';
import { OpenEnds, ProofCard } from './proof-card.tsx';
import { RepairLog } from './repair-log.tsx';
import { VerifyCard } from './verify-card.tsx';
import './repair.css';

/** From the work on the board to the closed job: what was done, the same points again, the list, the end. */
export const RepairPage = withJob(RepairView);

function RepairView(view: JobViewProps) {
  const { id, job, events, healthy, trace, bench, onBench } = view;
  const { board } = healthy;
  const { who } = useBench();
  const timeline = useMemo(() => timelineOf(healthy, events, Date.parse), [healthy, events]);
  const retest = useMemo(() => retestOf(timeline), [timeline]);
  const grade = useMemo(() => gradeProof(timeline), [timeline]);
  const verify = useMemo(() => verifyList(healthy, job), [healthy, job]);
  const ends = useMemo(() => openEnds(board, job, retest), [board, job, retest]);
  const after = useMemo(() => aftermathOf(healthy, job), [healthy, job]);
  const idle = useMemo(() => withoutEffect(timeline), [timeline]);
  const keep = (...bodies: EventInput[]): string[] => record(id, who, bodies);
  return (
    <div className="repair">
      <section className="repair-main" aria-label="Repair">
        <GraceLine job={job} />
        <RepairLog id={id} board={board} job={job} onRecord={keep} />
        <RetestCard
          healthy={healthy}
          job={job}
          trace={trace}
          retest={retest}
          bench={bench}
          onBench={onBench}
          onRecord={(body) => keep(body)}
        />
        <VerifyCard items={verify} onRecord={keep} />
        <CloseJob view={view} grade={grade} checks={verify} onRecord={keep} />
      </section>
      <aside className="repair-side" aria-label="Where it stands">
        <ProofCard grade={proofBeside(grade, job.close)} />
        <OpenEnds job={id} ends={ends} after={after} idle={idle} onRecord={(body) => keep(body)} />
      </aside>
      <BenchStrip
        board={board}
        state={bench}
        onChange={onBench}
        onNote={(text) => keep({ type: 'note', text })}
      />
    </div>
  );
}

const verdictText: Record<RetestVerdict, { word: string; tone: string }> = {
  fixed: { word: 'fixed', tone: 'good' },
  better: { word: 'better', tone: 'warn' },
  unchanged: { word: 'unchanged', tone: 'bad' },
  worse: { word: 'worse', tone: 'bad' },
  'still-good': { word: 'good as before', tone: 'good' },
};

/** The same points again, before and after side by side. */
function RetestCard({
  healthy,
  job,
  trace,
  retest,
  bench,
  onBench,
  onRecord,
}: {
  healthy: HealthyBoard;
  job: Job;
  trace: Trace;
  retest: Retest;
  bench: BenchState;
  onBench: (change: Partial<BenchState>) => void;
  onRecord: (body: EventInput) => void;
}) {
  const [chosen, setChosen] = useState<string | null>(null);
  const lifted = liftedParts(job).join();
  const points = retest.points.filter(
    ({ before }) =>
      [...before.reading.lifted].sort().join() ===
      [...lifted.split(',')].filter(Boolean).sort().join(),
  );
  const targets = points.map((one): Target => againTarget(healthy, one.before));
  const firstOpen = points.findIndex((one) => one.after === null || one.provisional !== null);
  const at = Math.max(
    0,
    chosen === null ? firstOpen : points.findIndex((one) => one.key === chosen),
  );
  const target = targets[at];
  const step = (by: 1 | -1): void => {
    const next = points[(at + by + points.length) % points.length];
    setChosen(next?.key ?? null);
  };
  if (points.length === 0)
    return (
      <section className="card" aria-label="Retest">
        <h2>The same points again</h2>
        <p className="quiet">
          Once something was changed on the board, every point that was read before stands here to
          be read again, the wrong ones first.
        </p>
      </section>
    );
  return (
    <section className="card" aria-label="Retest">
      <header>
        <h2>The same points again</h2>
        {retest.overall && (
          <strong className={`tone-${verdictText[retest.overall].tone}`} role="status">
            {retest.overall}
          </strong>
        )}
      </header>
      {target && (
        <ReadCard
          board={healthy.board}
          job={job}
          trace={trace}
          bench={bench}
          target={target}
          place={at + 1}
          of={points.length}
          onStep={step}
          onPhase={(phase) => onBench({ phase })}
          onRecord={(body) => {
            onRecord(body);
            setChosen(null);
          }}
        />
      )}
      <table className="retest">
        <thead>
          <tr>
            <th>Point</th>
            <th>Phase</th>
            <th>Before</th>
            <th>After</th>
            <th>So</th>
          </tr>
        </thead>
        <tbody>
          {retest.draw && (
            <tr>
              <td>draw</td>
              <td />
              <td className="mono">{retest.draw.before} A</td>
              <td className="mono">{retest.draw.after === null ? '' : `${retest.draw.after} A`}</td>
              <td>
                {retest.draw.after === null ? 'take it again at the Door' : retest.draw.shape}
              </td>
            </tr>
          )}
          {points.map((one, index) => (
            <tr
              key={one.key}
              className={index === at ? 'is-here' : ''}
              onClick={() => setChosen(one.key)}
            >
              <td className="mono">
                {one.before.reading.at.net}
                {one.before.reading.reference && ` – ${one.before.reading.reference.net}`}
              </td>
              <td className="quiet">{one.before.reading.phase}</td>
              <td>
                <span className="mono">
                  {valueText(one.before.reading.value, one.before.reading.mode)}
                </span>{' '}
                <VerdictMark kind={one.before.verdict.kind} />
              </td>
              <td title={one.after ? whyText(one.after.verdict) : ''}>
                {one.after && (
                  <>
                    <span className="mono">
                      {valueText(one.after.reading.value, one.after.reading.mode)}
                    </span>{' '}
                    <VerdictMark kind={one.after.verdict.kind} />
                  </>
                )}
              </td>
              <td>
                {one.verdict && (
                  <span className={`tone-${verdictText[one.verdict].tone}`}>
                    {verdictText[one.verdict].word}
                  </span>
                )}
                {one.provisional && <div className="quiet">{one.provisional}</div>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
