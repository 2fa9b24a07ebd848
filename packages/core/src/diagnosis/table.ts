import type { Board, NetId } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import { voltsPlace, type Dictionary } from '../powerup/index.ts';
import type { Phase, Reading } from '../readings/index.ts';
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
  isRail: readonly boolean[];
  /** Switch nodes pulse: a meter's volts say nothing there. */
  isSwitch: readonly boolean[];
  /** Log-likelihoods of the single rows worked out before: a reading never changes. */
  observed: WeakMap<Reading, Float64Array>;
  /** By row: rows of the next milder and the next harder severity of the same fault. */
  neighbours: readonly (readonly number[])[];
}

export function makeTable(board: Board, dictionary: Dictionary): Table {
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  return {
    board,
    dictionary,
    singles: dictionary.rows,
    sets: [],
    placeOf: new Map(dictionary.nets.map((net, place) => [net, place])),
    isRail: dictionary.nets.map((net) => kinds.get(net) === 'rail'),
    observed: new WeakMap(),
    isSwitch: dictionary.nets.map((net) => kinds.get(net) === 'switch'),
    neighbours: severities(board, dictionary),
  };
}

/** Shorts and drifts come in every size; those in the list are steps on the way from healthy (row 0). */
function severities(board: Board, dictionary: Dictionary): number[][] {
  const series = new Map<string, { size: number; row: number }[]>();
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
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

function spanOf({ swings }: Dictionary, places: readonly number[]): [number, number] | null {
  let span: [number, number] | null = null;
  for (const place of places) {
    const swing = swings.get(place);
    if (swing)
      span = [Math.min(swing[0], span?.[0] ?? swing[0]), Math.max(swing[1], span?.[1] ?? swing[1])];
  }
  return span;
}

/** The table with sets of several faults behind its single ones; `dictionary` has a row for each. */
export function withSets(
  table: Table,
  dictionary: Dictionary,
  sets: readonly (readonly number[])[],
): Table {
  return { ...table, dictionary, sets };
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
  const powered = mode === 'volts' && phase !== 'cold' ? phase : null;
  const cold =
    phase !== 'cold'
      ? null
      : mode === 'ohms'
        ? dictionary.ohms
        : mode === 'diode'
          ? dictionary.diode
          : null;
  if (!powered && !cold) return { value: NaN, swing: null, span: null, between: [] };
  const at = (one: number): number =>
    powered
      ? dictionary.volts[voltsPlace(dictionary, one, powered, net)]!
      : cold![one * dictionary.nets.length + net]!;
  const value = at(row);
  const near = neighboursAt(table, row, value, at);
  return {
    value,
    swing: powered ? swingAt(dictionary, voltsPlace(dictionary, row, powered, net)) : null,
    span: powered
      ? spanOf(
          dictionary,
          [row, ...near].map((one) => voltsPlace(dictionary, one, powered, net)),
        )
      : null,
    between: near.map(at),
  };
}

/** Rows of the next milder and harder severity; of a set, those of the member that shows at this point. */
function neighboursAt(
  { singles, sets, neighbours }: Table,
  row: number,
  value: number,
  at: (row: number) => number,
): readonly number[] {
  if (row < singles) return neighbours[row]!;
  return sets[row - singles]!.filter((member) => {
    const own = at(member);
    return own === value || Math.abs(own - value) < 0.02 + 0.02 * Math.abs(value);
  }).flatMap((member) => neighbours[member]!);
}
