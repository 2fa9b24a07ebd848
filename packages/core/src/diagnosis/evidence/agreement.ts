import type { Reading } from '../../readings/index.ts';
import type { Evidence } from './evidence.ts';

/** Readings of the same point that agree are one, read several times: errors of sheet and board repeat with them. */
export function onceEach(
  readings: Evidence['readings'],
): { id: string; reading: Reading; times: number }[] {
  const kept: { id: string; reading: Reading; times: number }[] = [];
  for (const { id, reading } of readings) {
    const same = kept.findIndex((earlier) => isSameReading(earlier.reading, reading));
    if (same < 0) kept.push({ id, reading, times: 1 });
    else kept[same] = { id, reading, times: kept[same]!.times + 1 };
  }
  return kept;
}

/** Within this they agree: volts, and as a part of the value. */
const agreeing = { volts: 0.05, part: 0.04 } as const;

function isSameReading(a: Reading, b: Reading): boolean {
  if (a.mode !== b.mode || a.phase !== b.phase || a.polarity !== b.polarity) return false;
  const place = ({ at, reference }: Reading): string => JSON.stringify([at, reference]);
  if (place(a) !== place(b)) return false;
  const bench = (one: Reading): string =>
    JSON.stringify([one.source?.id, [...one.attached].sort(), [...one.lifted].sort()]);
  if (bench(a) !== bench(b)) return false;
  const near = (x: number, y: number): boolean =>
    Math.abs(x - y) <=
    (a.mode === 'volts' ? agreeing.volts : 0) + agreeing.part * Math.max(Math.abs(x), Math.abs(y));
  const [left, right] = [a.value, b.value];
  if (left.kind === 'number' && right.kind === 'number')
    return left.trend === right.trend && near(left.value, right.value);
  if (left.kind === 'swinging' && right.kind === 'swinging')
    return near(left.low, right.low) && near(left.high, right.high);
  return left.kind === right.kind;
}
