import { InputNumber, Segmented } from 'antd';
import { simpleSteps, type SimpleStep } from '@jiko/core/prepare';
import type { Job } from '@jiko/core/record';
import type { DoorPart } from './door-part.ts';

type Result = Job['tried'][number]['body']['result'];
const answers: { value: Result | 'open'; label: string }[] = [
  { value: 'open', label: '–' },
  { value: 'no-change', label: 'no change' },
  { value: 'helped', label: 'helped' },
  { value: 'cannot', label: 'cannot' },
];

/** What costs minutes and may save the day; each answer weighs in with the suspects. */
export function SimpleThings({ job, healthy, onRecord }: DoorPart) {
  return (
    <section className="card" aria-label="Simple things first">
      <h2>Simple things first</h2>
      <ul className="checks">
        {simpleSteps(healthy.board).map((step) => (
          <Row
            key={step.thing}
            step={step}
            before={job.tried.find((one) => one.body.thing === step.thing)?.body}
            onRecord={onRecord}
          />
        ))}
      </ul>
    </section>
  );
}

function Row({
  step,
  before,
  onRecord,
}: {
  step: SimpleStep;
  before: Job['tried'][number]['body'] | undefined;
  onRecord: DoorPart['onRecord'];
}) {
  const { thing, title } = step;
  const says =
    before?.result === 'helped'
      ? step.helped
      : before?.result === 'no-change'
        ? step.noChange
        : step.why;
  return (
    <li className={before ? 'is-done' : ''}>
      <div>
        <strong>{title}</strong>
        <div className="quiet">{says}</div>
      </div>
      {thing === 'meter-zero' ? (
        <InputNumber
          aria-label={title}
          min={0}
          max={1000}
          step={0.1}
          suffix="Ω"
          style={{ width: 120 }}
          value={before?.ohms ?? null}
          onBlur={(event) => {
            const ohms = Number(event.target.value);
            if (event.target.value !== '' && Number.isFinite(ohms) && ohms !== before?.ohms)
              onRecord({ type: 'tried', thing, result: 'no-change', ohms });
          }}
          onPressEnter={(event) => event.currentTarget.blur()}
        />
      ) : (
        <Segmented<Result | 'open'>
          size="small"
          aria-label={title}
          value={before?.result ?? 'open'}
          options={before ? answers.slice(1) : answers}
          onChange={(result) => result !== 'open' && onRecord({ type: 'tried', thing, result })}
        />
      )}
    </li>
  );
}
