import { Alert, Button, Input, InputNumber, Segmented, Select } from 'antd';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Board, GoalId } from '@jiko/core/board';
import type { Diagnosis } from '@jiko/core/diagnosis';
import { ampsRangeText, drawMeaning, type DrawStop } from '@jiko/core/prepare';
import { seenTexts, type EventInput, type Job, type Seen } from '@jiko/core/record';
import { formatAmps, formatVolts } from '@jiko/core/units';
import { useDrawStops, useJobDiagnosis, useSetup } from '../../data/job-diagnosis.ts';
import { jobSheetQuery } from '../../data/queries.ts';
import { SeenFields } from '../../widgets/seen-fields.tsx';
import type { JobViewProps } from '../../widgets/with-job.tsx';
import type { DoorPart } from './door-part.ts';

type Sign = Extract<EventInput, { type: 'sign' }>;
const shapes = ['steady', 'pulsing', 'limited', 'rising'] as const;
/** When something was seen: a phase, or that the press changed nothing. */
type When = 'standby' | 'nothing' | 'trying' | 'run';
const whenText: Record<When, string> = {
  standby: 'before the press',
  nothing: 'after it, nothing changes',
  trying: 'after it, goes off again',
  run: 'after it, stays on',
};
const whenOf = ({ phase, seen }: Sign): string =>
  seen?.answers === false ? whenText.nothing : (whenText[phase as When] ?? phase);

/** The draw as a small log, and what else is seen from outside; what it means is said at once. */
export function FirstSigns({
  view,
  onRecord,
}: {
  view: JobViewProps;
  onRecord: DoorPart['onRecord'];
}) {
  const { job, healthy, bench } = view;
  const { board } = healthy;
  const sheet = useQuery(jobSheetQuery(job)).data;
  const setup = useSetup(job, bench);
  const { making, dictionary, diagnosis } = useJobDiagnosis(view);
  const stops = useDrawStops(sheet, setup, dictionary);
  const hasSigns = job.signs.some((one) => one.struck === null);
  return (
    <section className="card" aria-label="First signs">
      <h2>First signs</h2>
      <SignForm board={board} source={bench.source} onRecord={onRecord} />
      <SignLog board={board} job={job} onRecord={onRecord} />
      {hasSigns && (
        <Meaning
          job={job}
          healthy={healthy}
          diagnosis={diagnosis}
          isWorking={making.state === 'working'}
        />
      )}
      {stops && <Stops stops={stops} />}
    </section>
  );
}

function SignForm({
  board,
  source: usual,
  onRecord,
}: {
  board: Board;
  source: string;
  onRecord: DoorPart['onRecord'];
}) {
  const [when, setWhen] = useState<When>('standby');
  const [source, setSource] = useState(usual);
  const [volts, setVolts] = useState<number | null>(null);
  const [limitAmps, setLimit] = useState<number | null>(null);
  const [amps, setAmps] = useState<number | null>(null);
  const [shape, setShape] = useState<(typeof shapes)[number]>('steady');
  const [shownVolts, setShown] = useState<number | null>(null);
  const [lasted, setLasted] = useState<number | null>(null);
  const [seen, setSeen] = useState<Seen>({});
  const [text, setText] = useState('');
  const [isEmpty, setEmpty] = useState(false);
  const chosen = board.sources.find((one) => one.id === source);
  const keep = (): void => {
    const isNothing = when === 'nothing';
    const empty =
      !isNothing &&
      amps === null &&
      shownVolts === null &&
      Object.keys(seen).length === 0 &&
      text.trim() === '';
    setEmpty(empty);
    if (empty) return;
    const sign: Sign = {
      type: 'sign',
      phase: isNothing ? 'run' : when,
      drawAmps: amps,
      drawShape: amps === null ? null : shape,
      seen: {
        ...seen,
        ...(isNothing && { answers: false }),
        ...(shownVolts !== null && { shownVolts }),
      },
      source: { id: source, volts: volts ?? chosen?.volts ?? null, limitAmps },
      lastedSeconds: lasted,
      text: text.trim(),
    };
    onRecord(sign);
    setAmps(null);
    setShown(null);
    setSeen({});
    setLasted(null);
    setText('');
    if (when === 'standby') setWhen('nothing');
  };
  const number = (
    label: string,
    value: number | null,
    set: (next: number | null) => void,
    suffix: string,
    placeholder: string,
  ) => (
    <label>
      <span className="quiet">{label}</span>
      <InputNumber
        aria-label={label}
        min={0}
        value={value}
        onChange={set}
        suffix={suffix}
        placeholder={placeholder}
        onPressEnter={keep}
      />
    </label>
  );
  return (
    <div className="sign-form">
      <div className="sign-row">
        <Segmented<When>
          aria-label="When"
          value={when}
          onChange={setWhen}
          options={Object.entries(whenText).map(([value, label]) => ({
            value: value as When,
            label,
          }))}
        />
        <Select
          aria-label="Source"
          style={{ minWidth: 190 }}
          value={source}
          onChange={setSource}
          options={board.sources
            .filter((one) => !one.stays)
            .map((one) => ({ value: one.id as string, label: one.title }))}
        />
      </div>
      <div className="sign-row">
        {number('Volts set', volts, setVolts, 'V', chosen ? String(chosen.volts) : '')}
        {number('Current limit', limitAmps, setLimit, 'A', '–')}
        {number('Draws', amps, setAmps, 'A', '0.026')}
        <label>
          <span className="quiet">How</span>
          <Select
            aria-label="How it draws"
            value={shape}
            onChange={setShape}
            options={shapes.map((value) => ({ value, label: value }))}
          />
        </label>
        {number('At the plug', shownVolts, setShown, 'V', chosen ? String(chosen.volts) : '')}
        {number('For', lasted, setLasted, 's', '–')}
      </div>
      <details>
        <summary>Lights, fan, picture, restarts, beeps</summary>
        <div className="seen-fields">
          <SeenFields board={board} seen={seen} onSeen={setSeen} />
        </div>
      </details>
      <div className="sign-row">
        <Input
          aria-label="In your own words"
          placeholder="Warm at once on the left, smells, hums"
          maxLength={400}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onPressEnter={keep}
        />
        <Button type="primary" onClick={keep}>
          Keep
        </Button>
      </div>
      {isEmpty && (
        <Alert
          type="error"
          title="Say what it draws, the volts at the plug, or one thing that was seen."
        />
      )}
    </div>
  );
}

function SignLog({
  board,
  job,
  onRecord,
}: {
  board: Board;
  job: Job;
  onRecord: DoorPart['onRecord'];
}) {
  const kept = job.signs.filter((one) => one.struck === null);
  if (kept.length === 0) return null;
  return (
    <table className="sign-log">
      <tbody>
        {kept.map(({ id, body }) => {
          const { source, drawAmps, drawShape, lastedSeconds } = body;
          const title = board.sources.find((one) => one.id === source?.id)?.title ?? '';
          const set = [
            source && source.volts !== null ? formatVolts(source.volts) : '',
            source && source.limitAmps !== null ? `limit ${formatAmps(source.limitAmps)}` : '',
          ];
          return (
            <tr key={id}>
              <td>{whenOf(body)}</td>
              <td className="mono">
                {drawAmps === null ? '–' : `${formatAmps(drawAmps)} ${drawShape ?? ''}`}
              </td>
              <td className="quiet">
                {[title, ...set].filter(Boolean).join(', ')}
                {lastedSeconds === null ? '' : `, ${lastedSeconds} s`}
              </td>
              <td>
                {[...seenTexts({ ...body.seen, answers: undefined }), body.text]
                  .filter(Boolean)
                  .join(', ')}
              </td>
              <td>
                <button
                  type="button"
                  className="strike"
                  onClick={() => onRecord({ type: 'strike', event: id, reason: 'taken back' })}
                >
                  strike
                </button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Meaning({
  job,
  healthy,
  diagnosis,
  isWorking,
}: {
  job: Job;
  healthy: DoorPart['healthy'];
  diagnosis: Diagnosis | null;
  isWorking: boolean;
}) {
  const meaning = diagnosis
    ? drawMeaning(
        healthy.stages,
        healthy.path((job.intake?.goal ?? '') as GoalId),
        diagnosis.regions,
      )
    : null;
  const read = job.readings.filter((one) => one.standing.kind === 'stands').length;
  return (
    <div className="meaning" aria-live="polite">
      <strong>
        {read === 0
          ? 'What the signs say on this board: '
          : `What the signs and ${read === 1 ? 'one reading' : `${read} readings`} say on this board: `}
      </strong>
      {meaning
        ? meaning.text
        : isWorking || !diagnosis
          ? 'every fault is being played…'
          : 'nothing yet that tells stages apart.'}
    </div>
  );
}

function Stops({ stops }: { stops: DrawStop[] }) {
  return (
    <details className="stops">
      <summary>What this board draws where it stops</summary>
      <table>
        <thead>
          <tr>
            <th>Stops at</th>
            <th>before the press</th>
            <th>after it</th>
          </tr>
        </thead>
        <tbody>
          {stops.map((one) => (
            <tr key={one.stage ?? ''}>
              <td>{one.title}</td>
              <td className="mono">{ampsRangeText(one.standby)}</td>
              <td className="mono">{ampsRangeText(one.trying)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
