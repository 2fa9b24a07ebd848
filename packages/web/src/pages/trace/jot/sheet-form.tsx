import { Alert, Button, Input, Select } from 'antd';
import { useState, type ReactNode } from 'react';
import { chipKinds, partKinds, type Board } from '@jiko/core/board';
import type { SheetEdit } from '@jiko/core/sheet-edit';
import type { JotProps } from './jot-props.ts';
import { partOptions } from './part-options.ts';

const kinds = {
  volts: 'give a net its volts',
  feed: 'what feeds or enables a net',
  part: 'a part between two nets',
  chip: 'a chip by its pins',
  net: 'a net',
  name: 'rename a net, or another name',
  fitted: 'a part is not fitted',
  split: 'a point is not this net',
} as const;
type Kind = keyof typeof kinds;

/** The sheet grows where the work is: each entry is a new version of it. */
export function SheetForm({ board, editing }: JotProps) {
  const [kind, setKind] = useState<Kind>('volts');
  const Form = forms[kind];
  return (
    <>
      <Select<Kind>
        aria-label="What to put in the sheet"
        value={kind}
        onChange={setKind}
        options={Object.entries(kinds).map(([value, label]) => ({ value: value as Kind, label }))}
      />
      <Form
        key={kind}
        board={board}
        isSaving={editing.isSaving}
        onEdit={async (edit) => (await editing.edit(edit)) !== null}
      />
      {editing.trouble && <Alert type="error" showIcon title={editing.trouble} />}
      {editing.last && (
        <p className="quiet">
          {editing.last.words}.{' '}
          <Button size="small" onClick={() => void editing.last?.undo()}>
            Undo
          </Button>
        </p>
      )}
    </>
  );
}

interface FormProps {
  board: Board;
  isSaving: boolean;
  /** False: it was not done, what is typed stays. */
  onEdit: (edit: SheetEdit) => Promise<boolean>;
}

function NetField({
  board,
  label,
  value,
  onChange,
  clearable = false,
}: {
  board: Board;
  label: string;
  value: string | null;
  onChange: (net: string | null) => void;
  clearable?: boolean;
}) {
  return (
    <Select<string>
      aria-label={label}
      placeholder={label}
      value={value}
      allowClear={clearable}
      showSearch={{ optionFilterProp: 'label' }}
      onChange={(net: string | undefined) => onChange(net ?? null)}
      options={board.nets.map((net) => ({
        value: net.id as string,
        label: [net.id, ...net.aliases, net.title].filter(Boolean).join(' · '),
      }))}
    />
  );
}

/** The button of a form, which says what is still missing instead of doing nothing. */
function Keep({
  isSaving,
  missing,
  onKeep,
}: {
  isSaving: boolean;
  missing: string | null;
  onKeep: () => void;
}) {
  const [isAsked, setAsked] = useState(false);
  return (
    <>
      <Button
        loading={isSaving}
        onClick={() => {
          setAsked(missing !== null);
          if (missing === null) onKeep();
        }}
      >
        Put it in the sheet
      </Button>
      {isAsked && missing && <Alert type="error" title={missing} />}
    </>
  );
}

function VoltsForm({ board, isSaving, onEdit }: FormProps) {
  const [net, setNet] = useState<string | null>(null);
  const [volts, setVolts] = useState('');
  const [low, high] = volts.split(/\s*(?:to|\.\.|–)\s*/);
  const missing = !net ? 'Choose a net.' : volts.trim() === '' ? 'Type its volts.' : null;
  return (
    <>
      <NetField board={board} label="Net" value={net} onChange={setNet} />
      <Input
        aria-label="Volts"
        value={volts}
        placeholder="1.8, or 0.6 to 1.2"
        onChange={(event) => setVolts(event.target.value)}
      />
      <Keep
        isSaving={isSaving}
        missing={missing}
        onKeep={() =>
          void onEdit({
            do: 'set-net',
            net: net as string,
            kind: 'rail',
            origin: 'known-good',
            ...(high ? { range: [low as string, high] } : { volts: volts.trim() }),
          }).then((done) => done && setVolts(''))
        }
      />
    </>
  );
}

function FeedForm({ board, isSaving, onEdit }: FormProps) {
  const [net, setNet] = useState<string | null>(null);
  const [feed, setFeed] = useState<string | null>(null);
  const [enable, setEnable] = useState<string | null>(null);
  const [powerGood, setPowerGood] = useState<string | null>(null);
  return (
    <>
      <NetField board={board} label="Net" value={net} onChange={setNet} />
      <NetField board={board} label="Fed from" value={feed} onChange={setFeed} />
      <NetField
        board={board}
        label="Let on by (nothing: at once)"
        value={enable}
        onChange={setEnable}
        clearable
      />
      <NetField
        board={board}
        label="Says so on (power-good)"
        value={powerGood}
        onChange={setPowerGood}
        clearable
      />
      <Keep
        isSaving={isSaving}
        missing={!net ? 'Choose a net.' : !feed ? 'Choose what feeds it.' : null}
        onKeep={() =>
          void onEdit({
            do: 'feed',
            net: net as string,
            feed: feed as string,
            enable,
            powerGood,
            after: [],
          })
        }
      />
    </>
  );
}

function PartForm({ board, isSaving, onEdit }: FormProps) {
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

function ChipForm({ isSaving, onEdit }: FormProps) {
  const [ref, setRef] = useState('');
  const [kind, setKind] = useState<string>('buck');
  const [volts, setVolts] = useState('');
  const [lines, setLines] = useState('');
  const pins = lines
    .split('\n')
    .map((line) => line.trim().split(/[\s,;:]+/))
    .filter((words) => words[0])
    .map((words) => ({
      pin: words.at(-2) ?? '',
      net: words.at(-1) as string,
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
        placeholder={'VIN 5V_ALW\nEN S5_EN\nOUT 1V8_S5\nPG S5_PG\nGND GND'}
        onChange={(event) => setLines(event.target.value)}
      />
      <span className="quiet">
        One pin a line: its name, then its net. {knownPins[kind] ?? 'Pins of your own are kept.'}
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

const converterPins = 'Known: VIN, OUT, EN, VCC, PG, SW with SENSE, GND.';
const knownPins: Record<string, string> = {
  buck: converterPins,
  boost: converterPins,
  ldo: converterPins,
  loadswitch: 'Known: VIN, OUT, EN, PG, GND.',
  'cpu-regulator': converterPins,
  supervisor: 'Known: VCC, SENSE, RESET#.',
  detector: 'Known: VCC, SENSE, OUT.',
};

function NetForm({ isSaving, onEdit }: FormProps) {
  const [net, setNet] = useState('');
  const [volts, setVolts] = useState('');
  const [title, setTitle] = useState('');
  return (
    <>
      <Input
        aria-label="Name of the net"
        value={net}
        placeholder="1V8_IO"
        onChange={(event) => setNet(event.target.value.trim())}
      />
      <Input
        aria-label="Volts, for a rail"
        value={volts}
        placeholder="1.8; empty for a signal"
        onChange={(event) => setVolts(event.target.value.trim())}
      />
      <Input
        aria-label="What it is"
        value={title}
        placeholder="what it is"
        onChange={(event) => setTitle(event.target.value)}
      />
      <Keep
        isSaving={isSaving}
        missing={net === '' ? 'Type its name.' : null}
        onKeep={() =>
          void onEdit({
            do: 'add-net',
            net,
            kind: volts ? 'rail' : 'signal',
            volts: volts || null,
            title: title.trim(),
          }).then((done) => done && setNet(''))
        }
      />
    </>
  );
}

function NameForm({ board, isSaving, onEdit }: FormProps) {
  const [net, setNet] = useState<string | null>(null);
  const [name, setName] = useState('');
  const missing = !net ? 'Choose a net.' : name === '' ? 'Type the name.' : null;
  const keep = (edit: SheetEdit): void => void onEdit(edit).then((done) => done && setName(''));
  return (
    <>
      <NetField board={board} label="Net" value={net} onChange={setNet} />
      <Input
        aria-label="Name"
        value={name}
        placeholder="+3VALW"
        onChange={(event) => setName(event.target.value.trim())}
      />
      <Keep
        isSaving={isSaving}
        missing={missing}
        onKeep={() => keep({ do: 'rename-net', net: net as string, to: name })}
      />
      <Button
        disabled={missing !== null}
        loading={isSaving}
        onClick={() => keep({ do: 'alias', net: net as string, alias: name })}
      >
        Only another name of it
      </Button>
    </>
  );
}

function FittedForm({ board, isSaving, onEdit }: FormProps) {
  const [ref, setRef] = useState<string | null>(null);
  const isFitted = [...board.parts, ...board.chips].find((one) => one.ref === ref)?.fitted ?? true;
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

function SplitForm({ board, isSaving, onEdit }: FormProps) {
  const [point, setPoint] = useState<string | null>(null);
  const joined = board.points.filter(
    (one) => !board.nets.some((net) => net.id === one.net && net.isUnnamed),
  );
  return (
    <>
      <Select
        aria-label="Point"
        placeholder={joined.length > 0 ? 'Point' : 'no point is joined to a net'}
        value={point}
        onChange={setPoint}
        options={joined.map((one) => ({
          value: one.id,
          label: `${one.id} on ${one.net}${one.title ? `: ${one.title}` : ''}`,
        }))}
      />
      <Keep
        isSaving={isSaving}
        missing={point === null ? 'Choose a point.' : null}
        onKeep={() => void onEdit({ do: 'split', point: point as string })}
      />
    </>
  );
}

const forms: Record<Kind, (props: FormProps) => ReactNode> = {
  volts: VoltsForm,
  feed: FeedForm,
  part: PartForm,
  chip: ChipForm,
  net: NetForm,
  name: NameForm,
  fitted: FittedForm,
  split: SplitForm,
};
