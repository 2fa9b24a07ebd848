import { Checkbox, Segmented, Select } from 'antd';
import { useEffect, useEffectEvent, useState } from 'react';
import type { Board } from '@jiko/core/board';
import { phases, type Phase } from '@jiko/core/readings';
import { cautionText } from '@jiko/core/safety';
import type { BenchState } from '../data/bench-state.ts';
import { CoolerWatch } from './cooler-watch.tsx';
import { PluggedLine, underPowerText, type Plugged } from './plugged.tsx';
import './bench-strip.css';

const phaseText: Record<Phase, { label: string; title: string }> = {
  cold: { label: 'Cold', title: 'Nothing connected, battery out (G3).' },
  standby: { label: 'Standby', title: 'Source on, settled, button not pressed (S5).' },
  pressed: {
    label: 'Pressed',
    title: 'Button held down. Where the press changes nothing, Run says it better.',
  },
  trying: {
    label: 'Trying',
    title: 'Pressed, and it goes off again by itself: read in the seconds before.',
  },
  run: {
    label: 'Run',
    title: 'Pressed and let go: as it stands then, whether it runs (S0) or nothing changed.',
  },
};

/** Something that may be a processor hangs on a rail of this board: all but those that say they have none. */
const mayHaveProcessor = ({ chips, nets, depth }: Board): boolean =>
  depth === 'rails' ||
  chips.some((chip) => chip.kind === 'cpu-regulator' || chip.kind === 'chipset') ||
  nets.some((net) => net.kind === 'rail' && net.rangeVolts !== null);

export function BenchStrip({
  board,
  state,
  onChange,
  onNote,
  onKeys,
}: {
  board: Board;
  state: BenchState;
  onChange: (change: Partial<BenchState>) => void;
  /** What is to stand in the record of what was done here. */
  onNote: (text: string) => void;
  /** Shows the list of keys, where the page has one. */
  onKeys?: () => void;
}) {
  const cold = state.phase === 'cold';
  const isPressed = state.phase !== 'cold' && state.phase !== 'standby';
  const hasProcessor = mayHaveProcessor(board);
  const isBatteryIn = state.attached.includes('battery');
  const [plugged, setPlugged] = useState<Plugged | null>(null);
  /** What nobody answered was done as the strip stood. */
  const settle = (wasUnderPower: boolean): void => {
    if (plugged && wasUnderPower) onNote(underPowerText(plugged));
    setPlugged(null);
  };
  // Nobody answers on a view that was left.
  const settleLast = useEffectEvent(() => settle(true));
  useEffect(() => () => settleLast(), []);
  const change = (to: Partial<BenchState>): void => {
    settle(true);
    onChange(to);
  };
  const plug = (attachment: { id: string; title: string }, isIn: boolean): void => {
    settle(true);
    const isOn = !cold || (isBatteryIn && attachment.id !== 'battery');
    const source = board.sources.find((one) => one.id === state.source)?.title ?? 'a source';
    if (isOn)
      setPlugged({
        attachment: attachment.title,
        isIn,
        isSourceOn: !cold,
        on: cold
          ? 'the battery was in'
          : `${source} on, ${phaseText[state.phase].label.toLowerCase()}`,
      });
    onChange({
      attached: isIn
        ? [...state.attached, attachment.id]
        : state.attached.filter((other) => other !== attachment.id),
    });
  };
  return (
    <section
      className="strip"
      aria-label="Bench"
      data-phase={state.phase}
      data-source={state.source}
      data-attached={state.attached.join(' ')}
    >
      <div className="caution" role="note">
        <strong>Caution. </strong>
        <span>
          {cautionText(state.phase, {
            isBatteryIn,
            ...(hasProcessor ? { isCoolerOn: state.cooler } : {}),
          })}
        </span>
        {onKeys && (
          <button type="button" className="keys-button" onClick={onKeys}>
            Keys <kbd>??</kbd>
          </button>
        )}
      </div>
      {hasProcessor && !state.cooler && isPressed && (
        <CoolerWatch
          pressedAt={state.pressedAt}
          onOff={() => change({ phase: 'cold' })}
          onPressed={() => onChange({ pressedAt: Date.now() })}
        />
      )}
      {plugged && <PluggedLine plugged={plugged} onAnswer={settle} />}
      <div className="controls">
        <label>
          <span className="quiet">Board is</span>
          <Segmented<Phase>
            aria-label="Phase the board is in"
            value={state.phase}
            onChange={(phase) => change({ phase })}
            options={phases.map((phase) => ({
              value: phase,
              label: <span title={phaseText[phase].title}>{phaseText[phase].label}</span>,
            }))}
          />
        </label>
        <label>
          <span className="quiet">Source</span>
          <Select
            style={{ width: 170 }}
            value={state.source}
            disabled={cold}
            onChange={(source) => change({ source })}
            options={board.sources
              .filter((one) => !one.stays)
              .map((one) => ({ value: one.id, label: one.title }))}
          />
        </label>
        <span className="quiet phase-means">{phaseText[state.phase].title}</span>
        {board.attachments.length > 0 && (
          <span className="attached">
            <span className="quiet">Attached </span>
            {board.attachments.map((one) => (
              <Checkbox
                key={one.id}
                checked={state.attached.includes(one.id)}
                onChange={(event) => plug(one, event.target.checked)}
              >
                {one.title}
              </Checkbox>
            ))}
          </span>
        )}
        {hasProcessor && (
          <Checkbox
            checked={state.cooler}
            onChange={({ target: { checked } }) => {
              change({ cooler: checked });
              onNote(checked ? 'Cooler on the processor again.' : 'Cooler off the processor.');
            }}
          >
            Cooler on
          </Checkbox>
        )}
      </div>
    </section>
  );
}
