import { outOfQuestion } from './row-priors.ts';
import { denyEachOther, onceEach } from '../evidence/agreement.ts';
import {
  undrivenBecause,
  commonGoals,
  goalTitle,
  type GoalId,
  type NetId,
} from '../../board/index.ts';
import { isProvoked, somethingVolts, type Reading } from '../../readings/index.ts';
import type { Evidence } from '../evidence/evidence.ts';
import type { Observation } from './observation.ts';
import { answersButton, isPlayed, reachesGoal } from '../../dictionary/index.ts';
import type { Spot } from '../../cold/index.ts';
import { signObservations } from './sign-observations.ts';
import { benchOfReading, benchText, speaksOf, type BenchOf } from '../evidence/bench-of.ts';
import { carriedOver } from './other-bench.ts';
import { logLikelihood, loosenedLogLikelihood, unknownLogLikelihood } from './likelihood.ts';
import { predictorFor } from './across.ts';
import { fillBetween, severitySteps } from './severity.ts';
import { warmthObservation, whyNoWarmth } from './warmth.ts';
import type { Table } from './table.ts';

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
  const each = onceEach(evidence.readings);
  const touched = new Set(each.filter(({ reading }) => isTouching(reading)).map(placeKey));
  for (const { id, reading, times } of each) {
    const why = whyUnused(table, reading);
    const told = { times, isTouched: touched.has(placeKey({ reading })) };
    const taken = benchOfReading(table.board, here.source, reading);
    const isHere = speaksOf(here, taken);
    const other = isHere ? null : others.find(({ bench }) => speaksOf(bench, taken))?.table;
    if (why !== null) unused.push({ id, why, bench: null });
    else if (isHere) {
      const observation = readingObservation(table, id, reading, told);
      if (observation) used.push(observation);
    } else if (other) {
      const observation = readingObservation(other, id, reading, told);
      if (observation) used.push(carriedOver(table, other, observation, mixing));
    } else {
      // Until there are plays of that bench: a small part lifted since leaves most points as they were.
      const moved = isAlike(taken, reading) ? movedParts(here, taken) : null;
      const observation = moved && readingObservation(table, id, reading, told);
      if (observation) used.push(withoutWordOf(table, observation, moved));
      unused.push({
        id,
        why: `taken ${benchText(table.board, taken, here)}`,
        bench: taken,
        ...(observation ? { counts: true } : {}),
      });
    }
  }
  for (const one of used) {
    const own = each.find(({ id }) => id === one.id);
    if (own) Object.assign(one, stintOf(own, each));
  }
  used.push(...signObservations(table, evidence.signs, here));
  const goal = evidence.goalReached ? null : goalObservation(table, evidence.goal);
  if (goal) used.push(goal);
  return { used, unused };
}

/** Where the tip stood, for what was read before and after at the very place. */
const placeKey = ({ reading: { at } }: { reading: Reading }): string =>
  `${at.net} ${at.part} ${at.pin}`;

/** Volts to ground that no tip shows that does not touch. */
const isTouching = ({ mode, reference, value }: Reading): boolean =>
  mode === 'volts' &&
  reference === null &&
  value.kind === 'number' &&
  Math.abs(value.value) > somethingVolts;

/** Readings of a provoked state are one stint; one that another denies in the same state is one by itself. */
function stintOf(
  { id, reading }: { id: string; reading: Reading },
  each: readonly { id: string; reading: Reading }[],
): Pick<Observation, 'stint' | 'isDenied'> {
  if (isProvoked(reading)) return { stint: reading.state! };
  const denied = each.filter(
    (other) =>
      other.id !== id && !isProvoked(other.reading) && denyEachOther(other.reading, reading),
  );
  const isSame = (other: { reading: Reading }): boolean =>
    other.reading.lifted.join() === reading.lifted.join() &&
    other.reading.attached.join() === reading.attached.join() &&
    other.reading.source?.id === reading.source?.id;
  return {
    // Beside a provoked state the usual one is a stint as well: the fault may show in the other alone.
    ...(denied.some(isSame)
      ? { stint: id }
      : each.some((other) => isProvoked(other.reading))
        ? { stint: 'usual' }
        : {}),
    // Powered, another source or a battery makes a point read otherwise by nature.
    ...(reading.phase === 'cold' && denied.some((other) => !isSame(other))
      ? { isDenied: true }
      : {}),
  };
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
  told: { times: number; isTouched: boolean },
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
  const point = { ...predictor.point, ...told };
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
  if (known?.times === told.times && known.isTouched === told.isTouched) byRow.set(known.byRow);
  else {
    const between = new Float32Array(singles * severitySteps);
    fill(0, singles, between);
    known = { ...told, byRow: byRow.slice(0, singles), between, sets: new WeakMap() };
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

/** `boots` is what it should do, `it does not boot` why it came. */
function goalDenied(title: string): string {
  const [verb = '', ...rest] = title.split(' ');
  const plain = /(ch|sh|ss)es$/.test(verb) ? verb.slice(0, -2) : verb.slice(0, -1);
  return /[a-z]s$/.test(verb)
    ? ['it does not', plain, ...rest].join(' ')
    : `it does not do what it came for: ${title}`;
}

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
    text: goalDenied(goalTitle(board, id)),
    byRow,
    byNone,
  };
}
