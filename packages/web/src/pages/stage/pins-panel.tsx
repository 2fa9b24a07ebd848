import { Segmented, Select } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { findChip, type Board, type NetId } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import { valueText } from '@jiko/core/readings';
import { nearPads, worstSlip, type PinRow } from '@jiko/core/taking-apart';
import type { JudgedReading } from '@jiko/core/trace';
import { VerdictMark } from '../../widgets/verdict-mark.tsx';
import { PinFinder } from './pin-finder.tsx';
import type { Target } from '../../widgets/reading/target.ts';

/** The suspect chip pin by pin; readings at the pin stand apart from those on its net. */
export function PinsPanel({
  healthy,
  gone,
  chips,
  chip,
  rows,
  isCold,
  target,
  onChip,
  onCold,
  onPick,
  onPad,
}: {
  healthy: HealthyBoard;
  gone: readonly string[];
  chips: readonly string[];
  chip: string | null;
  rows: readonly PinRow[];
  isCold: boolean;
  target: Target | null;
  onChip: (ref: string) => void;
  onCold: (isCold: boolean) => void;
  onPick: (row: PinRow) => void;
  onPad: (net: NetId, ref: string, pin: string) => void;
}) {
  const { board, play } = healthy;
  const [finds, setFinds] = useState(false);
  const here = rows.find((one) => target?.at.part === chip && target?.at.pin === one.pin) ?? null;
  const volts = (net: NetId): number =>
    Math.max(
      play.phases.get('run')?.volts.get(net) ?? 0,
      play.phases.get('standby')?.volts.get(net) ?? 0,
    );
  if (chip === null)
    return (
      <p>
        The sheet draws no chip here. Add it by the pins of its data sheet in{' '}
        <strong>Trace &gt; Sheet</strong> (key <kbd>e</kbd>): kind, then pin by pin; or take them
        from the data sheet itself under <Link to={`/boards/${board.id}/schematic`}>Schematic</Link>
        .
      </p>
    );
  return (
    <>
      <div className="panel-bar">
        <Select
          aria-label="Chip"
          style={{ width: 300 }}
          value={chip}
          showSearch={{ optionFilterProp: 'label' }}
          onChange={onChip}
          options={chips.map((ref) => ({ value: ref, label: labelOf(board, ref) }))}
        />
        <Segmented
          aria-label="How the pins are read"
          value={isCold ? 'cold' : 'volts'}
          onChange={(value) => onCold(value === 'cold')}
          options={[
            { value: 'cold', label: 'Cold scan, Ω' },
            { value: 'volts', label: 'Volts' },
          ]}
        />
        <button type="button" className="strike" onClick={() => setFinds(!finds)}>
          {finds ? 'Close the pin finder' : 'Where is the pin?'}
        </button>
      </div>
      {finds && <PinFinder key={chip} wanted={here?.number ?? ''} />}
      {here && (
        <NearPadsLine
          board={board}
          chip={chip}
          row={here}
          rows={rows}
          gone={gone}
          volts={volts}
          onPad={onPad}
        />
      )}
      <div className="pin-table">
        <table>
          <thead>
            <tr>
              <th>Pin</th>
              <th>Name</th>
              <th>Net</th>
              <th>What it is</th>
              <th>Should be</th>
              <th>At the pin</th>
              <th>On the net</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr
                key={row.pin}
                className={row === here ? 'is-here' : ''}
                onClick={() => onPick(row)}
                tabIndex={-1}
              >
                <td className="mono">{row.number}</td>
                <td className="mono">{row.pin}</td>
                <td className="mono">{row.net}</td>
                <td>{row.role}</td>
                <td className="quiet">{row.expected}</td>
                <td>
                  <Read one={row.atPin} />
                  {row.differs && (
                    <div className="tone-bad" title={row.differs}>
                      differs from its net
                    </div>
                  )}
                </td>
                <td>
                  <Read one={row.atNet} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

function Read({ one }: { one: JudgedReading | null }) {
  if (!one) return null;
  return (
    <>
      <span className="mono">{valueText(one.reading.value, one.reading.mode)}</span>{' '}
      <VerdictMark kind={one.verdict.kind} />
    </>
  );
}

const labelOf = (board: Board, ref: string): string => {
  const chip = findChip(board, ref);
  return `${ref} · ${chip?.title ?? ''}`;
};

/** Where else to read a pin's net, and what a slip would do. */
function NearPadsLine({
  board,
  chip,
  row,
  rows,
  gone,
  volts,
  onPad,
}: {
  board: Board;
  chip: string;
  row: PinRow;
  rows: readonly PinRow[];
  gone: readonly string[];
  volts: (net: NetId) => number;
  onPad: (net: NetId, ref: string, pin: string) => void;
}) {
  if (row.net === board.ground) return null;
  const at = rows.indexOf(row);
  const isCounted = rows.every((one) => /^\d+$/.test(one.number));
  const beside = isCounted
    ? [rows[(at + rows.length - 1) % rows.length]!.net, rows[(at + 1) % rows.length]!.net]
    : [];
  const slip = worstSlip(board, row.net, beside, volts);
  const pads = nearPads(board, chip, row.net, volts, gone).slice(0, 3);
  return (
    <div className="near-pads">
      {slip && (
        <span className={slip.isHarmful ? 'tone-bad' : 'quiet'}>
          At the pin {slip.text}
          {slip.isHarmful ? ': it kills' : ''}.{' '}
        </span>
      )}
      {pads.length > 0 && <span className="quiet">Easier on the same net: </span>}
      {pads.map((pad) => (
        <button
          key={pad.ref}
          type="button"
          title={pad.slip?.text}
          onClick={() => onPad(row.net, pad.ref, pad.pin)}
        >
          <span className="mono">{pad.ref}</span>{' '}
          <span className="quiet">
            {pad.millimetres === null ? '' : `${Math.round(pad.millimetres)} mm, `}
            pad {pad.padMillimetres} mm{pad.side ? `, ${pad.side}` : ''}
            {pad.slip?.isHarmful ? `, ${pad.slip.text}` : ''}
          </span>
        </button>
      ))}
    </div>
  );
}
