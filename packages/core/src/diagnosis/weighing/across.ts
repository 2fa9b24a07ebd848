import { shortOhms, type ColdKnowledge } from './cold-knowledge.ts';
import { isFet, isSeriesPart, type Board, type NetId, type Part } from '../../board/index.ts';
import {
  poweredPhases,
  type Mode,
  type Phase,
  type Reading,
  leadOhms,
} from '../../readings/index.ts';
import type { Spot } from '../../cold/index.ts';
import type { Point, Prediction } from './densities.ts';
import { faultsAt, predicted, valuesAt, type Table } from './table.ts';

// What hypotheses say of a reading, wherever its two leads stand: on a net, on a pin that may be cut
// off from it, to ground or to any other point.

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

/** Resistors a meter may be put across, unpowered. */
export function measurable(board: Board): { part: Part; net: NetId; reference: NetId }[] {
  return board.parts.flatMap((part) => {
    const [a, b] = part.pins.map((pin) => pin.net);
    if (!part.fitted || part.kind !== 'resistor' || isSeriesPart(part) || !a || !b) return [];
    return a !== board.ground && b !== board.ground ? [{ part, net: a, reference: b }] : [];
  });
}

/** A reading of which only the numbers are still to come. */
export interface Probed {
  at: Spot;
  /** Null: ground. */
  against: Spot | null;
  mode: Mode;
  phase: Phase;
  polarity: Reading['polarity'];
}

/** What each row says of it, and what is known of the point beside. */
export interface Predictor {
  point: Point;
  of(row: number): Prediction;
  /** Its value alone: much sooner told where neighbouring sizes would have to be solved. */
  valueOf(row: number): number;
}

const nothing: Prediction = { value: NaN, swing: null, span: null, near: [] };
const steady = (value: number, near: Prediction['near'] = []): Prediction => ({
  value,
  swing: null,
  span: null,
  near,
});

/** Null where the plays do not speak of such a reading at all. */
export function predictorFor(table: Table, probed: Probed): Predictor | null {
  const { mode, phase } = probed;
  if (mode === 'volts') return phase === 'cold' ? null : voltsPredictor(table, probed);
  if ((mode === 'ohms' || mode === 'diode') && phase === 'cold')
    return coldPredictor(table, probed);
  return null;
}

const rowsCutting = (table: Table, { ref, pin }: Spot): readonly number[] =>
  (ref !== null && pin !== null && table.islands.get(`${ref} ${pin}`)) || [];

function voltsPredictor(table: Table, { at, against, phase }: Probed): Predictor | null {
  const { dictionary, placeOf, board } = table;
  const endOf = (spot: Spot): ((row: number) => Prediction) | null => {
    if (spot.net === board.ground) return () => steady(0);
    const place = placeOf.get(spot.net);
    if (place === undefined) return null;
    const cut = new Set(rowsCutting(table, spot));
    const index = poweredPhases.indexOf(phase as (typeof poweredPhases)[number]);
    return (row) => {
      const isCut =
        row < table.singles
          ? cut.has(row)
          : table.sets[row - table.singles]!.some((one) => cut.has(one));
      if (isCut) return steady(dictionary.islandVolts[row * poweredPhases.length + index]!);
      return predicted(table, row, 'volts', phase, place);
    };
  };
  const here = endOf(at);
  const there = against && endOf(against);
  if (!here || (there === null && against !== null)) return null;
  const of = (row: number): Prediction => {
    const one = here(row);
    if (!there) return one;
    const other = there(row);
    // What swings at one end says nothing steady across.
    if (one.swing || other.swing) return nothing;
    return steady(
      one.value - other.value,
      one.near.map((near, index) => ({
        value: near.value - (other.near[index]?.value ?? other.value),
        span: null,
      })),
    );
  };
  const place = placeOf.get(at.net) ?? 0;
  return {
    of,
    valueOf: (row) => of(row).value,
    point: {
      where: against ? 'across' : table.where[place]!,
      healthy: of(0).value,
      upVolts: table.upVolts[place] ?? 0,
      cold: { kind: 'drawn' },
      range: against ? null : (table.ranges[place] ?? null),
      tolerance: table.tolerances[place] ?? 0,
      isCore: table.isCore[place] ?? false,
    },
  };
}

function coldPredictor(table: Table, probed: Probed): Predictor | null {
  const { board, placeOf, dictionary, singles } = table;
  const { at, against, mode, polarity } = probed;
  const ground: Spot = { net: board.ground, ref: null, pin: null };
  const [here, there] = [placeOf.get(at.net), against ? placeOf.get(against.net) : undefined];
  const other = against && against.net !== board.ground ? against : null;
  if (here === undefined && at.net !== board.ground) return null;
  if (other && there === undefined) return null;
  const isUsual = mode === 'ohms' || polarity === 'black-on-point';
  const kept = here !== undefined && other === null && isUsual;
  const cut = new Set([...rowsCutting(table, at), ...(other ? rowsCutting(table, other) : [])]);
  const pair = (): ReturnType<ReturnType<Table['reader']>['between']> =>
    table.reader().between(at, other ?? ground, mode === 'ohms' ? 'ohms' : polarity);
  const key =
    [at, other ?? ground].map((one) => `${one.net} ${one.ref} ${one.pin}`).join() + mode + polarity;
  let known = table.crossed.get(key);
  if (!known) table.crossed.set(key, (known = { singles: new Map(), sets: new WeakMap() }));
  const { singles: bySingle, sets: bySet } = known;
  const solve = (row: number): number => {
    const value = row === 0 ? pair().healthy : pair().under(faultsAt(table, row));
    return mode === 'ohms' && value < 2 ? value + leadOhms.usual : value;
  };
  const solved = (row: number): number => {
    // The rows of sets of several faults are written anew now and then.
    const set = row >= singles ? table.played[row - singles]! : null;
    let value = set ? bySet.get(set) : bySingle.get(row);
    if (value === undefined) {
      value = solve(row);
      if (set) bySet.set(set, value);
      else bySingle.set(row, value);
    }
    return value;
  };
  const list = mode === 'ohms' ? dictionary.ohms : dictionary.diode;
  const isCut = (row: number): boolean =>
    cut.size > 0 &&
    (row < singles ? cut.has(row) : table.sets[row - singles]!.some((one) => cut.has(one)));
  const valueOf = (row: number): number =>
    kept && !isCut(row) ? list[row * dictionary.nets.length + here]! : solved(row);
  const of = (row: number): Prediction =>
    kept && !isCut(row)
      ? predicted(table, row, mode, 'cold', here)
      : steady(
          solved(row),
          row < singles
            ? table.neighbours[row]!.map((one) => ({ value: valueOf(one), span: null }))
            : [],
        );
  const healthy = valueOf(0);
  return {
    of,
    valueOf: (row) =>
      kept && !isCut(row) ? predicted(table, row, mode, 'cold', here).value : solved(row),
    point: {
      where: other ? 'across' : table.where[here ?? 0]!,
      healthy,
      upVolts: 0,
      cold: other
        ? betweenKnowledge(table, healthy, here, there, probed)
        : knowledgeOf(table, mode, here),
      isCore: other === null && here !== undefined && table.isCore[here]!,
      isDriven: other === null && here !== undefined && table.isDriven[here]!,
    },
  };
}

const knowledgeOf = (table: Table, mode: Mode, place: number | undefined): ColdKnowledge =>
  place === undefined ? { kind: 'drawn' } : table.cold[mode === 'ohms' ? 'ohms' : 'diode'][place]!;

/** A path this much lower than what either end has to ground is what is read. */
const directPart = 0.3;

/** Between two points: drawn parts decide where they lead more directly than what stands behind both ends. */
function betweenKnowledge(
  table: Table,
  healthy: number,
  here: number | undefined,
  there: number | undefined,
  { mode, at, against }: Probed,
): ColdKnowledge {
  const { board, dictionary } = table;
  if (board.guessed.length > 0) return { kind: 'nothing', shortOhms: shortOhms.rail };
  if (mode === 'diode') {
    const joins = board.parts.some(
      (part) =>
        part.fitted &&
        part.kind !== 'capacitor' &&
        part.pins.some((pin) => pin.net === at.net) &&
        part.pins.some((pin) => pin.net === against?.net),
    );
    if (joins && healthy < 1) return { kind: 'drawn' };
  } else {
    const behind = [here, there].map((place) =>
      place === undefined ? Infinity : dictionary.ohms[place]!,
    );
    if (healthy < directPart * Math.min(...behind)) return { kind: 'drawn' };
  }
  const [left, right] = [here, there].map((place) => knowledgeOf(table, mode, place)) as [
    ColdKnowledge,
    ColdKnowledge,
  ];
  if (left.kind === 'ceiling' || right.kind === 'ceiling') return { kind: 'ceiling' };
  return left.kind === 'stated' ? left : right;
}

/** Predictions as plain numbers, for readings that are only weighed against each other. */
export function valuesOf(table: Table, probed: Probed): ReturnType<typeof valuesAt> {
  const { at, against, mode, phase } = probed;
  const place = table.placeOf.get(at.net);
  if (!against && place !== undefined && rowsCutting(table, at).length === 0)
    return valuesAt(table, mode, phase, place);
  if (mode === 'volts' && against && place !== undefined) {
    const here = valuesAt(table, mode, phase, place);
    const there = valuesAt(table, mode, phase, table.placeOf.get(against.net) ?? 0);
    return {
      value: (row) =>
        here.swings(row) || there.swings(row) ? NaN : here.value(row) - there.value(row),
      swings: () => false,
    };
  }
  const predictor = predictorFor(table, probed);
  return {
    value: (row) => predictor?.valueOf(row) ?? NaN,
    swings: (row) => mode === 'volts' && predictor !== null && predictor.of(row).swing !== null,
  };
}
