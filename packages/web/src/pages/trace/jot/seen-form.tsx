import { Alert, Button, Input, InputNumber, Segmented, Select } from 'antd';
import { useState } from 'react';
import type { EventBody, Seen } from '@jiko/core/record';
import type { JotProps } from './jot-props.ts';

type Sign = Extract<EventBody, { type: 'sign' }>;
const shapes = ['steady', 'pulsing', 'limited', 'rising'] as const;
const nothing: Seen = {};

/** What is seen from outside in the phase the bench strip shows: the draw, lights, fan and so on. */
export function SeenForm({ board, phase, onRecord }: JotProps) {
  const [amps, setAmps] = useState<number | null>(null);
  const [shape, setShape] = useState<Sign['drawShape']>('steady');
  const [seen, setSeen] = useState<Seen>(nothing);
  const [isEmpty, setEmpty] = useState(false);
  const lights = board.parts.filter((part) => part.kind === 'led' && part.fitted);
  const set = (change: Partial<Seen>): void => {
    const next = { ...seen, ...change };
    // Not looked at is not written down.
    setSeen(
      Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as Seen,
    );
  };
  const keep = (): void => {
    const empty = amps === null && Object.keys(seen).length === 0;
    setEmpty(empty);
    if (empty) return;
    onRecord({
      type: 'sign',
      phase,
      drawAmps: amps,
      drawShape: amps === null ? null : shape,
      seen,
      text: '',
    });
    setAmps(null);
    setSeen(nothing);
  };
  const cold = phase === 'cold';
  return (
    <>
      <div className="sign-draw">
        <InputNumber
          style={{ width: '100%' }}
          min={0}
          max={50}
          step={0.01}
          value={amps}
          disabled={cold}
          onChange={setAmps}
          suffix="A"
          placeholder={cold ? 'source off' : `drawn in ${phase}`}
          aria-label="Draw in amps"
          onPressEnter={keep}
        />
        <Select
          value={shape}
          disabled={cold}
          onChange={setShape}
          options={shapes.map((value) => ({ value, label: value }))}
          aria-label="How it draws"
        />
      </div>
      {lights.length > 0 && (
        <Select
          mode="multiple"
          placeholder="Lights that are on"
          aria-label="Lights that are on"
          value={seen.lights ?? []}
          onChange={(on) => set({ lights: on })}
          options={lights.map((one) => ({
            value: one.ref as string,
            label: one.title || one.ref,
          }))}
        />
      )}
      <YesNo label="Fan turns" value={seen.fan} onChange={(fan) => set({ fan })} />
      <YesNo label="Picture" value={seen.picture} onChange={(picture) => set({ picture })} />
      <YesNo
        label="Goes off and on again"
        value={seen.restarts}
        onChange={(restarts) => set({ restarts })}
      />
      <YesNo
        label="Starts when connected"
        value={seen.startsOnConnect}
        onChange={(startsOnConnect) => set({ startsOnConnect })}
      />
      <InputNumber
        min={0}
        max={3600}
        value={seen.offAfterSeconds ?? null}
        onChange={(seconds) => set({ offAfterSeconds: seconds ?? undefined })}
        suffix="s"
        placeholder="off again after"
        aria-label="Seconds until it goes off"
        style={{ width: '100%' }}
      />
      <Select
        showSearch={{ optionFilterProp: 'label' }}
        allowClear
        placeholder="Came at least as far as"
        aria-label="Furthest stage seen"
        value={seen.reached ?? null}
        onChange={(reached) => set({ reached: reached ?? undefined })}
        options={board.stages.map((one) => ({ value: one.id as string, label: one.title }))}
      />
      <Input
        value={seen.beeps ?? ''}
        maxLength={120}
        placeholder="Beeps or blinks (kept for the report)"
        aria-label="Beeps or blinks"
        onChange={(event) => set({ beeps: event.target.value || undefined })}
      />
      <Button onClick={keep}>Keep</Button>
      {isEmpty && <Alert type="error" title="Say at least one thing that was seen." />}
    </>
  );
}

function YesNo({
  label,
  value,
  onChange,
}: {
  label: string;
  value: boolean | undefined;
  onChange: (value: boolean | undefined) => void;
}) {
  return (
    <div className="yes-no">
      <span id={`sign ${label}`}>{label}</span>
      <Segmented
        size="small"
        aria-labelledby={`sign ${label}`}
        value={value === undefined ? '–' : value ? 'yes' : 'no'}
        options={['–', 'no', 'yes']}
        onChange={(chosen) => onChange(chosen === '–' ? undefined : chosen === 'yes')}
      />
    </div>
  );
}
