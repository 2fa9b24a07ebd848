import { byName, type Board } from '../../board/index.ts';
import type { Netlist, NetlistPlace } from './netlist.ts';

/** A board as parts, nets and places. Pins of chips go by their number where it is known, else by name. */
export function boardNetlist(board: Board): Netlist {
  const chips = board.chips.filter((one) => !one.virtual);
  const nets = new Map<string, Netlist['nets'][number]['pins']>(
    board.nets.filter((one) => !one.isUnnamed).map((one) => [one.id as string, []]),
  );
  for (const { ref, pins } of board.parts)
    for (const { name, net } of pins) nets.get(net)?.push({ ref, pin: name, name: '' });
  for (const { ref, pins, numbers } of chips)
    for (const [pin, net] of pins) {
      const number = numbers.get(pin);
      nets.get(net)?.push({ ref, pin: number ?? pin, name: number === undefined ? '' : pin });
    }
  const places: NetlistPlace[] = [];
  for (const point of board.points) {
    if (point.x === null || point.y === null) continue;
    places.push({
      net: point.net,
      ref: point.part ?? point.id,
      pin: point.pin ?? '',
      side: point.side,
      x: point.x,
      y: point.y,
    });
  }
  // A part's own place stands for its pins where those have none.
  const placed = new Set(places.map((one) => one.ref));
  for (const part of [...board.parts, ...chips]) {
    if (part.x === null || part.y === null || placed.has(part.ref)) continue;
    const pins = Array.isArray(part.pins)
      ? part.pins.map(({ name, net }) => [name, net] as const)
      : [...(part.pins as ReadonlyMap<string, string>)];
    for (const [pin, net] of pins)
      places.push({ net, ref: part.ref, pin, side: part.side, x: part.x, y: part.y });
  }
  return {
    title: board.title,
    parts: [...board.parts, ...chips]
      .map((part) => ({
        ref: part.ref as string,
        value: 'valueText' in part ? part.valueText : part.marking,
        sort: part.kind,
        package: 'package' in part ? part.package : '',
        isFitted: part.fitted,
      }))
      .sort((a, b) => byName(a.ref, b.ref)),
    nets: [...nets]
      .map(([name, pins]) => ({ name, pins }))
      .filter((one) => one.pins.length > 0)
      .sort((a, b) => byName(a.name, b.name)),
    places,
  };
}
