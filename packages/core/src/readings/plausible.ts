import type { Board, Net } from '../board/index.ts';
import { formatVolts } from '../units/index.ts';
import type { Mode, ReadingValue } from './reading.ts';

/**
 * A reading no meter can have shown on this board: refused before it is recorded, with why; null
 * where it is possible. The highest volts are those of the sheet's sources and rails; half as much
 * again leaves room for a wrong adapter.
 */
export function impossibleReading(
  board: Board,
  net: Net,
  mode: Mode,
  value: ReadingValue,
): string | null {
  if (mode !== 'volts') return null;
  const read =
    value.kind === 'number' ? Math.abs(value.value) : value.kind === 'swinging' ? value.high : 0;
  const highest = Math.max(
    ...board.sources.map((source) => Math.max(source.volts, ...source.offersVolts)),
    ...board.nets.map((one) => one.rangeVolts?.[1] ?? one.volts ?? 0),
  );
  if (read <= highest * 1.5) return null;
  const nominal = net.rangeVolts ? net.rangeVolts[1] : net.volts;
  const about = nominal ? ` (${net.id} is a ${formatVolts(nominal)} net)` : '';
  return `${formatVolts(read)} cannot be on this board: its highest volts are ${formatVolts(highest)}${about}. A decimal point lost, or the meter on another range?`;
}
