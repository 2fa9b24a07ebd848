import { Checkbox } from 'antd';
import { useState } from 'react';
import type { Board, NetId } from '@jiko/core/board';
import { comparePlays, type Play } from '@jiko/core/powerup';
import { poweredPhases } from '@jiko/core/readings';
import { formatAmps, formatVolts } from '@jiko/core/units';

/** Volts of every net in every phase; what differs from the healthy play is marked. */
export function PlayTable({
  board,
  healthy,
  play,
  isFaulty,
}: {
  board: Board;
  healthy: Play;
  play: Play;
  isFaulty: boolean;
}) {
  const [onlyChanged, setOnlyChanged] = useState(false);
  const changed = isFaulty ? comparePlays(healthy, play) : new Map<NetId, Set<string>>();
  const nets = board.nets.filter(
    (net) => net.kind !== 'ground' && (!isFaulty || !onlyChanged || changed.has(net.id)),
  );
  return (
    <div className="readings">
      {isFaulty && (
        <p>
          <strong>
            {changed.size === 0
              ? 'Nothing a meter would see changes.'
              : `${changed.size} of ${board.nets.length - 1} nets change.`}
          </strong>{' '}
          <Checkbox
            checked={onlyChanged}
            onChange={(event) => setOnlyChanged(event.target.checked)}
          >
            only these
          </Checkbox>
        </p>
      )}
      <table>
        <thead>
          <tr>
            <th>Net</th>
            {poweredPhases.map((phase) => (
              <th key={phase} style={{ textAlign: 'right' }}>
                {phase}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>
              <strong>amps from the source</strong>
            </td>
            {poweredPhases.map((phase) => (
              <td key={phase} className="mono figure">
                {formatAmps(play.phases.get(phase)?.sourceAmps ?? 0)}
              </td>
            ))}
            <td />
          </tr>
          {nets.map((net) => (
            <tr key={net.id}>
              <td className="mono">{net.id}</td>
              {poweredPhases.map((phase) => {
                const snapshot = play.phases.get(phase);
                const swing = snapshot?.swinging.get(net.id);
                const was = healthy.phases.get(phase)?.volts.get(net.id) ?? 0;
                const isChanged = changed.get(net.id)?.has(phase) ?? false;
                return (
                  <td
                    key={phase}
                    className={`mono figure${isChanged ? ' is-changed' : ''}`}
                    title={isChanged ? `healthy: ${formatVolts(was)}` : undefined}
                  >
                    {swing
                      ? `${formatVolts(swing.low)} ↔ ${formatVolts(swing.high)}`
                      : formatVolts(snapshot?.volts.get(net.id) ?? 0)}
                    {isChanged && <span className="was"> was {formatVolts(was)}</span>}
                  </td>
                );
              })}
              <td className="quiet">{net.title}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
