import type { NetId } from '@jiko/core/board';
import { phaseFor, statusOf, type Trace } from '@jiko/core/trace';
import type { HealthyBoard, Role } from '@jiko/core/expectations';
import { shortExpectation, shortValue, type Phase } from '@jiko/core/readings';
import { VerdictShape } from '../../widgets/verdict-mark.tsx';
import { netSize, type Drawing, type PlacedNet } from './neighbourhood-layout.ts';
import './neighbourhood.css';

const roleText: Record<Role, string> = {
  feed: 'feed',
  supply: 'supply',
  'power-good': 'power-good',
  enable: 'enable',
  trigger: 'button',
  gate: 'gate',
  watched: 'watched',
  'pull-up': 'pull-up',
};

/** What the stage at hand needs and through which parts, with what was read and what is expected. */
export function NeighbourhoodView({
  drawing,
  healthy,
  trace,
  phase,
  here,
  onPick,
}: {
  drawing: Drawing;
  healthy: HealthyBoard;
  trace: Trace;
  phase: Phase;
  here: NetId | null;
  onPick: (net: NetId) => void;
}) {
  if (drawing.nets.length < 2) return null;
  return (
    <figure className="neighbourhood" aria-label="What it needs">
      <svg
        viewBox={`0 0 ${drawing.width} ${drawing.height}`}
        style={{ maxWidth: drawing.width, aspectRatio: `${drawing.width} / ${drawing.height}` }}
        role="group"
        aria-label="Nets and parts on the way"
      >
        {drawing.lines.map((one) => (
          <path key={one.key} d={one.path} className={`line is-${one.role}`} />
        ))}
        {drawing.parts.map(({ key, ref, x, y, width, height }) => (
          <g key={key} className="via" transform={`translate(${x} ${y})`}>
            <rect x={-width / 2} y={-height / 2} width={width} height={height} rx={11} />
            <text textAnchor="middle" dy="0.36em">
              {ref}
            </text>
          </g>
        ))}
        {drawing.nets.map((one) => (
          <NetBox
            key={one.net}
            placed={one}
            healthy={healthy}
            trace={trace}
            phase={phase}
            isHere={one.net === here}
            onPick={onPick}
          />
        ))}
      </svg>
      {drawing.served.length > 0 && (
        <figcaption>
          <span className="quiet">waits for it </span>
          {drawing.served.map((net) => (
            <button key={net} type="button" className="mono" onClick={() => onPick(net)}>
              {net}
            </button>
          ))}
        </figcaption>
      )}
    </figure>
  );
}

function NetBox({
  placed: { net, x, y, role, place },
  healthy,
  trace,
  phase,
  isHere,
  onPick,
}: {
  placed: PlacedNet;
  healthy: HealthyBoard;
  trace: Trace;
  phase: Phase;
  isHere: boolean;
  onPick: (net: NetId) => void;
}) {
  const cold = phase === 'cold';
  const mode = cold ? 'ohms' : 'volts';
  const at = cold ? 'cold' : phaseFor(healthy, net);
  const status = statusOf(trace.readings, net, at, mode);
  const reading = status.kind === 'unread' ? null : status.reading;
  const expected = shortExpectation(healthy.expect(net, mode, at));
  const read = reading ? shortValue(reading.reading.value, mode) : null;
  const { width, height } = netSize;
  const [left, top] = [x - width / 2, y - height / 2];
  return (
    <g
      role="button"
      aria-label={`${net}${role ? `, ${roleText[role]}` : ''}: ${read ? `read ${read}, ` : ''}expected ${expected}`}
      aria-pressed={isHere}
      className={`net-box is-${place} is-${status.kind}${isHere ? ' is-here' : ''}`}
      onClick={() => onPick(net)}
    >
      <rect x={left} y={top} width={width} height={height} rx={5} />
      <text x={left + 8} y={top + 16} className="name">
        {net.length > 15 ? `${net.slice(0, 14)}…` : net}
      </text>
      <text x={left + 8} y={top + 32} className="role">
        {role ? roleText[role] : ''}
      </text>
      {reading && (
        <svg x={left + width - 22} y={top + 3} width={15} height={15}>
          <VerdictShape kind={reading.verdict.kind} />
        </svg>
      )}
      <text x={left + width - 8} y={top + 32} textAnchor="end" className="value">
        {read ?? expected}
      </text>
    </g>
  );
}
