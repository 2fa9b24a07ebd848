import type { Board, GoalId, NetId, PartRef } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import { voltsPlace, type Dictionary } from '../powerup/index.ts';
import type { Phase, PoweredPhase, Reading } from '../readings/index.ts';
import { amps, logLikelihood, unknownLogLikelihood, type Prediction } from './likelihood.ts';
import { groundedNet } from './classes.ts';
import { healthyShare, noneShare, priorWeight, type Finding } from './priors.ts';

/** The draw at the source, as first signs and during the trace. */
export interface DrawSign {
  phase: PoweredPhase;
  amps: number | null;
  shape: 'steady' | 'pulsing' | 'limited' | 'rising' | null;
}

export interface Signs {
  draw: readonly DrawSign[];
  /** Lights seen after the press; null where nobody looked. */
  lights: readonly string[] | null;
  fan: boolean | null;
  /** It gives up and goes off after so many seconds; null where it was not seen. */
  offAfterSeconds: number | null;
  /** It comes on by itself when the source is connected. */
  startsOnConnect: boolean | null;
}
export const noSigns: Signs = {
  draw: [],
  lights: null,
  fan: null,
  offAfterSeconds: null,
  startsOnConnect: null,
};

/** All that speaks for and against suspects. */
export interface Evidence {
  readings: readonly { id: string; reading: Reading }[];
  signs: Signs;
  findings: readonly Finding[];
  /** Parts replaced or refitted good: they are no suspects any more. */
  cleared: readonly PartRef[];
  /** What the board was brought in for not doing; null where nobody said. */
  goal: GoalId | null;
}

/** Something observed: its log-likelihood under each row of the dictionary, and under none of them. */
export interface Observation {
  /** The reading it is; null for signs and the complaint. */
  id: string | null;
  text: string;
  byRow: Float64Array;
  byNone: number;
}

export interface Table {
  board: Board;
  dictionary: Dictionary;
  /** First fault of each row; null for the healthy one. */
  faultOf: readonly (Fault | null)[];
  placeOf: ReadonlyMap<NetId, number>;
  isRail: readonly boolean[];
  /** Switch nodes pulse: a meter's volts say nothing there. */
  isSwitch: readonly boolean[];
  /** Observations worked out before: a reading never changes. */
  observed: WeakMap<Reading, Observation>;
  /** By row: rows of the next milder and the next harder severity of the same fault. */
  neighbours: readonly (readonly number[])[];
}

export function makeTable(board: Board, dictionary: Dictionary): Table {
  const faultOf = new Array<Fault | null>(dictionary.rows).fill(null);
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    faultOf[row] ??= fault;
  });
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  return {
    board,
    dictionary,
    faultOf,
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

/** What a row says a point reads; NaN where it says nothing. */
export function predicted(
  { dictionary, neighbours }: Table,
  row: number,
  mode: Reading['mode'],
  phase: Phase,
  net: number,
): Prediction {
  const { nets } = dictionary;
  if (mode === 'volts' && phase !== 'cold') {
    const place = voltsPlace(dictionary, row, phase, net);
    return {
      value: dictionary.volts[place]!,
      swing: swingAt(dictionary, place),
      span: spanOf(
        dictionary,
        [row, ...neighbours[row]!].map((one) => voltsPlace(dictionary, one, phase, net)),
      ),
      between: neighbours[row]!.map(
        (one) => dictionary.volts[voltsPlace(dictionary, one, phase, net)]!,
      ),
    };
  }
  const list = mode === 'ohms' ? dictionary.ohms : mode === 'diode' ? dictionary.diode : null;
  if (!list || phase !== 'cold') return { value: NaN, swing: null, span: null, between: [] };
  return {
    value: list[row * nets.length + net]!,
    swing: null,
    span: null,
    between: neighbours[row]!.map((one) => list[one * nets.length + net]!),
  };
}

/** Faults of parts that were replaced, and of what is unplugged. */
export function outOfQuestion(
  { board, dictionary }: Table,
  evidence: Evidence,
): (fault: Fault) => boolean {
  const out = new Set<string>(evidence.cleared);
  for (const one of [...board.parts, ...board.chips])
    if (one.on !== null && dictionary.unplugged.includes(one.on)) out.add(one.ref);
  return (fault) => 'part' in fault && out.has(fault.part);
}

/** ln prior of every row and, last, of none of them. */
export function logPriors(table: Table, evidence: Evidence): Float64Array {
  const { board, dictionary } = table;
  const weights = new Float64Array(dictionary.rows + 1);
  const out = outOfQuestion(table, evidence);
  let sum = 0;
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (out(fault) || dictionary.invalid.has(row)) return;
    const weight = priorWeight(board, fault, evidence.findings);
    weights[row]! += weight;
    sum += weight;
  });
  const logs = new Float64Array(weights.length);
  const known = 1 - healthyShare - noneShare;
  for (let row = 1; row < dictionary.rows; row++)
    logs[row] = Math.log((weights[row]! / sum) * known);
  logs[0] = Math.log(healthyShare);
  logs[dictionary.rows] = Math.log(noneShare);
  return logs;
}

/** Everything observed that this dictionary can speak of; `unused` names what it cannot, and why. */
export function observations(
  table: Table,
  evidence: Evidence,
): { used: Observation[]; unused: { id: string; why: string }[] } {
  const used: Observation[] = [];
  const unused: { id: string; why: string }[] = [];
  for (const { id, reading } of evidence.readings) {
    const why = whyUnused(table, reading);
    if (why !== null) {
      unused.push({ id, why });
      continue;
    }
    let known = table.observed.get(reading);
    if (!known) table.observed.set(reading, (known = readingObservation(table, id, reading)));
    used.push(known.id === id ? known : { ...known, id });
  }
  used.push(...signObservations(table, evidence.signs));
  const goal = goalObservation(table, evidence.goal);
  if (goal) used.push(goal);
  return { used, unused };
}

function whyUnused({ placeOf }: Table, { at, reference, mode, lifted }: Reading): string | null {
  if (!placeOf.has(at.net as NetId)) return `${at.net} is not on the sheet`;
  if (reference && !placeOf.has(reference.net as NetId))
    return `${reference.net} is not on the sheet`;
  if (mode === 'celsius' || mode === 'seconds') return `${mode} are kept for the report only`;
  if (mode === 'amps') return 'draw is taken as a sign, amps elsewhere are not played';
  if (lifted.length > 0) return `taken with ${lifted.join(', ')} off the board`;
  return null;
}

function readingObservation(table: Table, id: string, reading: Reading): Observation {
  const { dictionary, placeOf, isRail } = table;
  const { mode, phase, value, reference } = reading;
  const net = placeOf.get(reading.at.net as NetId)!;
  const other = reference ? placeOf.get(reference.net as NetId)! : null;
  const rail = isRail[net]! && other === null;
  const at = (row: number): Prediction => {
    const here = predicted(table, row, mode, phase, net);
    if (other === null) return here;
    // Across a part only volts add up.
    const there = predicted(table, row, mode, phase, other);
    return {
      value: mode === 'volts' ? here.value - there.value : NaN,
      swing: null,
      span: null,
      between: here.between.map((one, index) => one - (there.between[index] ?? there.value)),
    };
  };
  const byRow = new Float64Array(dictionary.rows);
  for (let row = 0; row < dictionary.rows; row++)
    byRow[row] = logLikelihood(mode, value, at(row), rail);
  const healthy = at(0).value;
  return {
    id,
    text: reading.at.net,
    byRow,
    byNone: Number.isNaN(healthy) ? 0 : unknownLogLikelihood(mode, value, healthy, rail),
  };
}

const tellsTrue = 0.95;
/** A yes-or-no sign: rarely is what was seen not so. */
const yesNo = (agrees: boolean): number => Math.log(agrees ? tellsTrue : 1 - tellsTrue);

function signObservations({ dictionary, neighbours }: Table, signs: Signs): Observation[] {
  const { rows, phaseCount } = { rows: dictionary.rows, phaseCount: 4 };
  const phaseOrder: readonly PoweredPhase[] = ['standby', 'pressed', 'trying', 'run'];
  const list: Observation[] = [];
  const add = (text: string, byNone: number, of: (row: number) => number): void => {
    const byRow = new Float64Array(rows);
    for (let row = 0; row < rows; row++) byRow[row] = of(row);
    list.push({ id: null, text, byRow, byNone });
  };
  const swings = (row: number, phase: PoweredPhase): boolean => {
    for (let net = 0; net < dictionary.nets.length; net++)
      if (swingAt(dictionary, voltsPlace(dictionary, row, phase, net))) return true;
    return false;
  };
  for (const { phase, amps: drawn, shape } of signs.draw) {
    const index = phaseOrder.indexOf(phase);
    const of = (row: number): number => dictionary.amps[row * phaseCount + index]!;
    // What pulses is drawn between its mean and its peak: only a steady draw is held to the amp.
    if (drawn !== null && shape !== 'pulsing')
      add(`draw in ${phase}`, Math.log(1 / 5), (row) =>
        amps(drawn, { value: of(row), swing: null, span: null, between: neighbours[row]!.map(of) }),
      );
    if (shape === 'pulsing' || shape === 'steady')
      add(`draw in ${phase} is ${shape}`, Math.log(0.5), (row) =>
        // A slow supply shows an average: what swings is often called steady, seldom the other way.
        Math.log(
          swings(row, phase)
            ? shape === 'pulsing'
              ? 0.65
              : 0.35
            : shape === 'pulsing'
              ? 0.08
              : 0.92,
        ),
      );
  }
  const { lights, fan, offAfterSeconds, startsOnConnect } = signs;
  if (lights !== null) {
    const mask = dictionary.lights.reduce(
      (sum, ref, bit) => sum + (lights.includes(ref) ? 2 ** bit : 0),
      0,
    );
    add('lights', Math.log(0.4), (row) => yesNo(dictionary.lit[row] === mask));
  }
  if (fan !== null)
    add('fan', Math.log(0.5), (row) => yesNo((dictionary.turning[row] === 1) === fan));
  if (offAfterSeconds !== null)
    add('goes off by itself', Math.log(0.4), (row) =>
      yesNo(!Number.isNaN(dictionary.offAfter[row]!)),
    );
  if (startsOnConnect !== null)
    add('starts on connection', Math.log(0.2), (row) =>
      yesNo((dictionary.startsItself[row] === 1) === startsOnConnect),
    );
  return list;
}

/** The board was brought in because it does not reach its goal. */
function goalObservation(
  { board, dictionary, placeOf }: Table,
  id: GoalId | null,
): Observation | null {
  const goal = board.goals.find((one) => one.id === id);
  if (!goal) return null;
  const reaches = (row: number): boolean =>
    goal.reached.every(({ net, side, volts }) => {
      const place = placeOf.get(net);
      if (place === undefined) return true;
      const here = dictionary.volts[voltsPlace(dictionary, row, goal.phase, place)]!;
      return side === 'above' ? here > volts : here < volts;
    });
  // What even the healthy board does not do on this bench (no battery, no panel) tells nothing.
  if (!reaches(0)) return null;
  const byRow = new Float64Array(dictionary.rows);
  // Intermittent faults and marginal severities: it may reach it in the play and not on the bench.
  for (let row = 0; row < dictionary.rows; row++) byRow[row] = Math.log(reaches(row) ? 0.03 : 0.97);
  return {
    id: null,
    text: `it does not do what it came for: ${goal.title}`,
    byRow,
    byNone: Math.log(0.9),
  };
}
