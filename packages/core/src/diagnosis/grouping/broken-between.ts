import { isBrokenBetween, pinText, type Reading } from '../../readings/index.ts';
import { cautionText } from '../../safety/index.ts';
import type { Evidence } from '../evidence/evidence.ts';
import type { Table } from '../weighing/table.ts';
import type { BrokenBetween, FaultClass } from './classes.ts';
import type { SeparatingTest } from './separate.ts';

// Where two pins of one net read differently, which joint or which stretch of copper it is no volts tell: it is
// one thing to find, between the two.

/** Pairs of pins that read differently, one for each net: those read last. */
function brokenPairs({ readings }: Evidence): BrokenBetween[] {
  const pairs = new Map<string, BrokenBetween>();
  readings.forEach(({ reading }, at) => {
    for (const { reading: before } of readings.slice(0, at)) {
      if (!isBrokenBetween(before, reading)) continue;
      const volts = ({ value }: Reading): number =>
        value.kind === 'number' ? Math.abs(value.value) : 0;
      const [there, missing] =
        volts(before) > volts(reading) ? [before, reading] : [reading, before];
      const { net } = reading.at;
      pairs.set(net, { net, there: pinText(there.at), missing: pinText(missing.at) });
    }
  });
  return [...pairs.values()];
}

/** The classes with those faults as one class that cut the one pin off from the other. */
export function withBroken(
  table: Table,
  classes: readonly FaultClass[],
  evidence: Evidence,
): readonly FaultClass[] {
  const pairs = brokenPairs(evidence);
  if (pairs.length === 0) return classes;
  const taken = new Set<number>();
  const broken = pairs.flatMap((between): FaultClass[] => {
    const [left, right] = [between.there, between.missing].map(
      (pin) => new Set(table.islands.get(pin.replace('.', ' '))),
    ) as [Set<number>, Set<number>];
    const rows = [...left, ...right].filter(
      (row) => !taken.has(row) && !(left.has(row) && right.has(row)),
    );
    for (const row of rows) taken.add(row);
    const faults = rows.flatMap((row) => table.faultOf[row] ?? []);
    return rows.length > 0 ? [{ rows, faults, shortedNet: null, between }] : [];
  });
  return [
    ...classes.map((one) => {
      const rows = one.rows.filter((row) => !taken.has(row));
      return rows.length === one.rows.length ? one : { ...one, rows };
    }),
    ...broken,
  ].filter(({ rows }) => rows.length > 0);
}

/** Common practice, no source. */
export const brokenTest = ({ there, missing }: BrokenBetween): SeparatingTest => ({
  text: `Source off: ohms from ${there} to ${missing}. Above some ohms: follow the copper between the two under the microscope, both joints and every via, and measure from ${there} to each place on the way; mend the joint, or bridge the gap with a jumper that bears the current. Next to nothing: one of the two readings was a slip, or the joint opens when it is pushed or warm: read both pins again.`,
  caution: cautionText('lift'),
});
