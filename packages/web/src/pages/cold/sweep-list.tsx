import { useEffect, useRef } from 'react';
import type { JudgedReading } from '@jiko/core/trace';
import type { SweepPoint } from '@jiko/core/prepare';
import { shortExpectation, shortValue, whyText } from '@jiko/core/readings';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';

/** All points of the sweep in the order of the way; what was not read says so. */
export function SweepList({
  sweep,
  read,
  here,
  onPick,
}: {
  sweep: readonly SweepPoint[];
  read: ReadonlyMap<string, JudgedReading>;
  here: string | null;
  onPick: (key: string) => void;
}) {
  const row = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    row.current?.scrollIntoView({ block: 'nearest' });
  }, [here]);
  return (
    <div className="sweep-list" tabIndex={0} role="region" aria-label="Points in their order">
      <table>
        <thead>
          <tr>
            <th>Point</th>
            <th>Where</th>
            <th>Mode</th>
            <th>Expect</th>
            <th>Read</th>
            <th>Verdict</th>
          </tr>
        </thead>
        <tbody>
          {sweep.map((point, index) => {
            const last = read.get(point.key);
            const turns = index > 0 && point.place.side !== sweep[index - 1]?.place.side;
            return (
              <tr
                key={point.key}
                ref={point.key === here ? row : null}
                className={`${point.key === here ? 'is-here' : ''}${turns ? ' is-turned' : ''}`}
                onClick={() => onPick(point.key)}
              >
                <td className="mono">
                  {turns && <span className="turn">turn over</span>}
                  {point.net}
                  {point.reference && <span className="quiet"> → {point.reference}</span>}
                </td>
                <td className="quiet">{point.place.text}</td>
                <td>{point.mode === 'ohms' ? 'Ω' : 'diode'}</td>
                <td className="mono quiet">{shortExpectation(point.expectation)}</td>
                <td className="mono">
                  {last ? shortValue(last.reading.value, last.reading.mode) : ''}
                </td>
                <td title={last ? whyText(last.verdict) : undefined}>
                  {last ? (
                    <VerdictMark kind={last.verdict.kind} />
                  ) : (
                    <span className="quiet">not read</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
