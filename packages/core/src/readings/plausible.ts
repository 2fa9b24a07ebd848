import { findNet, type Board } from '../board/index.ts';
import { oddVoltsTimes } from '../safety/index.ts';
import { formatVolts } from '../units/index.ts';
import type { Reading } from './reading.ts';

/**
 * Why a reading is to be asked for once more before it is recorded; null where it is as usual. More than
 * half as much again as the highest volts of the sheet's sources and rails is mostly a slip, and is true of
 * a boost output without a load, or of a wrong adapter.
 */
export function oddReading(board: Board, { at, mode, value }: Reading): string | null {
  if (mode !== 'volts') return null;
  const read =
    value.kind === 'number' ? Math.abs(value.value) : value.kind === 'swinging' ? value.high : 0;
  const highest = Math.max(
    ...board.sources.map((source) => Math.max(source.volts, ...source.offersVolts)),
    ...board.nets.map((one) => one.rangeVolts?.[1] ?? one.volts ?? 0),
  );
  if (read <= highest * oddVoltsTimes) return null;
  const net = findNet(board, at.net);
  const nominal = net ? (net.rangeVolts?.[1] ?? net.volts) : null;
  const about = nominal ? ` (${at.net} is a ${formatVolts(nominal)} net)` : '';
  return `${formatVolts(read)} is far above the highest volts of this board, ${formatVolts(highest)}${about}. A decimal point lost, or another range of the meter? If it is what the meter shows, take the source off: something is fed that must not be.`;
}
