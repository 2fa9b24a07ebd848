import type { Board } from './board.ts';
import type { NetId } from './ids.ts';
import { isSeriesPart } from './series.ts';

/**
 * Nets joined by milliohms (fuses, coils, links, sense resistors): each net with the one that stands for its
 * group, one part left out where asked. A part to ground joins nothing.
 */
export function joinedNets(
  { nets, parts, ground }: Board,
  without?: string,
): ReadonlyMap<NetId, NetId> {
  const head = new Map<NetId, NetId>(nets.map((net) => [net.id, net.id]));
  const find = (net: NetId): NetId => {
    const up = head.get(net) ?? net;
    return up === net ? net : find(up);
  };
  for (const part of parts) {
    if (!isSeriesPart(part) || part.ref === without) continue;
    if (part.pins.some((pin) => pin.net === ground)) continue;
    const [first, ...rest] = part.pins;
    for (const pin of rest) head.set(find(first!.net), find(pin.net));
  }
  return new Map([...head.keys()].map((net) => [net, find(net)]));
}

/** The nets joined to any of these, those themselves first, then in the order of the sheet. */
export function joinedTo(
  board: Board,
  starts: readonly (NetId | undefined)[],
  without?: string,
): Set<NetId> {
  const found = new Set(starts.filter((net) => net !== undefined));
  const heads = joinedNets(board, without);
  const wanted = new Set([...found].map((net) => heads.get(net)));
  for (const [net, head] of heads) if (wanted.has(head)) found.add(net);
  return found;
}
