import { shares } from '../../inference/index.ts';
import { findChip, type NetId, joinedNets } from '../../board/index.ts';
import { voltsPlace } from '../../dictionary/index.ts';
import type { Weighed } from './observation.ts';
import { floatingVolts } from '../../readings/index.ts';
import { stintsLog, stintsOf, unlistedShare } from './comes-and-goes.ts';
import type { Table } from './table.ts';

/**
 * "None of these" is not nothing: it is a fault of some other kind at some place. Wherever it sits, what
 * hangs behind it fails as if it had failed in a way that is in the list, and what stands before it
 * does not. So the list's own plays serve for it; only at the place itself nothing is expected.
 */
export interface Unlisted {
  net: NetId;
  /** Row in which this net is down with as little else as possible; 0 where all else is as it should be. */
  row: number;
  /** Places of the nets at which nothing is expected. */
  local: ReadonlySet<number>;
  /** Its share before anything was read. */
  share: number;
}

/** A fault that is nowhere in particular, or at several places at once. */
const nowhereShare = 0.12;

export function makeUnlisted(table: Table): Unlisted[] {
  const { board, dictionary, upVolts, singles } = table;
  const { nets, volts } = dictionary;
  const groups = joinedNets(board);
  // By row and net, and how many of each row: thousands of rows are looked through for each dictionary.
  const down = new Uint8Array(singles * nets.length);
  const changed = new Int32Array(singles);
  for (const phase of ['standby', 'trying'] as const) {
    const healthy = voltsPlace(dictionary, 0, phase, 0);
    for (let net = 0; net < nets.length; net++) {
      const dead = floatingVolts(upVolts[net]!);
      if (!(volts[healthy + net]! > 2 * dead)) continue;
      const perRow = voltsPlace(dictionary, 1, phase, net) - healthy - net;
      for (let row = 1; row < singles; row++) {
        const place = row * nets.length + net;
        if (down[place] === 1 || !(volts[healthy + net + row * perRow]! < dead)) continue;
        down[place] = 1;
        changed[row]!++;
      }
    }
  }
  const isDown = (row: number, net: number): boolean => down[row * nets.length + net] === 1;
  const usual = usualRows(table);
  const found: Omit<Unlisted, 'share'>[] = [];
  nets.forEach((net, place) => {
    if (table.isSwitch[place]) return;
    const local = new Set<number>();
    nets.forEach((other, at) => {
      if (groups.get(other) === groups.get(net)) local.add(at);
    });
    found.push({ net, row: 0, local });
    // As its maker dead or the net pulled down would have it; else the play that changes least beside it.
    let best = usual.get(net) ?? 0;
    if (best === 0 || !isDown(best, place)) {
      best = 0;
      for (let row = 1; row < singles; row++)
        if (isDown(row, place) && (best === 0 || changed[row]! < changed[best]!)) best = row;
    }
    if (best > 0) found.push({ net, row: best, local });
  });
  return found.map((one) => ({ ...one, share: (1 - nowhereShare) / found.length }));
}

/** By net: the row in which its maker is dead, else the one in which it is pulled to ground. */
function usualRows({ board, dictionary }: Table): Map<NetId, number> {
  const rows = new Map<NetId, number>();
  const made = new Map<NetId, number>();
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (fault.kind === 'short' && fault.ohms < 0.5) rows.set(fault.net, row);
    if (fault.kind !== 'output-dead' && !(fault.kind === 'dead' && !fault.letsGo)) return;
    const chip = findChip(board, fault.part);
    for (const one of chip?.behaviours ?? []) {
      if (one.do !== 'regulator' || (fault.kind === 'output-dead' && one.out !== fault.pin))
        continue;
      for (const pin of [one.out, one.sense]) {
        const net = chip?.pins.get(pin);
        // One output alone says more of its net than the whole chip.
        if (net && (fault.kind === 'output-dead' || !made.has(net))) made.set(net, row);
      }
    }
  });
  for (const [net, row] of made) rows.set(net, row);
  return rows;
}

/** It does not go with a part that was taken off or plugged in: it went by itself meanwhile. */
const wentByItself = Math.log(unlistedShare);

/** What all observations together are worth under a fault of no list, and where it would sit. */
export function weighUnlisted(
  unlisted: readonly Unlisted[],
  used: readonly Weighed[],
): { log: number; places: { one: Unlisted; share: number }[] } {
  const stints = stintsOf(used);
  const all = (logOf: (one: Weighed) => number): number =>
    used.reduce((sum, one) => sum + (one.stint === undefined ? one.strength * logOf(one) : 0), 0) +
    (stints.size > 0 ? stintsLog(stints, logOf, unlistedShare) : 0);
  const logOf = ({ row, local }: Unlisted): number => {
    const isAt = ({ at }: Weighed): boolean => at?.nets.some((net) => local.has(net)) ?? false;
    const log = all((observation) => {
      const { at, byRow, byNone } = observation;
      // What it draws and shows nobody can say.
      if (!at) return byNone;
      if (isAt(observation)) return at.byLoose;
      return at.isCold ? byRow[0]! : byRow[row]!;
    });
    return used.some((one) => one.isDenied && isAt(one)) ? log + wentByItself : log;
  };
  const nowhere =
    Math.log(nowhereShare) +
    all(({ byNone }) => byNone) +
    (used.some((one) => one.isDenied) ? wentByItself : 0);
  const { weights, log } = shares([
    nowhere,
    ...unlisted.map((place) => Math.log(place.share) + logOf(place)),
  ]);
  return {
    log,
    places: unlisted
      .map((one, index) => ({ one, share: weights[index + 1]! }))
      .filter(({ share }) => share > 0.002)
      .sort((a, b) => b.share - a.share),
  };
}
