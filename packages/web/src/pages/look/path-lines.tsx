import type { Trace } from '@jiko/core/trace';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { PathHop } from '@jiko/core/prepare';
import { isBad, isGood } from '@jiko/core/readings';
import { lastRead, readText } from '../../widgets/last-read.ts';
import type { Spot } from './picture-places.ts';

interface Stop {
  hop: PathHop;
  spot: Spot | null;
}

/** The way of the current over the picture, with what was read on it; dashed where it runs on the other side. */
export function PathLines({
  path,
  byRef,
  healthy,
  trace,
  wide,
  high,
}: {
  path: readonly PathHop[];
  byRef: ReadonlyMap<string, Spot>;
  healthy: HealthyBoard;
  trace: Trace;
  wide: number;
  high: number;
}) {
  const { board } = healthy;
  const jack = (net: string): string | undefined =>
    board.parts.find(
      (part) => part.kind === 'connector' && part.pins.some((pin) => pin.net === net),
    )?.ref;
  const stops = path.map((hop): Stop => {
    const ref = hop.via ?? jack(hop.net);
    return { hop, spot: (ref && byRef.get(ref)) || null };
  });
  const here = stops.filter((one): one is Stop & { spot: Spot } => one.spot !== null);
  const lines = here.slice(1).map((stop, index) => {
    const before = here[index]!;
    // Stops between the two that are not on this side.
    const isBroken = stops.indexOf(stop) - stops.indexOf(before) > 1;
    return { from: before.spot, to: stop.spot, isBroken };
  });
  return (
    <g className="path">
      {lines.map(({ from, to, isBroken }) => (
        <line
          key={`${from.ref} ${to.ref}`}
          className={isBroken ? 'is-broken' : ''}
          x1={from.u * wide}
          y1={from.v * high}
          x2={to.u * wide}
          y2={to.v * high}
        />
      ))}
      {here.map(({ hop, spot }, index) => {
        const last = lastRead(trace, hop.net);
        const tone = !last
          ? 'unread'
          : isBad(last.verdict)
            ? 'bad'
            : isGood(last.verdict)
              ? 'good'
              : 'undecided';
        const text = last ? readText(last) : 'not read';
        // Neighbours stand close together: their words stand above and below by turns.
        const below = index % 2 === 1;
        return (
          <g
            key={hop.net}
            className={`hop is-${tone}`}
            transform={`translate(${spot.u * wide} ${spot.v * high})`}
          >
            <circle r={6} />
            <text className="net" y={below ? 26 : -26}>
              {hop.net}
            </text>
            <text className="value" y={below ? 43 : -10}>
              {text}
            </text>
          </g>
        );
      })}
    </g>
  );
}
