import { Alert, Button, Checkbox, Input, Select } from 'antd';
import { useState } from 'react';
import type { Board } from '@jiko/core/board';
import {
  actionText,
  besideText,
  partOrigins,
  repairActions,
  slipKinds,
  type EventInput,
  type Job,
} from '@jiko/core/record';
import { markingTrouble, replacementFor } from '@jiko/core/repair';
import { cautionText } from '@jiko/core/safety';
import { dateText } from '../../data/dates.ts';
import { Firmware, KeptFirmware } from './firmware.tsx';
import { FromShelf } from './from-shelf.tsx';
import { BesideSelect, type Beside } from '../../widgets/beside-select.tsx';
import { Several } from '../../widgets/several.tsx';

type Action = (typeof repairActions)[number];
const originText: Record<(typeof partOrigins)[number], string> = {
  new: 'new',
  donor: 'from a donor board',
  'same-board': 'its own, put back',
  'not-known': 'not known',
};
const slipText: Record<(typeof slipKinds)[number], string> = {
  'bridged-pads': 'probe bridged two pads',
  'burnt-part': 'a part burnt',
  'lifted-pad': 'a pad came off',
  'lost-part': 'a part got lost',
  other: 'something else',
};

const partsOf = (board: Board): { value: string; label: string }[] => [
  ...board.parts
    .filter((one) => !one.isGuess)
    .map((one) => ({
      value: one.ref as string,
      label: `${one.ref} · ${one.title || one.kind} ${one.valueText}`,
    })),
  ...board.chips
    .filter((one) => !one.virtual)
    .map((one) => ({ value: one.ref as string, label: `${one.ref} · ${one.title}` })),
];

/** What is done on the board, with its caution before it and the part that is fitted. */
export function RepairLog({
  id,
  board,
  job,
  onRecord,
}: {
  id: string;
  board: Board;
  job: Job;
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const [action, setAction] = useState<Action>('replaced');
  const [parts, setParts] = useState<string[]>([]);
  const [beside, setBeside] = useState<Beside>('coin-cell');
  const [marking, setMarking] = useState('');
  const [from, setFrom] = useState<(typeof partOrigins)[number] | null>(null);
  const [measured, setMeasured] = useState(false);
  const [text, setText] = useState('');
  const [said, say] = useState<string | null>(null);
  const options = partsOf(board);
  const isFitted = action === 'replaced' || action === 'refitted';
  const wants =
    action === 'replaced' ? parts.flatMap((ref) => replacementFor(board, ref) ?? []) : [];
  const odd = isFitted ? parts.flatMap((ref) => markingTrouble(board, ref, marking) ?? []) : [];
  const isBeside = action === 'beside';
  const keep = (): void => {
    if (!isBeside && parts.length === 0 && text.trim() === '')
      return say('Name the part, or say what was done.');
    onRecord({
      type: 'repair',
      action,
      parts: isBeside ? [] : parts,
      text: text.trim(),
      ...(isBeside ? { beside } : {}),
      ...(isFitted && marking.trim() ? { marking: marking.trim() } : {}),
      ...(isFitted && from ? { from } : {}),
      ...(isFitted && measured ? { measured } : {}),
    });
    setParts([]);
    setMarking('');
    setFrom(null);
    setMeasured(false);
    setText('');
    say(null);
  };
  const done = job.repairs.filter((one) => one.struck === null);
  return (
    <section className="card" aria-label="Repair log">
      <h2>What is done on the board</h2>
      <div className="log-line">
        <Select<Action>
          aria-label="What was done"
          style={{ width: 165 }}
          value={action}
          onChange={setAction}
          options={repairActions.map((one) => ({ value: one, label: actionText(one) }))}
        />
        {isBeside ? (
          <BesideSelect value={beside} onChange={setBeside} />
        ) : (
          <Several
            aria-label="Parts"
            placeholder="Parts"
            style={{ minWidth: 220, flex: 1 }}
            value={parts}
            onChange={setParts}
            showSearch={{ optionFilterProp: 'label' }}
            options={options}
          />
        )}
        {isFitted && (
          <>
            <Input
              aria-label="Marking of the new part"
              placeholder="marking"
              style={{ width: 120 }}
              maxLength={60}
              value={marking}
              onChange={(event) => setMarking(event.target.value)}
            />
            <Select
              aria-label="Where it came from"
              placeholder="from"
              style={{ width: 150 }}
              value={from}
              onChange={setFrom}
              options={partOrigins.map((one) => ({ value: one, label: originText[one] }))}
            />
            <Checkbox checked={measured} onChange={(event) => setMeasured(event.target.checked)}>
              measured before
            </Checkbox>
          </>
        )}
        <Input
          aria-label="In your own words"
          placeholder="in your own words"
          style={{ minWidth: 160, flex: 1 }}
          maxLength={1000}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onPressEnter={keep}
        />
        <Button type="primary" onClick={keep}>
          Write down
        </Button>
      </div>
      {said && <Alert type="error" title={said} />}
      <div className="caution-line" role="note">
        <strong>Caution. </strong>
        {cautionText(action)}
      </div>
      {odd.map((one) => (
        <p key={one} className="tone-bad" role="alert">
          {one}
        </p>
      ))}
      {wants.map((one) => (
        <p key={one.ref} className="wants">
          <strong>What another {one.ref} has to match: </strong>
          {one.wants.join(' ')}
        </p>
      ))}
      {action === 'replaced' &&
        parts.map((part) => (
          <FromShelf
            key={part}
            board={board}
            part={part}
            onTake={(taken) => {
              if (taken.marking) setMarking(taken.marking);
              setFrom(taken.isDonor ? 'donor' : 'new');
              setText(taken.text);
            }}
          />
        ))}
      {from === 'donor' && !measured && (
        <p className="tone-warn">A spare is measured before it is fitted.</p>
      )}
      {action === 'reprogrammed' && <Firmware job={id} board={board} onRecord={onRecord} />}
      <Slip options={options} onRecord={onRecord} />
      <KeptFirmware job={job} onRecord={onRecord} />
      {done.length > 0 && (
        <ul className="done-list">
          {done.map((one) => (
            <li key={one.id}>
              <span className="mono">{one.body.parts.join(', ')}</span>{' '}
              {one.body.beside
                ? `${besideText[one.body.beside]} (not on the board)`
                : actionText(one.body.action)}
              {one.body.text && `: ${one.body.text}`}{' '}
              <span className="quiet">
                {[one.body.marking, one.body.from && originText[one.body.from]]
                  .filter(Boolean)
                  .join(', ')}{' '}
                {one.who}, {dateText(one.at, 'entry')}
              </span>{' '}
              <button
                type="button"
                className="strike"
                onClick={() => onRecord({ type: 'strike', event: one.id, reason: 'not done' })}
              >
                strike out
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** A slip of the hand in one line: it reopens suspicion about what is near. */
function Slip({
  options,
  onRecord,
}: {
  options: { value: string; label: string }[];
  onRecord: (...bodies: EventInput[]) => string[];
}) {
  const [isOpen, setOpen] = useState(false);
  const [what, setWhat] = useState<(typeof slipKinds)[number]>('bridged-pads');
  const [parts, setParts] = useState<string[]>([]);
  if (!isOpen)
    return (
      <button type="button" className="strike" onClick={() => setOpen(true)}>
        A slip happened
      </button>
    );
  return (
    <div className="log-line" aria-label="Slip">
      <Select
        aria-label="What slipped"
        style={{ width: 210 }}
        value={what}
        onChange={setWhat}
        options={slipKinds.map((one) => ({ value: one, label: slipText[one] }))}
      />
      <Several
        aria-label="At which parts"
        placeholder="at which parts"
        style={{ minWidth: 200 }}
        value={parts}
        onChange={setParts}
        showSearch={{ optionFilterProp: 'label' }}
        options={options}
      />
      <Button
        onClick={() => {
          onRecord({ type: 'slip', what, parts, text: '' });
          setParts([]);
          setOpen(false);
        }}
      >
        Write it down
      </Button>
    </div>
  );
}
