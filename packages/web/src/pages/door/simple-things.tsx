import { InputNumber } from 'antd';
import { useState } from 'react';
import { simpleSteps, type SimpleStep } from '@jiko/core/prepare';
import type { Job, KeptEvent } from '@jiko/core/record';
import { takenBack } from '../../data/taken-back.ts';
import { Answers } from '../../widgets/answers.tsx';
import type { DoorPart } from './door-part.ts';

type Result = Job['tried'][number]['body']['result'];
const answers: { value: Result; label: string }[] = [
  { value: 'no-change', label: 'no change' },
  { value: 'helped', label: 'helped' },
  { value: 'cannot', label: 'cannot' },
];

/** What costs minutes and may save the day; each answer weighs in with the suspects. */
export function SimpleThings({
  job,
  events,
  healthy,
  onRecord,
}: DoorPart & { events: readonly KeptEvent[] }) {
  const takeBack = (thing: SimpleStep['thing']): void => onRecord(...takenBack(events, thing));
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
            onTakeBack={() => takeBack(step.thing)}
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
  onTakeBack,
}: {
  step: SimpleStep;
  before: Job['tried'][number]['body'] | undefined;
  onRecord: DoorPart['onRecord'];
  /** Back to not tried. */
  onTakeBack: () => void;
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
        <LeadOhms
          label={title}
          before={before?.ohms ?? null}
          onOhms={(ohms) => onRecord({ type: 'tried', thing, result: 'no-change', ohms })}
        />
      ) : (
        <Answers<Result>
          label={title}
          value={before?.result ?? null}
          options={answers}
          onAnswer={(result) => onRecord({ type: 'tried', thing, result })}
          onTakeBack={onTakeBack}
        />
      )}
    </li>
  );
}

/** Ohms the leads read shorted together: kept on Enter, and when the field is left. */
function LeadOhms({
  label,
  before,
  onOhms,
}: {
  label: string;
  before: number | null;
  onOhms: (ohms: number) => void;
}) {
  const [typed, setTyped] = useState<number | null>(null);
  const keep = (): void => {
    if (typed !== null && typed !== before) onOhms(typed);
    setTyped(null);
  };
  return (
    <InputNumber
      aria-label={label}
      min={0}
      max={1000}
      step={0.1}
      suffix="Ω"
      style={{ width: 120 }}
      value={typed ?? before}
      onChange={setTyped}
      onBlur={keep}
      onPressEnter={keep}
    />
  );
}
