import { type NetId, joinedNets } from '../../board/index.ts';
import { type Fault, groundedNet } from '../../faults/index.ts';
import type { Table } from './table.ts';

// Into a short all makers in line give what they can: which of them gives up first hangs on limits that a
// sheet guesses, or that differ from chip to chip. Where the sheet lets the feed give up, the maker of the
// shorted rail may do so alone, and all else stays up; or the other way round. The listed play says nothing
// of that.

/** A maker that gives up well before the others in line. */
const earlyFactor = 0.5;

/**
 * A short on a rail, its row, and the row of a maker on the way to it being dead: what its early limit makes
 * of the rest.
 */
export interface EarlyLimit {
  short: number;
  dead: number;
  weak: Fault;
}

const known = new WeakMap<Table['neighbours'], EarlyLimit[]>();

export function earlyLimits(table: Table): EarlyLimit[] {
  let found = known.get(table.neighbours);
  if (!found) known.set(table.neighbours, (found = makeEarlyLimits(table)));
  return found;
}

function makeEarlyLimits({ board, dictionary }: Table): EarlyLimit[] {
  const groups = joinedNets(board);
  const rowsBy = (wanted: (fault: Fault) => string | null): Map<string, Set<number>> => {
    const rows = new Map<string, Set<number>>();
    dictionary.faults.forEach((fault, index) => {
      const row = dictionary.rowOf[index]!;
      const key = row === dictionary.goneRow ? null : wanted(fault);
      if (key !== null) rows.set(key, (rows.get(key) ?? new Set()).add(row));
    });
    return rows;
  };
  const shorts = rowsBy((fault) => {
    const net = groundedNet(board, fault);
    return net === null ? null : (groups.get(net) ?? net);
  });
  const dead = rowsBy((fault) =>
    fault.kind === 'dead'
      ? fault.part
      : fault.kind === 'output-dead'
        ? `${fault.part}.${fault.pin}`
        : null,
  );
  const headOf = (net: NetId): NetId => groups.get(net) ?? net;
  const makers = board.chips.flatMap(({ ref, pins, behaviours }) =>
    behaviours.flatMap((one) => {
      const [from, to] = one.do === 'regulator' ? [pins.get(one.in), pins.get(one.out)] : [];
      if (one.do !== 'regulator' || from === undefined || to === undefined) return [];
      const [row] = dead.get(`${ref}.${one.out}`) ?? dead.get(ref) ?? [];
      const weak: Fault = { kind: 'weak', part: ref, pin: one.out, factor: earlyFactor };
      return row === undefined ? [] : [{ from: headOf(from), to: headOf(to), row, weak }];
    }),
  );
  const found: EarlyLimit[] = [];
  for (const [rail, rows] of shorts) {
    // From the shorted rail upwards, each maker once.
    let rails = [rail];
    const left = new Set(makers);
    while (rails.length > 0) {
      const here = [...left].filter((one) => rails.includes(one.to));
      here.forEach((one) => left.delete(one));
      for (const { row, weak } of here)
        for (const short of rows) found.push({ short, dead: row, weak });
      rails = here.map((one) => one.from);
    }
  }
  return found;
}

/** The row of the maker being dead that was played as giving up early; null for other faults. */
export const deadMaker = (table: Table, weak: Fault | undefined): number | null =>
  earlyLimits(table).find((one) => one.weak === weak)?.dead ?? null;
