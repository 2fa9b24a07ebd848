import {
  drivenNets,
  type Board,
  type GoalId,
  type NetId,
  findChip,
  findPart,
} from '../../board/index.ts';
import { islandOf, type Fault, groundedNet } from '../../faults/index.ts';
import { makeColdReader, type ColdReader } from '../../cold/index.ts';
import { voltsPlace, type Dictionary } from '../../dictionary/index.ts';
import {
  lowByNature,
  poweredPhases,
  usualMeter,
  usualTolerance,
  type Phase,
  type PoweredPhase,
  type Reading,
  leastSwingVolts,
} from '../../readings/index.ts';
import { coldKnowledge, toldCold, type ColdKnowledge } from './cold-knowledge.ts';
import type { Prediction } from './densities.ts';
import type { Known } from '../evidence/finding.ts';
import { baseWeight } from './priors.ts';
import { makersOf, otherwise, type Maker } from './undecided.ts';

export interface Signed {
  signs: string;
  byRow: readonly Float64Array[];
  sets: WeakMap<readonly Fault[], number[]>;
}

export interface Table {
  board: Board;
  dictionary: Dictionary;
  /** Rows of single faults, the healthy one included; sets of several stand behind them. */
  singles: number;
  /** Rows of the faults of each set, from row `singles` on; a set of one is that fault in another size. */
  sets: readonly (readonly number[])[];
  /** What was played in the row of each set: of another size, that size. */
  played: readonly (readonly Fault[])[];
  placeOf: ReadonlyMap<NetId, number>;
  where: readonly ('rail' | 'signal' | 'light')[];
  /** On a sheet of guesses, volts between which a net is as good as at any; null where it has a value. */
  ranges: readonly (readonly [number, number] | null)[];
  /** By net: part of its volts that a verdict allows a good board. */
  tolerances: readonly number[];
  /** What the sheet says of cold readings, by net, in ohms and in diode-mode. */
  cold: { ohms: readonly ColdKnowledge[]; diode: readonly ColdKnowledge[] };
  /** Highest volts of each net on the healthy board. */
  upVolts: Float64Array;
  /** Rails that read near nothing by nature. */
  isCore: readonly boolean[];
  /** Nets that chips' outputs hold high and low. */
  isDriven: readonly boolean[];
  /** Switch nodes pulse: a meter's volts say nothing there. */
  isSwitch: readonly boolean[];
  /** Log-likelihoods worked out before, of the single rows and of sets: a reading never changes. */
  observed: WeakMap<
    Reading,
    {
      times: number;
      isTouched: boolean;
      byRow: Float64Array;
      between: Float32Array;
      sets: WeakMap<readonly Fault[], number>;
    }
  >;
  /** By goal and single row that was played: whether it is reached, as far as it was asked. */
  reaches: Map<GoalId, Uint8Array>;
  /** Pairs of single rows that were compared: whether they read the same everywhere. */
  alike: Map<number, boolean>;
  /** By phase and single row: how far anything moves, see `Swinging` in sign-observations.ts. */
  swinging: Map<PoweredPhase, Uint8Array>;
  /** Single rows in which several nets come and go again, see sign-observations.ts; null until asked. */
  restarting: { rows: Uint8Array | null };
  /**
   * Log-likelihoods under the signs asked about last, in their order, of the single rows and of sets, and
   * which those signs were.
   */
  signed: Signed;
  /** By row of an open fuse: rows of the shorts behind it, see blown.ts. */
  blown: Map<number, ReadonlySet<number>>;
  /** Cold readings between any two points, made when first asked about. */
  reader: () => ColdReader;
  /** Cold readings between two points by single row, and by set of faults, as far as they were asked about. */
  crossed: Map<string, { singles: Map<number, number>; sets: WeakMap<readonly Fault[], number> }>;
  /** Pins that a cut trace leaves on their own, as `ref pin`, and the rows in which it does. */
  islands: ReadonlyMap<string, readonly number[]>;
  /** The fault of each single row but the healthy one: one of those it stands for. */
  faultOf: readonly (Fault | null)[];
  /** By single row: the faults it stands for, by their number. */
  faultsIn: readonly (readonly number[])[];
  /** By fault: its weight by kind alone. */
  base: Float64Array;
  /** By what is known of a board: weights by fault. */
  weighed: WeakMap<Known, Float64Array>;
  /** By net: the regulators that make it or report on it, see undecided.ts. */
  makers: readonly (readonly Maker[])[];
  /** By row: rows of the next milder and the next harder severity of the same fault. */
  neighbours: readonly (readonly number[])[];
}

export function makeTable(board: Board, dictionary: Dictionary): Table {
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  const netById = new Map(board.nets.map((net) => [net.id, net]));
  const faultOf: (Fault | null)[] = new Array<Fault | null>(dictionary.rows).fill(null);
  const islands = new Map<string, number[]>();
  const faultsIn = faultOf.map((): number[] => []);
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    faultsIn[row]?.push(index);
    if (row !== dictionary.goneRow) faultOf[row] ??= fault;
    for (const { ref, pin } of islandOf(board, fault)?.places ?? []) {
      const key = `${ref} ${pin}`;
      islands.set(key, [...(islands.get(key) ?? []), row]);
    }
  });
  const atLights = new Set(
    board.parts.flatMap((part) => (part.kind === 'led' ? part.pins.map((pin) => pin.net) : [])),
  );
  const driven = drivenNets(board);
  let reader: ColdReader | null = null;
  const upVolts = Float64Array.from(dictionary.nets, (_, net) =>
    Math.max(
      ...poweredPhases.map((phase) => dictionary.volts[voltsPlace(dictionary, 0, phase, net)]!),
      0,
    ),
  );
  return {
    board,
    dictionary,
    singles: dictionary.rows,
    sets: [],
    played: [],
    placeOf: new Map(dictionary.nets.map((net, place) => [net, place])),
    where: dictionary.nets.map((net) =>
      kinds.get(net) === 'rail' ? 'rail' : atLights.has(net) ? 'light' : 'signal',
    ),
    cold: coldKnowledge(board, dictionary.nets),
    upVolts,
    ranges: dictionary.nets.map((id) => {
      const range = board.guessed.length > 0 ? netById.get(id)?.rangeVolts : null;
      return range ? [range[0] * 0.97, range[1] * 1.03] : null;
    }),
    tolerances: dictionary.nets.map((id) => {
      const net = netById.get(id);
      if (!net) return 0;
      return net.tolerance ?? usualTolerance(net.origin, net.kind === 'rail' ? 'rail' : 'other');
    }),
    isCore: dictionary.nets.map((id) => {
      const net = netById.get(id);
      return net !== undefined && lowByNature(net);
    }),
    isDriven: dictionary.nets.map((net) => driven.has(net)),
    observed: new WeakMap(),
    reaches: new Map(),
    alike: new Map(),
    swinging: new Map(),
    restarting: { rows: null },
    signed: { signs: '', byRow: [], sets: new WeakMap() },
    blown: new Map(),
    reader: () => (reader ??= makeColdReader(board, usualMeter, dictionary.off)),
    crossed: new Map(),
    islands,
    faultOf,
    faultsIn,
    base: Float64Array.from(dictionary.faults, (fault) => baseWeight(board, fault)),
    weighed: new WeakMap(),
    isSwitch: dictionary.nets.map((net) => kinds.get(net) === 'switch'),
    makers: makersOf(board, dictionary.nets),
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
      case 'nets-joined':
        add(`short ${[...fault.nets].sort().join(' ')}`, -Math.log(fault.ohms));
        break;
      case 'drift':
        add(`${fault.part} ${fault.factor > 1 ? 'up' : 'down'}`, Math.abs(Math.log(fault.factor)));
        break;
      case 'high':
        add(`${fault.part} up`, Math.log(fault.ohms));
        break;
      case 'weak':
        add(`${fault.part} ${fault.pin} weak`, -Math.log(fault.factor));
        break;
      case 'output-dead':
        add(`${fault.part} ${fault.pin} weak`, Infinity);
        break;
      case 'off-value':
        add(
          `${fault.part} ${fault.pin} ${fault.factor > 1 ? 'above' : 'below'}`,
          Math.abs(Math.log(fault.factor)),
        );
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
  const part = findPart(board, fault.part);
  const chip = findChip(board, fault.part);
  return fault.pins
    .map((pin) => chip?.pins.get(pin) ?? part?.pins.find((one) => one.name === pin)?.net ?? '')
    .filter((net) => net !== board.ground)
    .sort()
    .join(' ');
}

/** A regulator that hiccups into a hard short moves its rail by less than a meter shows as swinging. */
export function swingAt({ swings }: Dictionary, place: number): readonly [number, number] | null {
  const swing = swings.get(place);
  return swing && swing[1] - swing[0] > leastSwingVolts ? swing : null;
}

/** A fault of a single row: all faults of it are one to the circuit. */
export function faultAt({ dictionary, faultOf }: Table, row: number): Fault {
  return faultOf[row] ?? dictionary.faults[dictionary.rowOf.indexOf(row)]!;
}

/** The listed row of a single fault, whatever its size; null for sets of several. */
export function listedRow({ singles, sets }: Table, row: number): number | null {
  if (row < singles) return row;
  const members = sets[row - singles]!;
  return members.length === 1 ? members[0]! : null;
}

/** Faults that a row was played with. */
export function faultsAt(table: Table, row: number): readonly Fault[] {
  if (row >= table.singles) return table.played[row - table.singles]!;
  const fault = table.faultOf[row];
  return fault ? [fault] : [];
}

/** The table with sets of several faults behind its single ones; `dictionary` has a row for each. */
export function withSets(
  table: Table,
  dictionary: Dictionary,
  sets: readonly (readonly number[])[],
  played: readonly (readonly Fault[])[],
): Table {
  return { ...table, dictionary, sets, played };
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
  { dictionary, cold, ranges }: Table,
  mode: Reading['mode'],
  phase: Phase,
  net: number,
): { value: (row: number) => number; swings: (row: number) => boolean } {
  const found = listOf(dictionary, mode, phase);
  if (!found) return { value: () => NaN, swings: () => false };
  const { list, perRow, offset } = found;
  const place = offset + net;
  const isVolts = mode === 'volts';
  const healthy = list[place]!;
  const knowledge = isVolts ? null : cold[mode === 'ohms' ? 'ohms' : 'diode'][net]!;
  const range = isVolts ? ranges[net]! : null;
  /** Any volts in the range are read under each row that has some of them. */
  const isAny = (value: number): boolean =>
    range !== null && value >= range[0] && value <= range[1];
  return {
    value: (row) => {
      const value = list[row * perRow + place]!;
      if (knowledge) return toldCold(knowledge, mode, value, healthy);
      return range && isAny(value) ? (isAny(healthy) ? healthy : range[1]) : value;
    },
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
  if (!found) return { value: NaN, swing: null, span: null, near: [] };
  const { list, perRow, offset } = found;
  const place = offset + net;
  const value = list[row * perRow + place]!;
  const isVolts = mode === 'volts';
  const near: { value: number; span: readonly [number, number] | null }[] = [];
  for (const one of neighboursAt(table, row, value, list, perRow, place)) {
    const its = list[one * perRow + place]!;
    // Not played yet: it says nothing.
    if (Number.isNaN(its)) continue;
    near.push({
      value: its,
      span: isVolts ? (dictionary.swings.get(one * perRow + place) ?? null) : null,
    });
  }
  if (!isVolts) return { value, swing: null, span: null, near };
  const here = row * perRow + place;
  return {
    value,
    swing: swingAt(dictionary, here),
    span: dictionary.swings.get(here) ?? null,
    near,
    or: phase === 'cold' ? null : otherwise(dictionary, table.makers[net]!, row, phase, net),
  };
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
