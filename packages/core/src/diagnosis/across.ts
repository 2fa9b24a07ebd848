import { isFet, isSeriesPart, type Board, type NetId, type Part } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import type { Mode, Phase } from '../readings/index.ts';
import type { Prediction } from './likelihood.ts';
import { predicted, valuesAt, type Table } from './table.ts';

/** The fuse, coil, ferrite, link or sense resistor between two nets. */
export function seriesPartBetween(board: Board, a: NetId, b: NetId): Part | null {
  return (
    board.parts.find(
      (part) =>
        isSeriesPart(part) &&
        part.pins.some((pin) => pin.net === a) &&
        part.pins.some((pin) => pin.net === b),
    ) ?? null
  );
}

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
  const part = seriesPartBetween(board, dictionary.nets[net]!, dictionary.nets[reference]!);
  if (mode !== 'ohms' || phase !== 'cold' || !part) return () => plain(NaN);
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
