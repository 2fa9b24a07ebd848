import type { NetId } from '../board/index.ts';
import { isGood, type Reading, nothingVolts } from '../readings/index.ts';
import type { JudgedReading } from './judged.ts';

/** Rails whose last ohms, source off, say that they are shorted, and that nobody read as there since. */
export function knownShorts(readings: readonly JudgedReading[]): NetId[] {
  const last = new Map<string, boolean>();
  for (const { standing, reading, verdict, isHere } of readings) {
    if (standing.kind !== 'stands' || !isHere || reading.reference !== null) continue;
    const { net } = reading.at;
    if (reading.phase === 'cold' && reading.mode === 'ohms')
      last.set(net, verdict.kind === 'shorted');
    // A rail that holds its volts is no short: the ohms were a slip, or it comes and goes.
    else if (reading.mode === 'volts' && isGood(verdict) && isThere(reading)) last.set(net, false);
  }
  return [...last].flatMap(([net, isShorted]) => (isShorted ? [net as NetId] : []));
}

/** What is good at nothing was to be off, and shows nothing. */
const isThere = ({ value }: Reading): boolean =>
  value.kind === 'number' && Math.abs(value.value) >= nothingVolts;
