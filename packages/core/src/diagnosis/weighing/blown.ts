import { type NetId, findChip, findPart, isFet, joinedNets } from '../../board/index.ts';
import { isPlayed, voltsPlace } from '../../dictionary/index.ts';
import { groundedNet } from '../../faults/index.ts';
import type { Table } from './table.ts';

/** A hard short behind a fuse blows it about this often; the two are one trouble, not two. A guess by practice. */
const blows = Math.log(0.3);
/** What drives the gates of a pair finds one of its FETs short and lets neither conduct. A guess by practice. */
const heldOff = Math.log(0.5);
/** Harder than this a short is hard enough. */
const mostOhms = 10;

/**
 * ln prior of a blown fuse together with the short behind it that blew it, from the short's own; -Infinity
 * where the rows are not these two, or not played yet.
 */
export function blownLogPrior(table: Table, rows: readonly number[], logs: Float64Array): number {
  const [a, b] = rows;
  if (a === undefined || b === undefined || rows.length !== 2) return -Infinity;
  if (behindFuse(table, a).has(b)) return logs[b]! + blows;
  if (behindFuse(table, b).has(a)) return logs[a]! + blows;
  if (holdsOff(table, a, b)) return logs[a]! + heldOff;
  if (holdsOff(table, b, a)) return logs[b]! + heldOff;
  return -Infinity;
}

/** Whether the first row is a FET short from drain to source, and the second its gate held off by what drives it. */
function holdsOff({ board, faultOf, singles }: Table, fet: number, driver: number): boolean {
  const [short, held] = [fet, driver].map((row) => (row < singles ? faultOf[row] : null));
  if (held?.kind !== 'stuck') return false;
  const isShort = short?.kind === 'pins-short' && !short.pins.includes('G');
  if (!short || !(isShort || short.kind === 'all-short') || !('part' in short)) return false;
  const part = findPart(board, short.part);
  if (!part || !isFet(part) || held.level !== (part.kind === 'nfet' ? 'low' : 'released'))
    return false;
  const gate = part.pins.find((pin) => pin.name === 'G')!.net;
  const driven = findChip(board, held.part)?.pins.get(held.pin);
  // Straight, or through the gate's resistor.
  return (
    driven === gate ||
    board.parts.some(
      ({ kind, pins }) =>
        kind === 'resistor' && [gate, driven].every((net) => pins.some((pin) => pin.net === net)),
    )
  );
}

const none: ReadonlySet<number> = new Set();

/** Rows of hard shorts on what an open fuse leaves dead; none where the row is no open fuse. */
function behindFuse(table: Table, row: number): ReadonlySet<number> {
  const { board, dictionary, placeOf, faultOf, blown } = table;
  const fault = row < table.singles ? faultOf[row] : null;
  const fuse =
    fault?.kind === 'open'
      ? board.parts.find((part) => part.ref === fault.part && part.kind === 'fuse')
      : undefined;
  if (!fuse || !isPlayed(dictionary, row)) return none;
  let rows = blown.get(row);
  if (!rows) {
    const isDead = (net: NetId): boolean => {
      const place = placeOf.get(net);
      return (['standby', 'trying'] as const).some((phase) => {
        const at = (one: number): number =>
          place === undefined ? 0 : dictionary.volts[voltsPlace(dictionary, one, phase, place)]!;
        return at(0) > 0.5 && at(row) < at(0) / 2;
      });
    };
    const without = { ...board, parts: board.parts.filter((part) => part !== fuse) };
    const groups = joinedNets(without);
    const dead = fuse.pins.map((pin) => pin.net).filter(isDead);
    const behind = dead.length === 1 ? groups.get(dead[0]!) : undefined;
    const found = new Set<number>();
    dictionary.faults.forEach((one, index) => {
      const net = 'ohms' in one && one.ohms <= mostOhms ? groundedNet(board, one) : null;
      if (net !== null && behind !== undefined && groups.get(net) === behind)
        found.add(dictionary.rowOf[index]!);
    });
    blown.set(row, (rows = found));
  }
  return rows;
}
