import { Checkbox, Segmented, Select } from 'antd';
import type { Board } from '@jiko/core/board';
import { cautionFor, phases, type Phase } from '@jiko/core/readings';
import type { BenchState } from '../data/bench-state.ts';
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

export function BenchStrip({
  board,
  state,
  onChange,
  onKeys,
}: {
  board: Board;
  state: BenchState;
  onChange: (change: Partial<BenchState>) => void;
  /** Shows the list of keys, where the page has one. */
  onKeys?: () => void;
}) {
  const cold = state.phase === 'cold';
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
        <span>{cautionFor(state.phase, state.attached)}</span>
        {onKeys && (
          <button type="button" className="keys-button" onClick={onKeys}>
            Keys <kbd>??</kbd>
          </button>
        )}
      </div>
      <div className="controls">
        <label>
          <span className="quiet">Board is</span>
          <Segmented<Phase>
            value={state.phase}
            onChange={(phase) => onChange({ phase })}
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
            onChange={(source) => onChange({ source })}
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
                onChange={(event) =>
                  onChange({
                    attached: event.target.checked
                      ? [...state.attached, one.id]
                      : state.attached.filter((other) => other !== one.id),
                  })
                }
              >
                {one.title}
              </Checkbox>
            ))}
          </span>
        )}
      </div>
    </section>
  );
}
