import { Button, Input, Select } from 'antd';
import { useState } from 'react';
import type { SheetEdit } from '@jiko/core/sheet-edit';
import { feedOf } from '@jiko/core/sheet-edit';
import { Keep, NetField, type FormProps } from './sheet-fields.tsx';

// Nets of the sheet: their volts, what feeds and enables them, new ones, names, points that are not they.

export function VoltsForm({ board, isSaving, onEdit }: FormProps) {
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

export function FeedForm({ board, isSaving, onEdit }: FormProps) {
  const [net, setNet] = useState<string | null>(null);
  const [feed, setFeed] = useState<string | null>(null);
  const [enable, setEnable] = useState<string | null>(null);
  const [powerGood, setPowerGood] = useState<string | null>(null);
  /** Begins with what the sheet says of it now: what is not touched stays. */
  const choose = (id: string | null): void => {
    const said = feedOf(board, id);
    setNet(id);
    setFeed(said.feed);
    setEnable(said.enable);
    setPowerGood(said.powerGood);
  };
  return (
    <>
      <NetField board={board} label="Net" value={net} onChange={choose} />
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
          })
        }
      />
    </>
  );
}

export function NetForm({ isSaving, onEdit }: FormProps) {
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

export function NameForm({ board, isSaving, onEdit }: FormProps) {
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

export function SplitForm({ board, isSaving, onEdit }: FormProps) {
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
