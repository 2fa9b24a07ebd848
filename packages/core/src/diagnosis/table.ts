import type { Board, NetId } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import type { Dictionary } from '../powerup/index.ts';
import { poweredPhases, type Phase, type PoweredPhase, type Reading } from '../readings/index.ts';
import { groundedNet } from './classes.ts';
import type { Prediction } from './likelihood.ts';

export interface Table {
  board: Board;
  dictionary: Dictionary;
  /** Rows of single faults, the healthy one included; sets of several stand behind them. */
  singles: number;
  /** Rows of the faults of each set, from row `singles` on. */
  sets: readonly (readonly number[])[];
  placeOf: ReadonlyMap<NetId, number>;
  where: readonly ('rail' | 'signal')[];
  /** Whether the sheet says what is read there cold, on the net or one joined to it by milliohms. */
  coldStated: readonly boolean[];
  /** Switch nodes pulse: a meter's volts say nothing there. */
  isSwitch: readonly boolean[];
  /** Log-likelihoods of the single rows worked out before: a reading never changes. */
  observed: WeakMap<Reading, Float64Array>;
  /** Pairs of single rows that were compared: whether they read the same everywhere. */
  alike: Map<number, boolean>;
  /** By phase: single rows under which something swings. */
  swinging: Map<PoweredPhase, Uint8Array>;
  /** What is read cold across a FET, by its nets and mode: worked out when first asked about. */
  acrossFets: Map<string, ColdAcross>;
  /** By row: rows of the next milder and the next harder severity of the same fault. */
  neighbours: readonly (readonly number[])[];
}

/** Cold across a part: on the healthy board, and under the rows of its own faults. */
export interface ColdAcross {
  healthy: number;
  own: ReadonlyMap<number, number>;
}

export function makeTable(board: Board, dictionary: Dictionary): Table {
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  return {
    board,
    dictionary,
    singles: dictionary.rows,
    sets: [],
    placeOf: new Map(dictionary.nets.map((net, place) => [net, place])),
    where: dictionary.nets.map((net) => (kinds.get(net) === 'rail' ? 'rail' : 'signal')),
    coldStated: dictionary.nets.map(
      (_, place) => dictionary.ohms[place] !== Infinity || dictionary.diode[place] !== Infinity,
    ),
    observed: new WeakMap(),
    alike: new Map(),
    swinging: new Map(),
    acrossFets: new Map(),
    isSwitch: dictionary.nets.map((net) => kinds.get(net) === 'switch'),
    neighbours: severities(board, dictionary),
  };
}

/** Shorts and drifts come in every size; those in the list are steps on the way from healthy (row 0). */
function severities(board: Board, dictionary: Dictionary): number[][] {
  const series = new Map<string, { size: number; row: number }[]>();
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (row === dictionary.goneRow) return;
    const add = (key: string, size: number): void => {
      const list = series.get(key) ?? [];
      if (!list.some((one) => one.row === row)) list.push({ size, row });
      series.set(key, list);
    };
    switch (fault.kind) {
      case 'pins-short':
      case 'pin-short':
      case 'short':
        add(`short ${bridgedNets(board, fault)}`, -Math.log(fault.ohms));
        break;
      case 'drift':
        add(`${fault.part} ${fault.factor > 1 ? 'up' : 'down'}`, Math.abs(Math.log(fault.factor)));
        break;
      case 'open':
        add(`${fault.part} up`, Infinity);
        break;
      default:
        break;
    }
  });
  const neighbours = Array.from({ length: dictionary.rows }, (): number[] => []);
  for (const list of series.values()) {
    list.sort((a, b) => a.size - b.size);
    if (list.length === 1 && list[0]?.size === Infinity) continue;
    list.forEach(({ row }, place) => {
      neighbours[row]!.push(list[place - 1]?.row ?? 0);
      const harder = list[place + 1]?.row;
      if (harder !== undefined) neighbours[row]!.push(harder);
    });
  }
  return neighbours;
}

function bridgedNets(board: Board, fault: Fault): string {
  if (fault.kind !== 'pins-short') return groundedNet(board, fault) ?? '';
  const part = board.parts.find((one) => one.ref === fault.part);
  return fault.pins
    .map((pin) => part?.pins.find((one) => one.name === pin)?.net ?? '')
    .filter((net) => net !== board.ground)
    .sort()
    .join(' ');
}

/** A regulator that hiccups into a hard short moves its rail by less than a meter shows as swinging. */
const leastSwingVolts = 0.4;

export function swingAt({ swings }: Dictionary, place: number): readonly [number, number] | null {
  const swing = swings.get(place);
  return swing && swing[1] - swing[0] > leastSwingVolts ? swing : null;
}

/** A fault of a single row: all faults of it are one to the circuit. */
export function faultAt({ dictionary }: Table, row: number): Fault {
  return dictionary.faults[dictionary.rowOf.indexOf(row)]!;
}

/** The table with sets of several faults behind its single ones; `dictionary` has a row for each. */
export function withSets(
  table: Table,
  dictionary: Dictionary,
  sets: readonly (readonly number[])[],
): Table {
  return { ...table, dictionary, sets };
}

/** The list a reading is found in, and the place of a row's first net in it. */
function listOf(
  { volts, ohms, diode, nets }: Dictionary,
  mode: Reading['mode'],
  phase: Phase,
): { list: Float32Array; perRow: number; offset: number } | null {
  if (mode === 'volts' && phase !== 'cold')
    return {
      list: volts,
      perRow: poweredPhases.length * nets.length,
      offset: poweredPhases.indexOf(phase) * nets.length,
    };
  if (phase !== 'cold' || (mode !== 'ohms' && mode !== 'diode')) return null;
  return { list: mode === 'ohms' ? ohms : diode, perRow: nets.length, offset: 0 };
}

/**
 * What rows say a point reads, as plain numbers: for the many readings that are only weighed against
 * each other. NaN where a row says nothing; `swings` where it has no steady value.
 */
export function valuesAt(
  { dictionary }: Table,
  mode: Reading['mode'],
  phase: Phase,
  net: number,
): { value: (row: number) => number; swings: (row: number) => boolean } {
  const found = listOf(dictionary, mode, phase);
  if (!found) return { value: () => NaN, swings: () => false };
  const { list, perRow, offset } = found;
  const place = offset + net;
  const isVolts = mode === 'volts';
  return {
    value: (row) => list[row * perRow + place]!,
    swings: (row) => isVolts && swingAt(dictionary, row * perRow + place) !== null,
  };
}

/** What a row says a point reads; NaN where it says nothing. */
export function predicted(
  table: Table,
  row: number,
  mode: Reading['mode'],
  phase: Phase,
  net: number,
): Prediction {
  const { dictionary } = table;
  const found = listOf(dictionary, mode, phase);
  if (!found) return { value: NaN, swing: null, span: null, between: [] };
  const { list, perRow, offset } = found;
  const place = offset + net;
  const value = list[row * perRow + place]!;
  const near = neighboursAt(table, row, value, list, perRow, place);
  const between: number[] = [];
  for (const one of near) between.push(list[one * perRow + place]!);
  if (mode !== 'volts')
    return { value, swing: null, span: null, between, unstated: !table.coldStated[net] };
  const here = row * perRow + place;
  let span = dictionary.swings.get(here) ?? null;
  for (const one of near) {
    const swing = dictionary.swings.get(one * perRow + place);
    if (swing)
      span = span ? [Math.min(span[0], swing[0]), Math.max(span[1], swing[1])] : [...swing];
  }
  // A severity between this one, which hiccups, and a milder one, which is steady, swings as well.
  if (dictionary.swings.has(here) && span)
    span = [Math.min(span[0], ...between), Math.max(span[1], ...between)];
  return { value, swing: swingAt(dictionary, here), span, between };
}

/** Rows of the next milder and harder severity; of a set, those of the member that shows at this point. */
function neighboursAt(
  { singles, sets, neighbours }: Table,
  row: number,
  value: number,
  list: Float32Array,
  perRow: number,
  place: number,
): readonly number[] {
  if (row < singles) return neighbours[row]!;
  const near: number[] = [];
  for (const member of sets[row - singles]!) {
    const own = list[member * perRow + place]!;
    if (own === value || Math.abs(own - value) < 0.02 + 0.02 * Math.abs(value))
      near.push(...neighbours[member]!);
  }
  return near;
}
