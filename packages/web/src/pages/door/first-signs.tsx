import { Alert, Button, Input, InputNumber, Segmented, Select } from 'antd';
import { useMemo, useState } from 'react';
import type { BoardDetail } from '@jiko/contract';
import type { Board, GoalId, NetId } from '@jiko/core/board';
import { evidenceOf, type Diagnosis, type Evidence } from '@jiko/core/diagnosis';
import type { BenchSetup } from '@jiko/core/powerup';
import { ampsRangeText, drawMeaning, type DrawStop } from '@jiko/core/prepare';
import type { PoweredPhase } from '@jiko/core/readings';
import { seenTexts, type EventInput, type Job, type Seen } from '@jiko/core/record';
import { formatAmps, formatVolts } from '@jiko/core/units';
import { useDiagnosis, useDrawStops } from '../../data/diagnosis.ts';
import { SeenFields } from '../../widgets/seen-fields.tsx';
import type { DoorPart } from './door-part.ts';

type Sign = Extract<EventInput, { type: 'sign' }>;
const atPlug = { phase: 'standby', side: '' } as const;
const shapes = ['steady', 'pulsing', 'limited', 'rising'] as const;
const phaseText: Partial<Record<PoweredPhase, string>> = {
  standby: 'before the press',
  trying: 'after it, goes off again',
  run: 'after it, stays on',
};

/** The draw as a small log, and what else is seen from outside; what it means is said at once. */
export function FirstSigns({
  job,
  healthy,
  onRecord,
  sheet,
  setup,
  near,
}: DoorPart & { sheet: BoardDetail | undefined; setup: BenchSetup; near: readonly NetId[] }) {
  const { board } = healthy;
  // What the signs say by themselves: nothing that was read or seen on the board is told.
  const evidence = useMemo((): Evidence | null => {
    const all = evidenceOf(job, []);
    return job.signs.some((one) => one.struck === null)
      ? { ...all, readings: [], findings: [] }
      : null;
  }, [job]);
  const { making, dictionary, diagnosis } = useDiagnosis(sheet, setup, evidence, atPlug, near);
  const stops = useDrawStops(sheet, setup, dictionary);
  return (
    <section className="card" aria-label="First signs">
      <h2>First signs</h2>
      <SignForm board={board} source={setup.source ?? ''} onRecord={onRecord} />
      <SignLog board={board} job={job} onRecord={onRecord} />
      {evidence && (
        <Meaning
          healthy={healthy}
          goal={(job.intake?.goal ?? '') as GoalId}
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
  const [phase, setPhase] = useState<PoweredPhase>('standby');
  const [source, setSource] = useState(usual);
  const [volts, setVolts] = useState<number | null>(null);
  const [limitAmps, setLimit] = useState<number | null>(null);
  const [amps, setAmps] = useState<number | null>(null);
  const [shape, setShape] = useState<(typeof shapes)[number]>('steady');
  const [lasted, setLasted] = useState<number | null>(null);
  const [seen, setSeen] = useState<Seen>({});
  const [text, setText] = useState('');
  const [isEmpty, setEmpty] = useState(false);
  const chosen = board.sources.find((one) => one.id === source);
  const keep = (): void => {
    const empty = amps === null && Object.keys(seen).length === 0 && text.trim() === '';
    setEmpty(empty);
    if (empty) return;
    const sign: Sign = {
      type: 'sign',
      phase,
      drawAmps: amps,
      drawShape: amps === null ? null : shape,
      seen,
      source: { id: source, volts: volts ?? chosen?.volts ?? null, limitAmps },
      lastedSeconds: lasted,
      text: text.trim(),
    };
    onRecord(sign);
    setAmps(null);
    setSeen({});
    setLasted(null);
    setText('');
    if (phase === 'standby') setPhase('trying');
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
        <Segmented<PoweredPhase>
          aria-label="When"
          value={phase}
          onChange={setPhase}
          options={Object.entries(phaseText).map(([value, label]) => ({
            value: value as PoweredPhase,
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
      {isEmpty && <Alert type="error" title="Say what it draws, or one thing that was seen." />}
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
              <td>{phaseText[body.phase as PoweredPhase] ?? body.phase}</td>
              <td className="mono">
                {drawAmps === null ? '–' : `${formatAmps(drawAmps)} ${drawShape ?? ''}`}
              </td>
              <td className="quiet">
                {[title, ...set].filter(Boolean).join(', ')}
                {lastedSeconds === null ? '' : `, ${lastedSeconds} s`}
              </td>
              <td>{[...seenTexts(body.seen), body.text].filter(Boolean).join(', ')}</td>
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
  healthy,
  goal,
  diagnosis,
  isWorking,
}: {
  healthy: DoorPart['healthy'];
  goal: GoalId;
  diagnosis: Diagnosis | null;
  isWorking: boolean;
}) {
  const meaning = diagnosis
    ? drawMeaning(healthy.stages, healthy.path(goal), diagnosis.regions)
    : null;
  return (
    <div className="meaning" aria-live="polite">
      <strong>What the signs say on this board: </strong>
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
