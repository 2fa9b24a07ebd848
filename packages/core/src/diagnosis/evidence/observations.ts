import {
  undrivenBecause,
  commonGoals,
  goalTitle,
  isOff,
  type GoalId,
  type NetId,
} from '../../board/index.ts';
import type { Fault } from '../../faults/index.ts';
import { isProvoked, type Reading } from '../../readings/index.ts';
import type { Evidence, Observation } from './evidence.ts';
import { answersButton, isPlayed, reachesGoal } from '../../dictionary/index.ts';
import type { Spot } from '../../cold/index.ts';
import { signObservations } from './sign-observations.ts';
import { benchOfReading, benchText, carriedOver, speaksOf, type BenchOf } from './other-bench.ts';
import {
  logLikelihood,
  loosenedLogLikelihood,
  unknownLogLikelihood,
} from '../weighing/likelihood.ts';
import { blownLogPrior } from '../weighing/blown.ts';
import { faultWeights } from '../weighing/fault-weights.ts';
import {
  healthyShare,
  healthyShareOfReached,
  noneShare,
  severalShare,
} from '../weighing/priors.ts';
import { predictorFor } from '../weighing/across.ts';
import { fillBetween, severitySteps } from '../weighing/severity.ts';
import { warmthObservation, whyNoWarmth } from './warmth.ts';
import type { Table } from '../weighing/table.ts';

/** Faults of parts that were replaced, and of what is unplugged. */
export function outOfQuestion(
  { board, dictionary }: Table,
  evidence: Evidence,
): (fault: Fault) => boolean {
  const out = new Set<string>(evidence.cleared);
  // What was never plugged in while something was read cannot have been what stops the board.
  const seen = new Set(evidence.readings.flatMap(({ reading }) => reading.attached));
  const unplugged = dictionary.off.unplugged?.filter((id) => !seen.has(id));
  for (const one of [...board.parts, ...board.chips])
    if (isOff({ unplugged }, one)) out.add(one.ref);
  return (fault) => 'part' in fault && out.has(fault.part);
}

/** ln prior of every row and, last, of none of them. */
export function logPriors(table: Table, evidence: Evidence): Float64Array {
  const { dictionary } = table;
  const weights = new Float64Array(table.singles);
  const out = outOfQuestion(table, evidence);
  const byFault = faultWeights(table, evidence);
  let sum = 0;
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (out(fault) || dictionary.invalid.has(row)) return;
    weights[row]! += byFault[index]!;
    sum += byFault[index]!;
  });
  const logs = new Float64Array(dictionary.rows + 1);
  const nothing = evidence.goalReached ? healthyShareOfReached : healthyShare;
  const known = 1 - nothing - noneShare;
  for (let row = 1; row < table.singles; row++) logs[row] = Math.log((weights[row]! / sum) * known);
  logs[0] = Math.log(nothing);
  table.sets.forEach((members, index) => {
    const row = table.singles + index;
    logs[row] = dictionary.invalid.has(row)
      ? -Infinity
      : setLogPrior(
          members,
          logs,
          table.played[index]!.length > 1 ? limitLogPrior : sizeLogPrior,
          blownLogPrior(table, members, logs),
        );
  });
  // Other sizes take their share from the listed one: a fault is no likelier for being looked at closely.
  const taken = new Map<number, number>();
  table.sets.forEach((members, index) => {
    if (members.length > 1) return;
    const [row] = members as [number];
    const share = table.played[index]!.length > 1 ? limitLogPrior : sizeLogPrior;
    taken.set(row, (taken.get(row) ?? 0) + Math.exp(share));
  });
  for (const [row, share] of taken) logs[row]! += Math.log(Math.max(0.5, 1 - share));
  logs[dictionary.rows] = Math.log(noneShare);
  return logs;
}

/** Half of the time the real size lies between the listed ones; some six are played on the way. */
export const sizeLogPrior = Math.log(0.5 / 6);
/** That of two makers in line the nearer one gives up alone, though by the sheet both do: limits are guesses. */
export const limitLogPrior = Math.log(0.3);

/**
 * ln prior of several faults at once: each by itself, and that there are so many; in any order. One
 * alone is that fault in another size, or with another limit: it has that share of it. `caused` is that
 * of one of them bringing the other about.
 */
export function setLogPrior(
  members: readonly number[],
  logs: Float64Array,
  share = sizeLogPrior,
  caused = -Infinity,
): number {
  if (members.length === 1) return logs[members[0]!]! + share;
  let log = (members.length - 1) * Math.log(severalShare);
  members.forEach((row, place) => (log += logs[row]! + Math.log(place + 1)));
  return Math.max(log, caused);
}

export interface Unused {
  id: string;
  why: string;
  /** The bench whose plays would speak of it; null where none can. */
  bench: BenchOf | null;
  /** It counts meanwhile: what was lifted or put back since does not touch what was read. */
  counts?: boolean;
}

/** Tables of other benches, and the one at hand. */
export interface Benches {
  here: BenchOf;
  others: readonly { bench: BenchOf; table: Table }[];
  /** Whether a healthy board reads the same on the bench a reading was taken on as on this one. */
  isAlike: (taken: BenchOf, reading: Reading) => boolean;
}

/** Everything observed that these dictionaries can speak of; `unused` names what they cannot, and why. */
export function observations(
  table: Table,
  evidence: Evidence,
  { here, others, isAlike }: Benches,
): { used: Observation[]; unused: Unused[] } {
  const used: Observation[] = [];
  const unused: Unused[] = [];
  const mixing = { known: evidence, isOut: outOfQuestion(table, evidence) };
  for (const { id, reading, times } of onceEach(evidence.readings)) {
    const why = whyUnused(table, reading);
    const taken = benchOfReading(table.board, here.source, reading);
    const isHere = speaksOf(here, taken);
    const other = isHere ? null : others.find(({ bench }) => speaksOf(bench, taken))?.table;
    if (why !== null) unused.push({ id, why, bench: null });
    else if (isHere) {
      const observation = readingObservation(table, id, reading, times);
      if (observation) used.push(observation);
    } else if (other) {
      const observation = readingObservation(other, id, reading, times);
      if (observation) used.push(carriedOver(table, other, observation, mixing));
    } else {
      // Until there are plays of that bench: a small part lifted since leaves most points as they were.
      const moved = isAlike(taken, reading) ? movedParts(here, taken) : null;
      const observation = moved && readingObservation(table, id, reading, times);
      if (observation) used.push(withoutWordOf(table, observation, moved));
      unused.push({
        id,
        why: `taken ${benchText(table.board, taken, here)}`,
        bench: taken,
        ...(observation ? { counts: true } : {}),
      });
    }
  }
  used.push(...signObservations(table, evidence.signs, here));
  const goal = evidence.goalReached ? null : goalObservation(table, evidence.goal);
  if (goal) used.push(goal);
  return { used, unused };
}

/** Parts lifted on one of two benches alone, where nothing else differs between them; null where more does. */
function movedParts(here: BenchOf, taken: BenchOf): Set<string> | null {
  if (!speaksOf({ ...here, lifted: taken.lifted }, taken)) return null;
  const moved = new Set<string>();
  for (const ref of here.lifted) if (!taken.lifted.includes(ref)) moved.add(ref);
  for (const ref of taken.lifted) if (!here.lifted.includes(ref)) moved.add(ref);
  return moved;
}

/** An observation that says nothing of the faults of some parts: of these the plays at hand know nothing. */
function withoutWordOf(
  { dictionary }: Table,
  observation: Observation,
  parts: ReadonlySet<string>,
): Observation {
  const byRow = observation.byRow.slice();
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (row > 0 && 'part' in fault && parts.has(fault.part)) byRow[row] = observation.byNone;
  });
  return { ...observation, byRow };
}

/** Readings of the same point that agree are one, read several times: errors of sheet and board repeat with them. */
function onceEach(
  readings: Evidence['readings'],
): { id: string; reading: Reading; times: number }[] {
  const kept: { id: string; reading: Reading; times: number }[] = [];
  for (const { id, reading } of readings) {
    const same = kept.findIndex((one) => isSameReading(one.reading, reading));
    if (same < 0) kept.push({ id, reading, times: 1 });
    else kept[same] = { id, reading, times: kept[same]!.times + 1 };
  }
  return kept;
}

/** Within this they agree: volts, and as a part of the value. */
const agreeing = { volts: 0.05, part: 0.04 } as const;

function isSameReading(a: Reading, b: Reading): boolean {
  if (a.mode !== b.mode || a.phase !== b.phase || a.polarity !== b.polarity) return false;
  const place = ({ at, reference }: Reading): string => JSON.stringify([at, reference]);
  if (place(a) !== place(b)) return false;
  const bench = (one: Reading): string =>
    JSON.stringify([one.source?.id, [...one.attached].sort(), [...one.lifted].sort()]);
  if (bench(a) !== bench(b)) return false;
  const near = (x: number, y: number): boolean =>
    Math.abs(x - y) <=
    (a.mode === 'volts' ? agreeing.volts : 0) + agreeing.part * Math.max(Math.abs(x), Math.abs(y));
  const [left, right] = [a.value, b.value];
  if (left.kind === 'number' && right.kind === 'number')
    return left.trend === right.trend && near(left.value, right.value);
  if (left.kind === 'swinging' && right.kind === 'swinging')
    return near(left.low, right.low) && near(left.high, right.high);
  return left.kind === right.kind;
}

function whyUnused(table: Table, reading: Reading): string | null {
  const { board, placeOf } = table;
  const { at, reference, mode } = reading;
  const unnamed = [at.net, reference?.net].find((net) =>
    board.nets.some((one) => one.id === net && one.isUnnamed),
  );
  if (unnamed) return `nobody knows yet which net ${unnamed} is`;
  const isKnown = (net: string): boolean => net === board.ground || placeOf.has(net as NetId);
  if (!isKnown(at.net)) return `${at.net} is not on the sheet`;
  if (reference && !isKnown(reference.net)) return `${reference.net} is not on the sheet`;
  if (reference ? at.net === reference.net && isSamePlace(at, reference) : at.net === board.ground)
    return 'both leads stand on the same point';
  if (isProvoked(reading))
    return `taken ${reading.state}: a fault that comes and goes is not weighed yet`;
  if (mode === 'seconds') return 'seconds are kept for the report only';
  if (mode === 'celsius') return whyNoWarmth(table, reading);
  if (mode === 'amps') return 'draw is taken as a sign, amps elsewhere are not played';
  if (mode === 'volts') return undrivenBecause(board, at.net as NetId);
  return null;
}

const isSamePlace = (a: Reading['at'], b: Reading['at']): boolean =>
  a.part === b.part && a.pin === b.pin;

const spotOf = ({ net, part, pin }: Reading['at']): Spot => ({ net: net as NetId, ref: part, pin });

function readingObservation(
  table: Table,
  id: string,
  reading: Reading,
  times: number,
): Observation | null {
  const { dictionary, board, placeOf } = table;
  const { mode, phase, value, reference } = reading;
  if (mode === 'celsius') return warmthObservation(table, id, reading);
  const onGround = reading.at.net === board.ground;
  const predictor = predictorFor(table, {
    at: spotOf(onGround && reference ? reference : reading.at),
    against: onGround || !reference || reference.net === board.ground ? null : spotOf(reference),
    mode,
    phase,
    // The lead on ground changes which way the current goes.
    polarity:
      onGround && mode === 'diode'
        ? reading.polarity === 'black-on-point'
          ? 'red-on-point'
          : 'black-on-point'
        : reading.polarity,
  });
  if (!predictor) return null;
  const point = { ...predictor.point, times };
  const byNone = unknownLogLikelihood(mode, value, point);
  const byRow = new Float64Array(dictionary.rows);
  const fill = (from: number, to: number, between?: Float32Array): void => {
    for (let row = from; row < to; row++) {
      const prediction = predictor.of(row);
      const log = logLikelihood(mode, value, prediction, point);
      // What a row cannot say is worth what "none of these" gives it.
      byRow[row] = Number.isNaN(log) ? byNone : log;
      if (between) fillBetween(between, row, byRow[row]!, mode, value, prediction, point);
    }
  };
  const { singles, played } = table;
  let known = table.observed.get(reading);
  if (known?.times === times) byRow.set(known.byRow);
  else {
    const between = new Float32Array(singles * severitySteps);
    fill(0, singles, between);
    known = { times, byRow: byRow.slice(0, singles), between, sets: new WeakMap() };
    table.observed.set(reading, known);
  }
  for (let row = singles; row < dictionary.rows; row++) {
    const set = played[row - singles]!;
    const before = known.sets.get(set);
    if (before === undefined) {
      fill(row, row + 1);
      known.sets.set(set, byRow[row]!);
    } else byRow[row] = before;
  }
  const nets = [reading.at.net, reference?.net].flatMap((net) => placeOf.get(net as NetId) ?? []);
  return {
    id,
    text: reference ? `${reading.at.net} against ${reference.net}` : reading.at.net,
    byRow,
    byNone,
    between: known.between,
    at: {
      nets,
      isCold: phase === 'cold',
      byLoose: loosenedLogLikelihood(mode, value, point),
      steady:
        mode === 'volts' && phase !== 'cold' && !reference && value.kind === 'number'
          ? { phase, volts: value.value }
          : null,
    },
  };
}

/** What is kept of a goal by row; 0 where nothing is. */
const yes = 1;
const no = 2;

/** Owners tell what they see: weak evidence beside signs and readings. */
const goalReachedAnyway = 0.08;

/** The board was brought in because it does not reach its goal. */
function goalObservation(table: Table, id: GoalId | null): Observation | null {
  const { board, dictionary } = table;
  const goal = board.goals.find((one) => one.id === id);
  if (id === null || (!goal && id !== commonGoals.answers)) return null;
  const reaches = (row: number): boolean => {
    const known = table.reaches.get(id)?.[row];
    if (row < table.singles && known) return known === yes;
    const reached = goal ? reachesGoal(dictionary, goal, row) : answersButton(dictionary, row);
    if (row < table.singles && isPlayed(dictionary, row)) {
      let kept = table.reaches.get(id);
      if (!kept) table.reaches.set(id, (kept = new Uint8Array(table.singles)));
      kept[row] = reached ? yes : no;
    }
    return reached;
  };
  // What even the healthy board does not do on this bench (no battery, no panel) tells nothing.
  if (!reaches(0)) return null;
  const byRow = new Float64Array(dictionary.rows);
  // Intermittent faults and marginal severities: it may reach it in the play and not on the bench.
  const byNone = Math.log(0.85);
  // Of boards brought in, some have nothing wrong: their share counts the complaint already.
  for (let row = 0; row < dictionary.rows; row++)
    byRow[row] = !isPlayed(dictionary, row)
      ? byNone
      : Math.log(row > 0 && reaches(row) ? goalReachedAnyway : 1 - goalReachedAnyway);
  return {
    id: null,
    text: `it does not do what it came for: ${goalTitle(board, id)}`,
    byRow,
    byNone,
  };
}
