import type { Hunt } from '@jiko/core/short-hunt';

/** The rail's pads where the sheet has them: how likely each is by its size, and where the current goes in. */
export function RailMap({ hunt }: { hunt: Hunt }) {
  const pads = hunt.pads.filter(
    (one, index) => hunt.pads.findIndex((other) => other.ref === one.ref) === index,
  );
  if (pads.length < 2)
    return <p className="quiet">The sheet gives no places: what is near to what is not known.</p>;
  const xs = pads.map((one) => one.x);
  const ys = pads.map((one) => one.y);
  const margin = 8;
  const [left, top] = [Math.min(...xs) - margin, Math.min(...ys) - margin];
  const [width, height] = [
    Math.max(30, Math.max(...xs) + margin - left),
    Math.max(20, Math.max(...ys) + margin - top),
  ];
  const unit = Math.max(width, height) / 60;
  const chance = (ref: string): number =>
    hunt.candidates
      .filter((one) => one.name === ref)
      .reduce((sum, one) => sum + one.probability, 0);
  const warm = new Set(hunt.log.fed.flatMap((one) => one.warm.map(({ part }) => part)));
  return (
    <svg
      className="rail-map"
      viewBox={`${left} ${top} ${width} ${height}`}
      role="img"
      aria-label={`Where the parts of ${hunt.net} are`}
    >
      {pads.map((pad) => {
        const p = chance(pad.ref);
        const size = unit * (0.7 + 2.2 * Math.sqrt(p));
        return (
          <g
            key={pad.ref}
            className={`${hunt.feedAt === pad.ref ? 'is-feed ' : ''}${pad.side === 'bottom' ? 'is-below' : ''}`}
          >
            <rect
              x={pad.x - size}
              y={pad.y - size}
              width={2 * size}
              height={2 * size}
              rx={unit / 3}
              className={p > 0.2 ? 'is-likely' : p > 0.02 ? 'is-open' : 'is-clear'}
            />
            {warm.has(pad.ref) && (
              <circle cx={pad.x} cy={pad.y} r={size * 1.7} className="is-warm" />
            )}
            {(p > 0.03 || hunt.feedAt === pad.ref) && (
              <text
                x={pad.x}
                y={hunt.feedAt === pad.ref ? pad.y + size + unit * 2.2 : pad.y - size - unit * 0.5}
                fontSize={unit * 2.3}
                textAnchor="middle"
              >
                {pad.ref}
                {hunt.feedAt === pad.ref ? ' (feed)' : ''}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
