import type { Board, NetId } from '../board/index.ts';

/** Pads nearer than this are wetted together: common practice, no source. */
const wetMillimetres = 3;
/** More pairs than this tell little more, and each costs a play. */
const mostPairs = 60;

/**
 * Pairs of nets that corrosion or solder may join: neighbouring pins of a chip as its sheet lists
 * them, and parts that stand within some millimetres; the nearest first, each pair once. Nets that a
 * part joins anyway are left out, ground as well: a leak to ground is in the list for every net.
 */
export function neighbouringNets(board: Board): [NetId, NetId][] {
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  const near = new Map<string, { nets: [NetId, NetId]; distance: number }>();
  const joined = new Set(
    board.parts.flatMap((part) =>
      part.pins.map((pin) => pin.net).length === 2
        ? [keyOf(part.pins[0]!.net, part.pins[1]!.net)]
        : [],
    ),
  );
  const add = (a: NetId, b: NetId, distance: number): void => {
    if (a === b || a === board.ground || b === board.ground) return;
    if (kinds.get(a) === 'switch' || kinds.get(b) === 'switch') return;
    const key = keyOf(a, b);
    if (joined.has(key)) return;
    const known = near.get(key);
    if (!known || distance < known.distance)
      near.set(key, { nets: a < b ? [a, b] : [b, a], distance });
  };
  const placed = board.parts.filter((part) => part.fitted && part.x !== null && part.y !== null);
  placed.forEach((part, index) => {
    for (const other of placed.slice(index + 1)) {
      if (part.side !== other.side) continue;
      const distance = Math.hypot(
        (part.x as number) - (other.x as number),
        (part.y as number) - (other.y as number),
      );
      if (distance > wetMillimetres) continue;
      for (const a of part.pins) for (const b of other.pins) add(a.net, b.net, distance);
    }
  });
  for (const chip of board.chips) {
    if (!chip.fitted || chip.virtual) continue;
    const nets = [...chip.pins.values()];
    nets.forEach((net, index) => {
      const next = nets[index + 1];
      if (next) add(net, next, 1);
    });
  }
  return [...near.values()]
    .sort((a, b) => a.distance - b.distance || (keyOf(...a.nets) < keyOf(...b.nets) ? -1 : 1))
    .slice(0, mostPairs)
    .map(({ nets }) => nets);
}

const keyOf = (a: NetId, b: NetId): string => (a < b ? `${a} ${b}` : `${b} ${a}`);
