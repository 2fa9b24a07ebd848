import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Input, Popconfirm, Radio, Select, Space } from 'antd';
import dayjs from 'dayjs';
import { useState } from 'react';
import { api, jobDetailSchema } from '@jiko/contract';
import { proofs, type EventInput, type Job } from '@jiko/core/record';
import { useBench } from '../../data/bench.ts';
import { postJson, request } from '../../data/http.ts';
import { jobQuery } from '../../data/queries.ts';
import { record, useOutbox } from '../../offline/outbox.ts';

const outcomes = [
  { value: 'repaired', label: 'Repaired' },
  { value: 'not-repaired', label: 'Not repaired' },
  { value: 'returned', label: 'Given back as it is' },
] as const;

const proofText: Record<(typeof proofs)[number], string> = {
  proven: 'proven: measured, changed, measured again',
  supported: 'supported by readings',
  'by-elimination': 'by elimination',
  'several-changed': 'several things were changed at once',
  'not-found': 'not found',
};

/** How a job ends, in one short form; what is closed can be opened again. */
export function CloseJob({ id, job }: { id: string; job: Job }) {
  const { who } = useBench();
  const keep = (body: EventInput): void => {
    record(id, who, [body]);
  };
  return (
    <section className="close-job no-print" aria-label="Close the job">
      <h2>{job.close ? 'This job is closed' : 'Close this job'}</h2>
      {job.close ? (
        <Reopen close={job.close} onRecord={keep} />
      ) : (
        <CloseForm job={job} onRecord={keep} />
      )}
      <JobFile id={id} job={job} />
    </section>
  );
}

function CloseForm({ job, onRecord }: { job: Job; onRecord: (body: EventInput) => void }) {
  const [outcome, setOutcome] = useState<(typeof outcomes)[number]['value'] | null>(null);
  const [cause, setCause] = useState('');
  const [proof, setProof] = useState<(typeof proofs)[number] | null>(null);
  const [reason, setReason] = useState('');
  const [said, say] = useState<string | null>(null);
  const changed = job.repairs
    .filter((one) => one.struck === null)
    .flatMap(({ body }) => body.parts.map((part) => `${part} ${body.action}`));
  const close = (): void => {
    if (!outcome) return say('Say how it ends.');
    if (!proof) return say('Say how well the cause is known: closed jobs teach the next ones.');
    if (outcome === 'repaired' && cause.trim() === '') return say('Name what it was.');
    if (outcome !== 'repaired' && reason.trim() === '') return say('Say why it ends so.');
    onRecord({ type: 'close', outcome, cause: cause.trim(), proof, reason: reason.trim() });
  };
  return (
    <div className="form">
      <Radio.Group
        aria-label="Outcome"
        optionType="button"
        options={[...outcomes]}
        value={outcome}
        onChange={(event) => setOutcome(event.target.value as typeof outcome)}
      />
      <label>
        <span>Cause</span>
        <Input
          maxLength={1000}
          placeholder="what it was, by part: PU6 shorted inside"
          value={cause}
          onChange={(event) => setCause(event.target.value)}
        />
      </label>
      <label>
        <span>Known how well</span>
        <Select
          aria-label="Known how well"
          placeholder="choose"
          value={proof}
          onChange={setProof}
          options={proofs.map((value) => ({ value, label: proofText[value] }))}
        />
      </label>
      <label>
        <span>Why it ends so</span>
        <Input
          maxLength={1000}
          placeholder={
            outcome === 'repaired' ? 'if there is more to say' : 'too dear, no part, data saved'
          }
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      <p className="quiet">
        {changed.length > 0
          ? `Changed on the board: ${changed.join(', ')}. What is not in there yet is written down in Trace (key d).`
          : 'Nothing is written down as changed on the board: that is done in Trace (key d).'}
      </p>
      {said && <p className="tone-bad">{said}</p>}
      <Button type="primary" onClick={close}>
        Close the job
      </Button>
    </div>
  );
}

function Reopen({
  close,
  onRecord,
}: {
  close: NonNullable<Job['close']>;
  onRecord: (body: EventInput) => void;
}) {
  const [reason, setReason] = useState('');
  return (
    <div className="form">
      <p>
        {outcomes.find((one) => one.value === close.body.outcome)?.label}, by {close.who},{' '}
        {dayjs(close.at).format('ddd D MMM HH:mm')}. Nothing is added to a closed job by mistake.
      </p>
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
      client.setQueryData(jobQuery(id).queryKey, detail);
      void client.invalidateQueries({ queryKey: ['jobs'] });
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
        <p className="quiet">
          The customer's words were taken out on {dayjs(last.at).format('D MMM YYYY')}.
        </p>
      )}
      {erase.error && <Alert type="error" showIcon title={erase.error.message} />}
    </div>
  );
}
