import { Button, InputNumber, Select, Upload } from 'antd';
import { useState } from 'react';
import type { Board } from '@jiko/core/board';
import { parseTemperatureCsv } from '@jiko/core/formats';
import { parseEntry, usualMeter } from '@jiko/core/readings';
import type { EventInput, heatWays } from '@jiko/core/record';
import { hotSpots, partsAtSpot, type Hunt, type LiveFeed } from '@jiko/core/short-hunt';
import { cautionText } from '@jiko/core/safety';
import { formatAmps, formatVolts } from '@jiko/core/units';
import { FormLine } from '../../widgets/form-line.tsx';
import { missingToFeed } from './missing-to-feed.ts';

type Record = (...bodies: EventInput[]) => string[];

/** Parts of the rail, the likeliest first. */
const partsOf = (hunt: Hunt): string[] => [
  ...new Set([
    ...hunt.candidates.filter((one) => !one.isNet).map((one) => one.name),
    ...hunt.pads.map((one) => one.ref),
  ]),
];

/** What the supply showed while it fed the rail. */
export function FedForm({
  hunt,
  at,
  onRecord,
}: {
  hunt: Hunt;
  at: string | null;
  onRecord: Record;
}) {
  const { injection } = hunt;
  const [place, setPlace] = useState<string | null>(at);
  const [volts, setVolts] = useState<number | null>(null);
  const [amps, setAmps] = useState<number | null>(null);
  const isHarmful = injection.harms.length > 0;
  const write = (): void => {
    onRecord({
      type: 'fed',
      ...(isHarmful ? { despite: injection.harms.map((harm) => harm.slice(0, 300)) } : {}),
      net: injection.net,
      at: place === null ? null : { part: place, pin: null },
      volts: injection.volts,
      limitAmps: injection.limitAmps,
      drawnVolts: volts,
      drawnAmps: amps,
    });
    setVolts(null);
    setAmps(null);
  };
  const missing = missingToFeed(isHarmful, amps);
  return (
    <FormLine label="Fed" missing={missing} onRecord={write}>
      <Select
        aria-label="Fed at"
        style={{ width: 110 }}
        placeholder="at"
        value={place}
        showSearch
        onChange={setPlace}
        options={partsOf(hunt).map((value) => ({ value, label: value }))}
      />
      <InputNumber
        aria-label="Volts shown"
        placeholder="V shown"
        min={0}
        max={60}
        value={volts}
        onChange={setVolts}
      />
      <InputNumber
        aria-label="Amps shown"
        placeholder="A shown"
        min={0}
        max={50}
        value={amps}
        onChange={setAmps}
      />
      <Button type="primary" disabled={amps === null} danger={isHarmful} onClick={write}>
        {isHarmful ? 'It was done all the same: write it down' : 'Fed'}
      </Button>
    </FormLine>
  );
}

/** What got warm: by eye, or from a grid of degrees laid over the board. */
export function WarmForm({
  board,
  hunt,
  fed,
  onRecord,
}: {
  board: Board;
  hunt: Hunt;
  fed: string;
  onRecord: Record;
}) {
  const [part, setPart] = useState<string | null>(null);
  const [rise, setRise] = useState<number | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [side, setSide] = useState<'top' | 'bottom'>('top');
  const [spots, setSpots] = useState<{ text: string; part: string; rise: number }[]>([]);
  const warm = (body: {
    part: string | null;
    rise: number | null;
    by: (typeof heatWays)[number];
  }): void => {
    onRecord({ type: 'warm', fed, ...body });
    setPart(null);
    setRise(null);
    setSpots([]);
  };
  const take = (text: string): void => {
    const grid = parseTemperatureCsv(text);
    if (!grid.ok) {
      setSpots([]);
      return setTrouble(grid.error);
    }
    const found = hotSpots(grid.value.celsius).flatMap((spot) => {
      const [near] = partsAtSpot(board, side, spot, partsOf(hunt));
      return near
        ? [
            {
              part: near.ref,
              rise: Number(spot.rise.toFixed(1)),
              text: `${near.ref}, ${near.away.toFixed(0)} mm from it: ${spot.celsius.toFixed(1)} °C, ${spot.rise.toFixed(1)} K above the rest`,
            },
          ]
        : [];
    });
    setTrouble(
      found.length > 0
        ? null
        : 'Nothing stands out of this picture by a kelvin, or no part of the rail is on this side.',
    );
    setSpots(found);
  };
  return (
    <FormLine
      label="What got warm"
      missing={part === null ? 'Still missing: the part that got warm.' : null}
      onRecord={() => warm({ part, rise, by: 'camera' })}
    >
      <span className="quiet">Warm:</span>
      <Select
        aria-label="Warm part"
        style={{ width: 120 }}
        placeholder="part"
        value={part}
        showSearch
        onChange={setPart}
        options={partsOf(hunt).map((value) => ({ value, label: value }))}
      />
      <InputNumber
        aria-label="Kelvin above the rest"
        placeholder="K warmer"
        min={0}
        max={500}
        value={rise}
        onChange={setRise}
      />
      <Button disabled={part === null} onClick={() => warm({ part, rise, by: 'camera' })}>
        This one
      </Button>
      <Button
        disabled={part === null}
        title="A spray that does not burn, source off while it is used: frost goes first where it is warm"
        onClick={() => warm({ part, rise: null, by: 'freeze' })}
      >
        Frost went there first
      </Button>
      <Select
        aria-label="Found in another way"
        style={{ width: 170 }}
        placeholder="found otherwise"
        value={null}
        disabled={part === null}
        onChange={(by: (typeof heatWays)[number]) => warm({ part, rise: null, by })}
        options={[
          { value: 'film', label: 'solvent dried there first' },
          { value: 'finger', label: 'by finger' },
        ]}
      />
      <Button onClick={() => warm({ part: null, rise: null, by: 'camera' })}>Nothing seen</Button>
      <span className="grid-in">
        <Select
          aria-label="Side of the picture"
          size="small"
          value={side}
          onChange={setSide}
          options={[
            { value: 'top', label: 'top side' },
            { value: 'bottom', label: 'bottom side' },
          ]}
        />
        <Upload
          accept=".csv,text/csv,text/plain"
          showUploadList={false}
          beforeUpload={(file) => {
            void file.text().then(take, () => setTrouble('This file cannot be read.'));
            return false;
          }}
        >
          <Button size="small" title="A CSV of degrees over the whole side of the board">
            Grid from a camera
          </Button>
        </Upload>
      </span>
      {trouble && <div className="tone-bad">{trouble}</div>}
      {spots.map((one) => (
        <Button
          key={one.text}
          size="small"
          onClick={() => warm({ part: one.part, rise: one.rise, by: 'grid' })}
        >
          {one.text}
        </Button>
      ))}
    </FormLine>
  );
}

/** Millivolts to ground at places along the rail while it is fed. */
export function DropsForm({
  hunt,
  at,
  places,
  onRecord,
}: {
  hunt: Hunt;
  at: string;
  places: readonly string[];
  onRecord: Record;
}) {
  const { injection, log } = hunt;
  const fed = log.fed.findLast((one) => one.at === at);
  const [amps, setAmps] = useState<number | null>(fed?.amps ?? null);
  const [typed, setTyped] = useState<{ [ref: string]: string }>({});
  const values = places.flatMap((part) => {
    const text = typed[part]?.trim() ?? '';
    if (text === '') return [];
    // A bare number is millivolts here.
    const read = parseEntry(/^[-\d.,]+$/.test(text) ? `${text}m` : text, 'volts', usualMeter);
    return read.ok && read.value.kind === 'number' ? [{ part, volts: read.value.value }] : [];
  });
  const isOdd = Object.values(typed).filter((one) => one.trim() !== '').length > values.length;
  const record = (): void => {
    const id =
      fed?.id ??
      onRecord({
        type: 'fed',
        net: injection.net,
        at: { part: at, pin: null },
        volts: injection.volts,
        limitAmps: injection.limitAmps,
        drawnVolts: null,
        drawnAmps: amps,
      })[0];
    if (id)
      onRecord(
        ...values.map(({ part, volts }): EventInput => ({
          type: 'drop',
          fed: id,
          part,
          pin: null,
          volts,
        })),
      );
    setTyped({});
  };
  const missing =
    amps === null
      ? 'Still missing: the amps the supply shows.'
      : isOdd
        ? 'Still missing: millivolts as a number, as 3.4.'
        : values.length < 2
          ? 'Still missing: millivolts at two places or more.'
          : null;
  return (
    <FormLine label="Millivolts" missing={missing} onRecord={record}>
      {!fed && (
        <InputNumber
          aria-label="Amps shown"
          placeholder="A shown"
          min={0}
          max={50}
          value={amps}
          onChange={setAmps}
        />
      )}
      {places.map((part) => (
        <label key={part} className="mv">
          <span className="mono">{part}</span>
          <input
            aria-label={`Millivolts at ${part}`}
            value={typed[part] ?? ''}
            onChange={(event) => setTyped({ ...typed, [part]: event.target.value })}
          />
          mV
        </label>
      ))}
      <Button type="primary" disabled={missing !== null} title={missing ?? ''} onClick={record}>
        Record
      </Button>
      {isOdd && <span className="tone-bad">Millivolts, as 3.4</span>}
    </FormLine>
  );
}

/** What got warm with nothing fed: the board's own source was on. */
export function OwnPowerForm({ hunt, onRecord }: { hunt: Hunt; onRecord: Record }) {
  const [part, setPart] = useState<string | null>(null);
  return (
    <div className="form-line" aria-label="Warm on its own power">
      <span className="quiet">Got warm with its own source on:</span>
      <Select
        aria-label="Warm part on its own power"
        style={{ width: 120 }}
        placeholder="part"
        value={part}
        showSearch
        onChange={setPart}
        options={partsOf(hunt).map((value) => ({ value, label: value }))}
      />
      <Button
        disabled={part === null}
        onClick={() => {
          onRecord({ type: 'warm', fed: null, part, rise: null, by: 'own-power' });
          setPart(null);
        }}
      >
        Write down
      </Button>
    </div>
  );
}

/** A missing rail fed while the board is on: a test of its own, where its play harms nothing. */
export function LiveFeedForm({
  hunt,
  live,
  onRecord,
}: {
  hunt: Hunt;
  live: LiveFeed;
  onRecord: Record;
}) {
  const [amps, setAmps] = useState<number | null>(null);
  if (live.harms.length > 0)
    return (
      <p className="quiet">
        Feeding {hunt.net} while the board is on: not now. {live.harms.join(' ')}
      </p>
    );
  const write = (): void => {
    onRecord({
      type: 'fed',
      net: hunt.net,
      at: hunt.feedAt === null ? null : { part: hunt.feedAt, pin: null },
      volts: live.volts,
      limitAmps: live.limitAmps,
      drawnVolts: null,
      drawnAmps: amps,
      live: true,
    });
    setAmps(null);
  };
  return (
    <FormLine
      label="Fed while the board is on"
      missing={amps === null ? 'Still missing: the amps the supply shows.' : null}
      onRecord={write}
    >
      <span>
        Fed while the board is on, {formatVolts(live.volts)} limited to {formatAmps(live.limitAmps)}
        : what then comes up was only waiting for {hunt.net}. At its limit: something on it is low.
      </span>
      <div className="caution-line" role="note">
        <strong>Caution. </strong>
        {cautionText('feed-live')}
      </div>
      <InputNumber
        aria-label="Amps shown, board on"
        placeholder="A shown"
        min={0}
        max={50}
        value={amps}
        onChange={setAmps}
      />
      <Button disabled={amps === null} onClick={write}>
        Write down
      </Button>
    </FormLine>
  );
}
