import { Button, Segmented, Select } from 'antd';
import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import type { Board, NetId } from '@jiko/core/board';
import type { NextStep } from '@jiko/core/diagnosis';
import { loadingText, modes, type Expectation, type Mode, type Phase } from '@jiko/core/readings';
import { boardNames } from '@jiko/core/schematic';
import { hintsFor } from '@jiko/core/words';
import { Expected } from '../../widgets/expected.tsx';
import { useFiguresShown } from './figures-shown.ts';
import { useFocusFor } from './focus.ts';
import { commandOf, type Command } from './keys.ts';
import type { PinPlace } from './page-state.ts';

export const modeText: Record<Mode, string> = {
  volts: 'V',
  diode: 'Diode',
  ohms: 'Ω',
  amps: 'A',
  celsius: '°C',
  seconds: 's',
};

export interface ProbeView {
  net: NetId;
  /** A pin of its own; null: the usual place of the net. */
  pin: PinPlace | null;
  /** What the black lead stands on; null for ground. */
  reference: NetId | null;
  title: string;
  place: string;
  side: string;
  /** What is to be done, in one short sentence. */
  order: string;
  why: string;
  /** What it could read, most likely first, and what would then stand. */
  outcomes?: string[];
  mode: Mode;
  phase: Phase;
  expectation: Expectation;
  /** Proposed by Jiko, or picked by the technician. */
  own: boolean;
}

/** The probe to make now, with the one entry line. Enter records and moves on. */
export function ProbeCard({
  board,
  probe,
  step,
  text,
  echo,
  isWeighing,
  onText,
  onSearch,
  onPick,
  onNewPoint,
  onMode,
  onReference,
  onCommand,
}: {
  board: Board;
  probe: ProbeView;
  /** What proposes it, where it is proposed. */
  step: NextStep['kind'];
  text: string;
  echo: { kind: 'trouble' | 'understood' | 'recorded' | 'hint'; text: string };
  /** The last reading is still being weighed: another point may be proposed in a moment. */
  isWeighing: boolean;
  onText: (text: string) => void;
  /** Another point is being searched for, or no more. */
  onSearch: (is: boolean) => void;
  onPick: (net: NetId, pin: ProbeView['pin']) => void;
  /** A point of one's own, by where it is. */
  onNewPoint: (title: string) => void;
  onMode: (mode: Mode) => void;
  onReference: (net: NetId | null) => void;
  /** A key of the line that asks for more than the card can do itself. */
  onCommand: (command: Command) => void;
}) {
  const entry = useRef<HTMLInputElement>(null);
  const picker = useRef<{ focus: () => void }>(null);
  /** A point of one's own that was named, and is asked about before it is made. */
  const [fresh, setFresh] = useState<string | null>(null);
  /** The same for what comes with the move of the focus: the card is not taken away while it asks. */
  const isAsking = useRef(false);
  const ask = (title: string | null): void => {
    isAsking.current = title !== null;
    setFresh(title);
    onSearch(title !== null);
  };
  const lead = useRef<{ focus: () => void }>(null);
  const [figures, showFigures] = useFiguresShown('outcomes');
  useFocusFor(entry, `${probe.net} ${probe.mode}`);

  const keys = (event: KeyboardEvent<HTMLInputElement>): void => {
    const command = commandOf(event, text);
    if (!command) return;
    event.preventDefault();
    if (command === 'any-point') picker.current?.focus();
    else if (command === 'black-lead') lead.current?.focus();
    else onCommand(command);
  };

  /** Back from a list to the line, once the list has closed. */
  const thenWrite = (): void => void requestAnimationFrame(() => entry.current?.focus());

  const loaded = loadingText(probe.expectation);
  return (
    <div
      className={`probe${probe.own ? ' is-own' : ''}`}
      data-net={probe.net}
      data-reference={probe.reference ?? ''}
      data-phase={probe.phase}
      data-mode={probe.mode}
      data-proposed={probe.own ? '' : step}
    >
      <div className="probe-head">
        <div>
          <p className="order">{probe.order}</p>
          <div className="why">
            {probe.own ? 'Your own choice of point' : probe.why}
            {isWeighing && <span className="quiet"> · still weighing the last reading</span>}
          </div>
        </div>
        {probe.own && (
          <Button size="small" onClick={() => onCommand('back')}>
            Back to the proposal (Esc)
          </Button>
        )}
      </div>
      <h1 className="net" title={hintsFor(probe.net).join('\n') || undefined}>
        {probe.net}
        {probe.pin && (
          <small>
            {' '}
            at {probe.pin.pin === null ? probe.pin.part : `${probe.pin.part}.${probe.pin.pin}`}
          </small>
        )}
        {probe.reference && <small> against {probe.reference}</small>}
      </h1>
      <div className="where">
        at <strong>{probe.place}</strong>
        {probe.side && <span className="quiet"> · {probe.side} side</span>}
        {probe.title && probe.title !== probe.place && (
          <span className="quiet"> · {probe.title}</span>
        )}
      </div>
      <div className="expect">
        <Expected of={probe.expectation} />
        <span className="quiet">{probe.phase === 'run' ? 'after the press' : probe.phase}</span>
        {loaded && <span className="quiet">{loaded}</span>}
      </div>
      {probe.outcomes && (
        <details
          className="outcomes"
          open={figures}
          onToggle={({ currentTarget }) => showFigures(currentTarget.open)}
        >
          <summary>What it could mean</summary>
          <ul aria-label="What it could mean">
            {probe.outcomes.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </details>
      )}
      <div className="entry">
        <input
          ref={entry}
          aria-label={`Reading at ${probe.net}${probe.reference ? ` against ${probe.reference}` : ''}`}
          value={text}
          autoComplete="off"
          spellCheck={false}
          inputMode="text"
          placeholder={placeholders[probe.mode]}
          onChange={(event) => onText(event.target.value)}
          onKeyDown={keys}
        />
        <Segmented<Mode>
          aria-label="Mode"
          value={probe.mode}
          onChange={onMode}
          options={modes
            .filter((one) => one !== 'seconds')
            .map((one) => ({ value: one, label: modeText[one] }))}
        />
      </div>
      <div className="echo" aria-live="polite">
        {echo.kind === 'trouble' ? (
          <span className="trouble">{echo.text}</span>
        ) : echo.kind === 'understood' ? (
          <span>
            <span className="quiet">Enter records </span>
            <span className="understood">{echo.text}</span>
          </span>
        ) : (
          <span className={echo.kind === 'hint' ? 'quiet' : ''}>{echo.text}</span>
        )}
      </div>
      {fresh !== null && (
        <div className="new-point" role="alertdialog" aria-label="A point of your own">
          The sheet has no “{fresh}”. Make a point of your own of it?{' '}
          <Button
            size="small"
            type="primary"
            autoFocus
            onClick={() => {
              ask(null);
              onNewPoint(fresh);
              thenWrite();
            }}
          >
            Make it
          </Button>{' '}
          <Button
            size="small"
            onClick={() => {
              ask(null);
              thenWrite();
            }}
          >
            No
          </Button>
        </div>
      )}
      <div
        className="points"
        onFocus={() => onSearch(true)}
        onBlur={({ currentTarget, relatedTarget }) => {
          if (!isAsking.current && !currentTarget.contains(relatedTarget)) onSearch(false);
        }}
      >
        <label>
          <span className="quiet">Another point </span>
          <NetSelect
            board={board}
            focusBy={picker}
            value={null}
            placeholder="net, pin or new point ( / )"
            withPins
            onNew={ask}
            onChange={(net, pin) => {
              if (net) onPick(net, pin);
              thenWrite();
            }}
          />
        </label>
        <label className="against">
          <span className="quiet">black lead on </span>
          <NetSelect
            board={board}
            value={probe.reference}
            placeholder="ground"
            focusBy={lead}
            onChange={(net) => {
              onReference(net);
              thenWrite();
            }}
          />
        </label>
      </div>
    </div>
  );
}

function NetSelect({
  board,
  value,
  placeholder,
  focusBy,
  withPins = false,
  onNew,
  onChange,
}: {
  board: Board;
  value: NetId | null;
  placeholder: string;
  /** Whether pins stand behind the nets, as PART.PIN. */
  withPins?: boolean;
  focusBy?: React.RefObject<{ focus: () => void } | null>;
  /** What is typed may be where a point of one's own is. */
  onNew?: (title: string) => void;
  onChange: (net: NetId | null, pin: ProbeView['pin']) => void;
}) {
  const pins = useMemo(() => (withPins ? pinOptions(board) : []), [board, withPins]);
  const [typed, setTyped] = useState('');
  const names = useMemo(() => boardNames(board), [board]);
  // As the schematic is searched, where nothing is written so: `pltrst_n` finds PLTRST#.
  const wanted = typed.trim().toUpperCase();
  const isWritten = board.nets.some(({ id, aliases }) =>
    [id, ...aliases].some((name) => name.toUpperCase().includes(wanted)),
  );
  const meant = wanted === '' || isWritten ? null : names.meant(typed.trim());
  const meantNet = meant?.kind === 'net' ? (meant.net as string) : null;
  const rank = (value: unknown): number => (value === newPoint ? 2 : value === meantNet ? 0 : 1);
  return (
    <Select<string>
      {...(focusBy ? { ref: focusBy as never } : {})}
      size="small"
      style={{ width: 165 }}
      popupMatchSelectWidth={320}
      placeholder={placeholder}
      value={value}
      allowClear
      showSearch={{
        onSearch: setTyped,
        filterOption: (text, option) =>
          option?.['value'] === newPoint ||
          option?.['value'] === meantNet ||
          String(option?.['search'] ?? '').includes(text.toUpperCase()),
        filterSort: (a, b) => rank(a['value']) - rank(b['value']),
      }}
      onChange={(chosen: string | undefined) => {
        setTyped('');
        if (chosen === newPoint) return onNew?.(typed.trim());
        const pin = pins.find((one) => one.value === chosen);
        onChange(pin ? pin.net : ((chosen ?? null) as NetId | null), pin?.at ?? null);
      }}
      options={[
        ...board.nets
          .filter((net) => net.kind !== 'ground')
          .map((net) => ({
            value: net.id as string,
            label: net.title ? `${net.id}: ${net.title}` : net.id,
            search: [net.id, ...net.aliases, net.title].join(' ').toUpperCase(),
          })),
        ...pins,
        ...(onNew && typed.trim().length > 1
          ? [{ value: newPoint, label: `A point of your own: ${typed.trim()}`, search: '' }]
          : []),
      ]}
    />
  );
}

/** Stands in the list for a point that is not in it yet. */
const newPoint = 'new point';

/** Every pin of what is fitted: a pin, its pad and its net may read differently. */
function pinOptions(board: Board) {
  const isProbed = (net: NetId): boolean => net !== board.ground;
  const pinsOf = [
    ...board.parts
      .filter((part) => part.fitted)
      .map(({ ref, pins }) => ({ ref, pins: pins.map(({ name, net }) => [name, net] as const) })),
    ...board.chips.filter((chip) => chip.fitted).map(({ ref, pins }) => ({ ref, pins: [...pins] })),
  ];
  const points = board.points.map(({ id, net, title }) => ({
    value: `point ${id}`,
    label: `${id}${title ? `: ${title}` : ''} on ${net}`,
    search: `${id} ${title}`.toUpperCase(),
    net,
    at: { part: id, pin: null } as PinPlace,
  }));
  const all = pinsOf.flatMap(({ ref, pins }) =>
    pins
      .filter(([, net]) => isProbed(net))
      .map(([pin, net]) => ({
        value: `pin ${ref}.${pin}`,
        label: `${ref}.${pin} on ${net}`,
        search: `${ref}.${pin}`.toUpperCase(),
        net,
        at: { part: ref as string, pin } as PinPlace,
      })),
  );
  return [...points, ...all];
}

const placeholders: Record<Mode, string> = {
  volts: '3.29',
  diode: '412 or OL',
  ohms: '2k2, OL or beep',
  amps: '0.35',
  celsius: '41',
  seconds: '3',
};
