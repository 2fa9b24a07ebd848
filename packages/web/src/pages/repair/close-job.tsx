import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Input, Popconfirm, Radio, Select, Space } from 'antd';
import { useState } from 'react';
import { api, jobDetailSchema } from '@jiko/contract';
import { placeInScheme } from '@jiko/core/board';
import {
  failureTexts,
  failureWays,
  lessonOf,
  outcomes,
  type EventInput,
  type FailureWay,
  type Job,
  type Outcome,
} from '@jiko/core/record';
import type { Grade, VerifyItem } from '@jiko/core/repair';
import { dateText } from '../../data/dates.ts';
import { useBench } from '../../data/bench.ts';
import { postJson, request } from '../../data/http.ts';
import type { JobSeen } from '../../data/job-diagnosis.ts';
import { jobQuery } from '../../data/queries.ts';
import { askAnew } from '../../data/query-client.ts';
import { forgetPictures, keepAnswer } from '../../offline/kept-answers.ts';
import { useOutbox } from '../../offline/outbox.ts';
import { outcomeText } from '../../widgets/outcome-text.ts';
import { LeftOver, type Left } from './left-over.tsx';
import { proofText } from './proof-card.tsx';
import { Several } from '../../widgets/several.tsx';

/** What a job that ends so must say. */
const asksWhy: readonly Outcome[] = ['partly', 'data-saved', 'not-found', 'not-worth', 'declined'];

/** How a job ends: what it was, by whom it is proven, and what is left where it was not found. */
export function CloseJob({
  view,
  grade,
  checks,
  onRecord,
}: {
  view: JobSeen;
  grade: Grade;
  /** What is to be checked before it leaves. */
  checks: readonly VerifyItem[];
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const { id, job } = view;
  return (
    <section className="card close-job" aria-label="Close the job">
      <h2>{job.close ? 'This job is closed' : 'Close this job'}</h2>
      {job.close ? (
        <Reopen job={job} close={job.close} onRecord={onRecord} />
      ) : (
        <CloseForm view={view} grade={grade} checks={checks} onRecord={onRecord} />
      )}
      <JobFile id={id} job={job} />
    </section>
  );
}

function CloseForm({
  view,
  grade,
  checks,
  onRecord,
}: {
  view: JobSeen;
  grade: Grade;
  /** What is to be checked before it leaves. */
  checks: readonly VerifyItem[];
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const { board } = view.healthy;
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const [cause, setCause] = useState('');
  const [chosen, setParts] = useState<string[] | null>(null);
  const [saidHow, setHow] = useState<FailureWay | null | undefined>(undefined);
  const [reason, setReason] = useState('');
  const [left, setLeft] = useState<Left>([]);
  const [said, say] = useState<string | null>(null);
  const parts = chosen ?? grade.parts;
  // Taken out by hand it stays out.
  const how = saidHow === undefined ? grade.how : saidHow;
  const close = (): void => {
    if (!outcome) return say('Say how it ends.');
    if (outcome === 'fixed' && cause.trim() === '' && parts.length === 0)
      return say('Name what it was, by part or in words.');
    if (asksWhy.includes(outcome) && reason.trim() === '') return say('Say why it ends so.');
    onRecord({
      type: 'close',
      outcome,
      cause: cause.trim() || parts.join(', '),
      // What the record holds, not what one would like it to.
      proof: outcome === 'not-found' ? 'not-found' : grade.proof,
      reason: reason.trim(),
      ...(parts.length > 0 ? { parts, ...placeInScheme(board, parts) } : {}),
      ...(parts.length > 0 && how !== null ? { how } : {}),
      ...(outcome === 'not-found' && left.length > 0 ? { left } : {}),
    });
  };
  return (
    <div className="form">
      <Radio.Group
        aria-label="Outcome"
        className="outcomes"
        optionType="button"
        options={outcomes.map((value) => ({ value, label: outcomeText[value] }))}
        value={outcome}
        onChange={(event) => setOutcome(event.target.value as Outcome)}
      />
      <label>
        <span>What it was</span>
        <Several
          aria-label="Parts it was"
          placeholder="by part"
          style={{ width: '100%' }}
          value={parts}
          onChange={setParts}
          showSearch={{ optionFilterProp: 'label' }}
          options={[...board.parts, ...board.chips.filter((one) => !one.virtual)].map((one) => ({
            value: one.ref as string,
            label: `${one.ref} ${one.title}`,
          }))}
        />
      </label>
      <label>
        <span>How it had failed</span>
        <Select
          aria-label="How it had failed"
          placeholder="as far as it is known"
          style={{ width: 220 }}
          allowClear
          value={how}
          onChange={(next: FailureWay | undefined) => setHow(next ?? null)}
          options={failureWays.map((value) => ({ value, label: failureTexts[value] }))}
        />
      </label>
      <label>
        <span>In the owner’s words</span>
        <Input
          maxLength={1000}
          aria-label="Cause"
          placeholder="a fuse behind the socket had blown"
          value={cause}
          onChange={(event) => setCause(event.target.value)}
        />
      </label>
      <label>
        <span>Why it ends so</span>
        <Input
          maxLength={1000}
          aria-label="Why it ends so"
          placeholder={
            outcome === 'fixed' ? 'if there is more to say' : 'too dear, no part, as agreed'
          }
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      <p className="quiet">
        Known how well:{' '}
        <strong>{proofText[outcome === 'not-found' ? 'not-found' : grade.proof]}</strong>, by what
        is recorded. Closed jobs teach the next ones.
      </p>
      {outcome === 'not-found' && <LeftOver view={view} onLeft={setLeft} />}
      {(outcome === 'fixed' || outcome === 'partly') && <OpenChecks checks={checks} />}
      {said && <p className="tone-bad">{said}</p>}
      <Button type="primary" onClick={close}>
        Close the job
      </Button>
    </div>
  );
}

/** What nobody has checked, or what failed, said before the job is closed as mended. */
function OpenChecks({ checks }: { checks: readonly VerifyItem[] }) {
  const open = checks.filter((one) => one.state === 'open' || one.state === 'failed');
  if (open.length === 0) return null;
  return (
    <p className="caution-line" role="note">
      <strong>
        {open.length} of {checks.length} checks are not passed:{' '}
      </strong>
      {open
        .map(({ title, state }) => (state === 'failed' ? `${title} (failed)` : title))
        .join('; ')}
      . The report says so.
    </p>
  );
}

function Reopen({
  job,
  close,
  onRecord,
}: {
  job: Job;
  close: NonNullable<Job['close']>;
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const [reason, setReason] = useState('');
  return (
    <div className="form">
      <p>
        {outcomeText[close.body.outcome]}, {proofText[close.body.proof]}, by {close.who},{' '}
        {dateText(close.at, 'moment')}. Nothing is added to a closed job by mistake.
      </p>
      {lessonOf({ ...job, teaches: true }).length > 0 && (
        <p>
          {job.teaches
            ? `It teaches the next jobs on this board: ${lessonOf(job).join(', ')} is likelier there, and weakly what stands in the same place on boards of the same scheme.`
            : 'It was taken out: it teaches the next jobs nothing.'}{' '}
          <Button
            size="small"
            onClick={() =>
              onRecord({ type: 'lesson', counts: !job.teaches, reason: reason.trim() })
            }
          >
            {job.teaches ? 'Take it out' : 'Let it count again'}
          </Button>
        </p>
      )}
      {job.handedOver ? (
        <p className="quiet">
          Handed over by {job.handedOver.who}, {dateText(job.handedOver.at, 'moment')}.
        </p>
      ) : (
        <Button style={{ marginBottom: 10 }} onClick={() => onRecord({ type: 'handed-over' })}>
          Handed over to its owner
        </Button>
      )}
      <Space.Compact>
        <Input
          aria-label="Why it is opened again"
          placeholder="why: came back, closed by mistake"
          maxLength={300}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button
          disabled={reason.trim() === ''}
          onClick={() => onRecord({ type: 'reopen', reason: reason.trim() })}
        >
          Open it again
        </Button>
      </Space.Compact>
    </div>
  );
}

/** The job as a file for another Jiko, and without the customer's words where they ask for it. */
function JobFile({ id, job }: { id: string; job: Job }) {
  const { who } = useBench();
  const client = useQueryClient();
  const isUnsent = useOutbox().waiting.some((one) => one.job === id);
  const erase = useMutation({
    mutationFn: () => {
      const at = new Date().toISOString();
      const event = { id: crypto.randomUUID(), who, at, body: { type: 'erased', reason: '' } };
      return request(jobDetailSchema, api.erase(id), postJson({ event }));
    },
    onSuccess: (detail) => {
      // Nor does the browser keep the words and pictures for when the server is away.
      forgetPictures(client.getQueryData(jobQuery(id).queryKey));
      client.setQueryData(jobQuery(id).queryKey, detail);
      keepAnswer(api.job(id), detail);
      void askAnew(client, ['jobs']);
    },
  });
  const [last] = job.erased.slice(-1);
  return (
    <div className="job-file">
      <Space wrap>
        <Button href={api.jobFile(id)} disabled={isUnsent}>
          Save the job as a file
        </Button>
        <Popconfirm
          title="Take the customer's words, name and pictures out?"
          description="Device, complaint, notes and pictures go for good. What was measured, found and done stays. Backups of before still hold them for up to seven days."
          okText="Take them out"
          okButtonProps={{ danger: true }}
          onConfirm={() => erase.mutate()}
        >
          <Button loading={erase.isPending} disabled={isUnsent}>
            Erase the customer's words
          </Button>
        </Popconfirm>
      </Space>
      {isUnsent && <p className="quiet">Entries of this job still wait to be sent.</p>}
      {last && (
        <p className="quiet">The customer's words were taken out on {dateText(last.at, 'day')}.</p>
      )}
      {erase.error && <Alert type="error" showIcon title={erase.error.message} />}
    </div>
  );
}
