import { Input, Select } from 'antd';
import { useState } from 'react';
import { chipKinds, chipPins, partKinds, findPartOrChip } from '@jiko/core/board';
import { partOptions } from './part-options.ts';
import { Keep, NetField, type FormProps } from './sheet-fields.tsx';

// Parts and chips of the sheet.

export function PartForm({ board, isSaving, onEdit }: FormProps) {
  const [ref, setRef] = useState('');
  const [kind, setKind] = useState<string>('resistor');
  const [pins, setPins] = useState<(string | null)[]>([null, null, null]);
  const [value, setValue] = useState('');
  const names = threePins[kind] ?? ['one end', 'other end'];
  const chosen = names.map((_, at) => pins[at] ?? null);
  return (
    <>
      <div className="row">
        <Input
          aria-label="Reference"
          value={ref}
          placeholder="R12"
          onChange={(event) => setRef(event.target.value.trim())}
        />
        <Select
          aria-label="Kind"
          value={kind}
          showSearch
          onChange={setKind}
          options={partKinds.map((one) => ({ value: one, label: one }))}
        />
        <Input
          aria-label="Value"
          value={value}
          placeholder="47k"
          onChange={(event) => setValue(event.target.value.trim())}
        />
      </div>
      {names.map((name, at) => (
        <NetField
          key={name}
          board={board}
          label={`Net at ${name}`}
          value={chosen[at] ?? null}
          onChange={(net) => setPins(pins.map((one, place) => (place === at ? net : one)))}
        />
      ))}
      <Keep
        isSaving={isSaving}
        missing={
          ref === ''
            ? 'Type its reference.'
            : chosen.includes(null)
              ? 'Choose the net at each end.'
              : null
        }
        onKeep={() =>
          void onEdit({ do: 'add-part', ref, kind, pins: chosen as string[], value }).then(
            (done) => done && setRef(''),
          )
        }
      />
    </>
  );
}

const threePins: Record<string, string[]> = {
  pfet: ['gate', 'drain', 'source'],
  nfet: ['gate', 'drain', 'source'],
  npn: ['base', 'collector', 'emitter'],
  pnp: ['base', 'collector', 'emitter'],
  diode: ['anode', 'cathode'],
  schottky: ['anode', 'cathode'],
  led: ['anode', 'cathode'],
};

export function ChipForm({ isSaving, onEdit }: FormProps) {
  const [ref, setRef] = useState('');
  const [kind, setKind] = useState<keyof typeof chipPins>('buck');
  const [volts, setVolts] = useState('');
  const [lines, setLines] = useState('');
  const pins = lines
    .split('\n')
    .map((line) => line.trim().split(/[\s,;:]+/))
    .filter((words) => words[0])
    .map((words) => ({
      pin: words.at(-2) ?? '',
      net: words.at(-1) as string,
      ...(words.length > 2 && words[0] ? { number: words[0] } : {}),
      count: words.length,
    }));
  const short = pins.find((one) => one.count < 2);
  return (
    <>
      <div className="row">
        <Input
          aria-label="Reference"
          value={ref}
          placeholder="U7"
          onChange={(event) => setRef(event.target.value.trim())}
        />
        <Select
          aria-label="Kind of chip"
          value={kind}
          showSearch
          onChange={setKind}
          options={chipKinds.map((one) => ({ value: one, label: one }))}
        />
        <Input
          aria-label="Volts it makes"
          value={volts}
          placeholder="1.8 V"
          onChange={(event) => setVolts(event.target.value.trim())}
        />
      </div>
      <Input.TextArea
        aria-label="Pins, one a line"
        autoSize={{ minRows: 4, maxRows: 12 }}
        value={lines}
        placeholder={'5 VIN 5V_ALW\nEN S5_EN\nOUT 1V8_S5\nPG S5_PG\nGND GND'}
        onChange={(event) => setLines(event.target.value)}
      />
      <span className="quiet">
        One pin a line: its number if you have it, its name, its net. {knownPins(kind)}
      </span>
      <Keep
        isSaving={isSaving}
        missing={
          ref === ''
            ? 'Type its reference.'
            : pins.length === 0
              ? 'Type at least one pin.'
              : short
                ? `"${short.net}" has no net beside it: name, then net.`
                : null
        }
        onKeep={() =>
          void onEdit({ do: 'add-chip', ref, kind, title: '', volts: volts || null, pins }).then(
            (done) => {
              if (!done) return;
              setRef('');
              setLines('');
            },
          )
        }
      />
    </>
  );
}

/** The pins a kind knows by their function, as the sheet's format has them. */
const knownPins = (kind: keyof typeof chipPins): string => {
  const { pins } = chipPins[kind];
  return pins.length > 0 ? `Known: ${pins.join(', ')}.` : 'Pins of your own are kept.';
};

export function FittedForm({ board, isSaving, onEdit }: FormProps) {
  const [ref, setRef] = useState<string | null>(null);
  const isFitted = findPartOrChip(board, ref)?.fitted ?? true;
  return (
    <>
      <Select
        aria-label="Part"
        placeholder="Part"
        value={ref}
        showSearch={{ optionFilterProp: 'label' }}
        onChange={setRef}
        options={partOptions(board)}
      />
      {ref && <span className="quiet">{isFitted ? 'drawn as fitted' : 'drawn as not fitted'}</span>}
      <Keep
        isSaving={isSaving}
        missing={ref === null ? 'Choose a part.' : null}
        onKeep={() => void onEdit({ do: 'fitted', ref: ref as string, fitted: !isFitted })}
      />
    </>
  );
}
