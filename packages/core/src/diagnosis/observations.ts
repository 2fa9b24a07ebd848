import { isOff, partBetween, type GoalId, type NetId } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import type { Reading } from '../readings/index.ts';
import type { Evidence, Observation } from './evidence.ts';
import { reachesGoal, signObservations } from './sign-observations.ts';
import { benchOfReading, benchText, carriedOver, speaksOf, type BenchOf } from './other-bench.ts';
import { logLikelihood, unknownLogLikelihood, type Prediction } from './likelihood.ts';
import { healthyOdds, healthyShare, noneShare, priorWeight, severalShare } from './priors.ts';
import { predictorAcross } from './across.ts';
import { predicted, type Table } from './table.ts';

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
  const { board, dictionary } = table;
  const weights = new Float64Array(table.singles);
  const out = outOfQuestion(table, evidence);
  let sum = 0;
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (out(fault) || dictionary.invalid.has(row)) return;
    const weight = priorWeight(board, fault, evidence);
    weights[row]! += weight;
    sum += weight;
  });
  const logs = new Float64Array(dictionary.rows + 1);
  const healthy = Math.min(0.9, healthyShare * healthyOdds(evidence.tried));
  const known = 1 - healthy - noneShare;
  for (let row = 1; row < table.singles; row++) logs[row] = Math.log((weights[row]! / sum) * known);
  logs[0] = Math.log(healthy);
  table.sets.forEach((members, index) => {
    const row = table.singles + index;
    logs[row] = dictionary.invalid.has(row) ? -Infinity : setLogPrior(members, logs);
  });
  logs[dictionary.rows] = Math.log(noneShare);
  return logs;
}

/** ln prior of several faults at once: each by itself, and that there are so many; in any order. */
export function setLogPrior(members: readonly number[], logs: Float64Array): number {
  let log = (members.length - 1) * Math.log(severalShare);
  members.forEach((row, place) => (log += logs[row]! + Math.log(place + 1)));
  return log;
}

export interface Unused {
  id: string;
  why: string;
  /** The bench whose plays would speak of it; null where none can. */
  bench: BenchOf | null;
}

/** Tables of other benches, and the one at hand. */
export interface Benches {
  here: BenchOf;
  others: readonly { bench: BenchOf; table: Table }[];
}

/** Everything observed that these dictionaries can speak of; `unused` names what they cannot, and why. */
export function observations(
  table: Table,
  evidence: Evidence,
  { here, others }: Benches,
): { used: Observation[]; unused: Unused[] } {
  const used: Observation[] = [];
  const unused: Unused[] = [];
  const mixing = { known: evidence, isOut: outOfQuestion(table, evidence) };
  for (const { id, reading } of evidence.readings) {
    const why = whyUnused(table, reading);
    const taken = benchOfReading(reading);
    const isHere = speaksOf(here, taken);
    const other = isHere ? null : others.find(({ bench }) => speaksOf(bench, taken))?.table;
    if (why !== null) unused.push({ id, why, bench: null });
    else if (isHere) used.push(readingObservation(table, id, reading));
    else if (other)
      used.push(carriedOver(table, other, readingObservation(other, id, reading), mixing));
    else unused.push({ id, why: `taken ${benchText(table.board, taken, here)}`, bench: taken });
  }
  used.push(...signObservations(table, evidence.signs, here));
  const goal = goalObservation(table, evidence.goal);
  if (goal) used.push(goal);
  return { used, unused };
}

function whyUnused({ board, placeOf }: Table, { at, reference, mode }: Reading): string | null {
  if (!placeOf.has(at.net as NetId)) return `${at.net} is not on the sheet`;
  if (reference && !placeOf.has(reference.net as NetId))
    return `${reference.net} is not on the sheet`;
  if (
    reference &&
    (mode === 'ohms' || mode === 'diode') &&
    !partBetween(board, at.net as NetId, reference.net as NetId)
  )
    return `${mode} between nets no fuse, coil, link or FET joins are not played`;
  if (mode === 'celsius' || mode === 'seconds') return `${mode} are kept for the report only`;
  if (mode === 'amps') return 'draw is taken as a sign, amps elsewhere are not played';
  return null;
}

function readingObservation(table: Table, id: string, reading: Reading): Observation {
  const { dictionary, placeOf } = table;
  const { mode, phase, value, reference } = reading;
  const net = placeOf.get(reading.at.net as NetId)!;
  const other = reference ? placeOf.get(reference.net as NetId)! : null;
  const where = other === null ? table.where[net]! : 'across';
  const across =
    other === null ? null : predictorAcross(table, mode, phase, net, other, reading.polarity);
  const at = (row: number): Prediction =>
    across ? across(row) : predicted(table, row, mode, phase, net);
  const byRow = new Float64Array(dictionary.rows);
  const fill = (from: number, to: number): void => {
    for (let row = from; row < to; row++) byRow[row] = logLikelihood(mode, value, at(row), where);
  };
  const known = table.observed.get(reading);
  if (known) byRow.set(known);
  else {
    fill(0, table.singles);
    table.observed.set(reading, byRow.slice(0, table.singles));
  }
  fill(table.singles, dictionary.rows);
  const healthy = at(0).value;
  return {
    id,
    text: reference ? `${reading.at.net} against ${reference.net}` : reading.at.net,
    byRow,
    byNone: Number.isNaN(healthy) ? 0 : unknownLogLikelihood(mode, value, healthy, where),
  };
}

/** The board was brought in because it does not reach its goal. */
function goalObservation(table: Table, id: GoalId | null): Observation | null {
  const { board, dictionary } = table;
  const goal = board.goals.find((one) => one.id === id);
  if (!goal) return null;
  const reaches = (row: number): boolean => reachesGoal(table, goal, row);
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
