import { Checkbox } from 'antd';
import { useState } from 'react';
import type { Board, Net, NetId } from '@jiko/core/board';
import { compareCold, type ColdReadings } from '@jiko/core/cold';
import { comparePlays, type Play } from '@jiko/core/play';
import { poweredPhases } from '@jiko/core/readings';
import { formatAmps, formatOhms, formatVolts } from '@jiko/core/units';

/** Volts of every net in every phase; what differs from the healthy play is marked. */
export function PlayTable({
  board,
  healthy,
  play,
  cold,
  isFaulty,
}: {
  board: Board;
  healthy: Play;
  play: Play;
  /** Null while the unpowered board is being read. */
  cold: { healthy: ColdReadings; faulty: ColdReadings } | null;
  isFaulty: boolean;
}) {
  const [onlyChanged, setOnlyChanged] = useState(false);
  const changed = isFaulty ? comparePlays(healthy, play) : new Map<NetId, Set<string>>();
  const coldChanged = isFaulty && cold ? compareCold(board, cold.healthy, cold.faulty) : null;
  const isTouched = (net: NetId): boolean =>
    changed.has(net) ||
    (coldChanged?.ohms.has(net) ?? false) ||
    (coldChanged?.diode.has(net) ?? false);
  const places = new Map(
    board.nets.filter((net) => net.id !== board.ground).map((net, index) => [net.id, index]),
  );
  const touched = board.nets.filter((net) => isTouched(net.id)).length;
  // In the order in which a healthy board wakes; what never comes stands last.
  const wakes = ({ id }: Net): number =>
    (healthy.phases.get('run')?.volts.get(id) ?? 0) > 0.2
      ? (healthy.settledAt.get(id) ?? Infinity)
      : Infinity;
  const nets = board.nets
    .filter((net) => net.kind !== 'ground' && (!isFaulty || !onlyChanged || isTouched(net.id)))
    .map((net) => ({ net, at: wakes(net) }))
    .sort((a, b) => (a.at === b.at ? 0 : a.at - b.at))
    .map(({ net }) => net);
  return (
    <div className="readings">
      {isFaulty && (
        <p>
          <strong>
            {touched === 0
              ? 'Nothing a meter would see changes.'
              : `${touched} of ${board.nets.length - 1} nets change.`}
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
            <th style={{ textAlign: 'right' }}>cold ohms</th>
            <th style={{ textAlign: 'right' }}>cold diode</th>
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
            <td />
            <td />
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
              {(['ohms', 'diode'] as const).map((mode) => {
                const place = places.get(net.id) ?? 0;
                const value = cold?.faulty[mode][place];
                const was = cold?.healthy[mode][place];
                const isChanged = coldChanged?.[mode].has(net.id) ?? false;
                return (
                  <td key={mode} className={`mono figure${isChanged ? ' is-changed' : ''}`}>
                    {value === undefined ? '' : coldText(mode, value)}
                    {isChanged && was !== undefined && (
                      <span className="was"> was {coldText(mode, was)}</span>
                    )}
                  </td>
                );
              })}
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

const coldText = (mode: 'ohms' | 'diode', value: number): string =>
  Number.isNaN(value)
    ? '?'
    : value === Infinity
      ? 'OL'
      : mode === 'ohms'
        ? formatOhms(value)
        : value.toFixed(3);
