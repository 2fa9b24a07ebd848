import { isProvoked, type Reading } from '../../readings/index.ts';
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

/** Read in the same way at the same point, in the same phase. */
function isSamePoint(a: Reading, b: Reading): boolean {
  if (a.mode !== b.mode || a.phase !== b.phase || a.polarity !== b.polarity) return false;
  const place = ({ at, reference }: Reading): string => JSON.stringify([at, reference]);
  return place(a) === place(b);
}

/** Further apart than this no board and no meter is by itself: volts and a part of the value, or ohms by decades. */
const denying = { volts: 0.3, part: 0.2, decades: 0.7 } as const;

/** Whether two readings of one point, in whatever state and on whatever bench, deny each other. */
export function denyEachOther(a: Reading, b: Reading): boolean {
  if (!isSamePoint(a, b)) return false;
  const [left, right] = [a.value, b.value];
  if (left.kind === 'unreached' || right.kind === 'unreached') return false;
  if (left.kind !== 'number' || right.kind !== 'number') return left.kind !== right.kind;
  if (left.trend !== 'steady' || right.trend !== 'steady') return false;
  const [low, high] = [left.value, right.value].map(Math.abs).sort((x, y) => x - y) as [
    number,
    number,
  ];
  return a.mode === 'ohms'
    ? Math.log10(Math.max(high, 1) / Math.max(low, 1)) > denying.decades
    : high - low > denying.volts + denying.part * high;
}

/** Within this they agree: volts, and as a part of the value. */
const agreeing = { volts: 0.05, part: 0.04 } as const;

function isSameReading(a: Reading, b: Reading): boolean {
  if (!isSamePoint(a, b) || isProvoked(a) !== isProvoked(b)) return false;
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
