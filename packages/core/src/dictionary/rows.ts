import { poweredPhases } from '../readings/index.ts';
import type { Dictionary } from './dictionary.ts';

/** Rows on their way from one who plays them to one who collects. */
export interface RowsPacket {
  rows: number[];
  goalNets: Dictionary['goalNets'];
  lists: Record<ListName, Float32Array | Uint32Array | Uint8Array>;
  swings: [number, readonly [number, number]][];
  invalid: [number, string][];
}

const listNames = [
  'volts',
  'amps',
  'lit',
  'turning',
  'heat',
  'offAfter',
  'startsItself',
  'ohms',
  'diode',
  'islandVolts',
] as const;
type ListName = (typeof listNames)[number];

export function takeRows(dictionary: Dictionary, rows: readonly number[]): RowsPacket {
  const cut = (name: ListName): Float32Array | Uint32Array | Uint8Array => {
    const list = dictionary[name];
    const per = list.length / dictionary.rows;
    const part = new (list.constructor as new (length: number) => typeof list)(per * rows.length);
    rows.forEach((row, place) => part.set(list.subarray(row * per, (row + 1) * per), place * per));
    return part;
  };
  const wanted = new Set(rows);
  const perRow = poweredPhases.length * dictionary.nets.length;
  return {
    rows: [...rows],
    goalNets: dictionary.goalNets,
    lists: Object.fromEntries(listNames.map((name) => [name, cut(name)])) as RowsPacket['lists'],
    swings: [...dictionary.swings].filter(([place]) => wanted.has(Math.floor(place / perRow))),
    invalid: [...dictionary.invalid].filter(([row]) => wanted.has(row)),
  };
}

export function putRows(dictionary: Dictionary, packet: RowsPacket): void {
  dictionary.goalNets = packet.goalNets;
  for (const name of listNames) {
    const [list, part] = [dictionary[name], packet.lists[name]];
    const per = list.length / dictionary.rows;
    packet.rows.forEach((row, place) =>
      list.set(part.subarray(place * per, (place + 1) * per), row * per),
    );
  }
  for (const [place, swing] of packet.swings) dictionary.swings.set(place, swing);
  for (const [row, why] of packet.invalid) dictionary.invalid.set(row, why);
}
