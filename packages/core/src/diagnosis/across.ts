import {
  isFet,
  isSeriesPart,
  partBetween,
  type Board,
  type NetId,
  type Part,
} from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import { readCold } from '../powerup/index.ts';
import { usualMeter, type Mode, type Phase, type Reading } from '../readings/index.ts';
import type { Prediction } from './likelihood.ts';
import { predicted, valuesAt, type Table } from './table.ts';

/** Parts a probe may be put across, with their two nets: in the way of a current, FETs included. */
export function crossable(board: Board): { part: Part; net: NetId; reference: NetId }[] {
  return board.parts.flatMap((part) => {
    if (!part.fitted || !(isSeriesPart(part) || isFet(part))) return [];
    const [a, b] = part.pins.filter((pin) => pin.name !== 'G').map((pin) => pin.net);
    return a && b && a !== board.ground && b !== board.ground
      ? [{ part, net: a, reference: b }]
      : [];
  });
}

/** Leads and contacts of a hand-held meter add this to what is next to nothing. */
const leadOhms = 0.2;

/** What each row says is read from one net to another; NaN where it says nothing. */
export function predictorAcross(
  table: Table,
  mode: Mode,
  phase: Phase,
  net: number,
  reference: number,
  polarity: Reading['polarity'] = mode === 'diode' ? 'black-on-point' : 'red-on-point',
): (row: number) => Prediction {
  const plain = (value: number, between: number[] = []): Prediction => ({
    value,
    swing: null,
    span: null,
    between,
  });
  if (mode === 'volts')
    return (row) => {
      const here = predicted(table, row, mode, phase, net);
      const there = predicted(table, row, mode, phase, reference);
      // What swings at one end says nothing steady across.
      if (here.swing || there.swing) return plain(NaN);
      return plain(
        here.value - there.value,
        here.between.map((one, index) => one - (there.between[index] ?? there.value)),
      );
    };
  const { board, dictionary } = table;
  const part = partBetween(board, dictionary.nets[net]!, dictionary.nets[reference]!);
  if ((mode !== 'ohms' && mode !== 'diode') || phase !== 'cold' || !part) return () => plain(NaN);
  if (isFet(part)) {
    const ends =
      polarity === 'black-on-point' || mode === 'ohms' ? [net, reference] : [reference, net];
    const at = acrossFet(table, part, mode, ends[0]!, ends[1]!);
    return (row) =>
      plain(row < table.singles ? at(row) : Math.min(...table.sets[row - table.singles]!.map(at)));
  }
  if (mode === 'diode') return () => plain(NaN);
  // Next to it nothing else matters: through it while it is whole, not through it when it is open.
  const open = new Set<number>();
  const drifted = new Map<number, number>();
  dictionary.faults.forEach((fault, index) => {
    if (!('part' in fault) || fault.part !== part.ref) return;
    const row = dictionary.rowOf[index]!;
    if (isOpen(fault)) open.add(row);
    else if (fault.kind === 'drift') drifted.set(row, fault.factor);
  });
  const own = part.kind === 'resistor' ? (part.value ?? 0) : 0;
  const ofSingle = (row: number): number =>
    open.has(row) ? Infinity : leadOhms + own * (drifted.get(row) ?? 1);
  return (row) =>
    plain(
      row < table.singles
        ? ofSingle(row)
        : Math.max(...table.sets[row - table.singles]!.map(ofSingle)),
    );
}

/**
 * Across a FET: its own faults are solved one by one; what shorts either side to ground may turn the
 * reading and is left out; all else reads as the healthy board.
 */
function acrossFet(
  table: Table,
  part: Part,
  mode: 'ohms' | 'diode',
  net: number,
  reference: number,
): (row: number) => number {
  const { board, dictionary } = table;
  const key = `${net} ${reference} ${mode}`;
  let known = table.acrossFets.get(key);
  if (!known) {
    const [a, b] = [dictionary.nets[net]!, dictionary.nets[reference]!];
    const read = (faults: readonly Fault[]): number =>
      readCold(board, dictionary.off, faults, usualMeter).across(a, b, mode);
    const own = new Map<number, number>();
    dictionary.faults.forEach((fault, index) => {
      const row = dictionary.rowOf[index]!;
      if ('part' in fault && fault.part === part.ref && !own.has(row)) own.set(row, read([fault]));
    });
    table.acrossFets.set(key, (known = { healthy: read([]), own }));
  }
  const { healthy, own } = known;
  const ohmsAt = (row: number, at: number): number =>
    dictionary.ohms[row * dictionary.nets.length + at]!;
  const isPulledDown = (row: number): boolean =>
    [net, reference].some((at) => ohmsAt(row, at) < 0.1 * Math.min(ohmsAt(0, at), 1e6));
  return (row) => own.get(row) ?? (isPulledDown(row) ? NaN : healthy);
}

/** The same as plain numbers, for readings that are only weighed against each other. */
export function valuesAcross(
  table: Table,
  mode: Mode,
  phase: Phase,
  net: number,
  reference: number,
): ReturnType<typeof valuesAt> {
  if (mode === 'volts') {
    const here = valuesAt(table, mode, phase, net);
    const there = valuesAt(table, mode, phase, reference);
    return {
      value: (row) =>
        here.swings(row) || there.swings(row) ? NaN : here.value(row) - there.value(row),
      swings: () => false,
    };
  }
  const predict = predictorAcross(table, mode, phase, net, reference);
  return { value: (row) => predict(row).value, swings: () => false };
}

const isOpen = (fault: Fault): boolean => fault.kind === 'open' || fault.kind === 'trace-open';
