import { Input, InputNumber, Segmented, Select } from 'antd';
import type { Board } from '@jiko/core/board';
import type { Seen } from '@jiko/core/record';
import './seen-fields.css';
import { Several } from './several.tsx';

/** What is seen from outside beside the draw; what is left alone was not looked at. */
export function SeenFields({
  board,
  seen,
  onSeen,
}: {
  board: Board;
  seen: Seen;
  onSeen: (seen: Seen) => void;
}) {
  const lights = board.parts.filter((part) => part.kind === 'led' && part.fitted);
  const set = (change: Partial<Seen>): void => {
    const next = { ...seen, ...change };
    // Not looked at is not written down.
    onSeen(
      Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as Seen,
    );
  };
  return (
    <>
      {lights.length > 0 && (
        <Several
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
        label="Faint picture, no light"
        value={seen.faintPicture}
        onChange={(faintPicture) => set({ faintPicture })}
      />
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
      <YesNo
        label="Something changes after the press"
        value={seen.answers}
        onChange={(answers) => set({ answers })}
      />
      <YesNo
        label="Goes off by itself"
        value={seen.goesOff ?? (seen.offAfterSeconds === undefined ? undefined : true)}
        onChange={(goesOff) => set({ goesOff, offAfterSeconds: undefined })}
      />
      <InputNumber
        min={0}
        max={3600}
        value={seen.offAfterSeconds ?? null}
        onChange={(seconds) => set({ offAfterSeconds: seconds ?? undefined, goesOff: undefined })}
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
        placeholder="Beeps, blinks or a code"
        aria-label="Beeps or blinks"
        onChange={(event) => set({ beeps: event.target.value || undefined })}
      />
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
