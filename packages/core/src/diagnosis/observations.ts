import { isOff, type Goal, type GoalId, type NetId } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import { voltsPlace, type Dictionary } from '../powerup/index.ts';
import type { PoweredPhase, Reading } from '../readings/index.ts';
import type { Evidence, Observation, Signs } from './evidence.ts';
import { benchOfReading, benchText, carriedOver, speaksOf, type BenchOf } from './other-bench.ts';
import { amps, logLikelihood, unknownLogLikelihood, type Prediction } from './likelihood.ts';
import { healthyShare, noneShare, priorWeight, severalShare } from './priors.ts';
import { predictorAcross, seriesPartBetween } from './across.ts';
import { predicted, swingAt, type Table } from './table.ts';

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
  const known = 1 - healthyShare - noneShare;
  for (let row = 1; row < table.singles; row++) logs[row] = Math.log((weights[row]! / sum) * known);
  logs[0] = Math.log(healthyShare);
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
  used.push(...signObservations(table, evidence.signs));
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
    !seriesPartBetween(board, at.net as NetId, reference.net as NetId)
  )
    return `${mode} between nets no fuse, coil or link joins are not played`;
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
  const across = other === null ? null : predictorAcross(table, mode, phase, net, other);
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

const tellsTrue = 0.95;
/** A yes-or-no sign: rarely is what was seen not so. */
const yesNo = (agrees: boolean): number => Math.log(agrees ? tellsTrue : 1 - tellsTrue);

/** Whether several nets that come after the press come and go again: one that hiccups is no restart. */
function comesAndGoes(dictionary: Dictionary, row: number): boolean {
  const at = (of: number, phase: PoweredPhase, net: number): number =>
    dictionary.volts[voltsPlace(dictionary, of, phase, net)]!;
  let count = 0;
  for (let net = 0; net < dictionary.nets.length; net++) {
    const up = at(0, 'run', net);
    const swing = swingAt(dictionary, voltsPlace(dictionary, row, 'run', net));
    if (swing && swing[1] > 0.8 * up && at(0, 'standby', net) < 0.3 * up) count++;
  }
  return count >= 3;
}

/** Whether a net has at some time what it has on a running healthy board. */
function isUp({ dictionary, placeOf }: Table, row: number, net: NetId): boolean {
  const place = placeOf.get(net);
  if (place === undefined) return true;
  const healthy = dictionary.volts[voltsPlace(dictionary, 0, 'run', place)]!;
  return (['trying', 'run'] as const).some(
    (phase) =>
      Math.abs(dictionary.volts[voltsPlace(dictionary, row, phase, place)]! - healthy) <
      Math.max(0.3, 0.2 * healthy),
  );
}

function reachesGoal({ dictionary, placeOf }: Table, goal: Goal, row: number): boolean {
  return goal.reached.every(({ net, side, volts }) => {
    const place = placeOf.get(net);
    if (place === undefined) return true;
    const here = dictionary.volts[voltsPlace(dictionary, row, goal.phase, place)]!;
    return side === 'above' ? here > volts : here < volts;
  });
}

function signObservations(table: Table, signs: Signs): Observation[] {
  const { board, dictionary, singles, neighbours } = table;
  const { rows, phaseCount } = { rows: dictionary.rows, phaseCount: 4 };
  const phaseOrder: readonly PoweredPhase[] = ['standby', 'pressed', 'trying', 'run'];
  const list: Observation[] = [];
  const add = (text: string, byNone: number, of: (row: number) => number): void => {
    const byRow = new Float64Array(rows);
    for (let row = 0; row < rows; row++) byRow[row] = of(row);
    list.push({ id: null, text, byRow, byNone });
  };
  const look = (row: number, phase: PoweredPhase): boolean => {
    for (let net = 0; net < dictionary.nets.length; net++)
      if (swingAt(dictionary, voltsPlace(dictionary, row, phase, net))) return true;
    return false;
  };
  const swings = (row: number, phase: PoweredPhase): boolean => {
    if (row >= singles) return look(row, phase);
    let known = table.swinging.get(phase);
    if (!known) {
      known = Uint8Array.from({ length: singles }, (_, one) => Number(look(one, phase)));
      table.swinging.set(phase, known);
    }
    return known[row] === 1;
  };
  for (const { phase, amps: drawn, shape } of signs.draw) {
    const index = phaseOrder.indexOf(phase);
    const of = (row: number): number => dictionary.amps[row * phaseCount + index]!;
    // What pulses is drawn between its mean and its peak: only a steady draw is held to the amp.
    if (drawn !== null && shape !== 'pulsing')
      add(`draw in ${phase}`, Math.log(1 / 5), (row) =>
        amps(drawn, {
          value: of(row),
          swing: null,
          span: null,
          between: row < singles ? neighbours[row]!.map(of) : [],
        }),
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
  const { lights, fan, offAfterSeconds, startsOnConnect, restarts, picture, reached } = signs;
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
  if (restarts !== null)
    add('goes off and on again', Math.log(0.3), (row) =>
      yesNo(comesAndGoes(dictionary, row) === restarts),
    );
  const shows = board.goals.find((one) => one.shows === 'picture');
  if (picture !== null && shows && reachesGoal(table, shows, 0))
    add(picture ? 'a picture is seen' : 'no picture', Math.log(0.4), (row) =>
      yesNo(reachesGoal(table, shows, row) === picture),
    );
  const stage = board.stages.find((one) => one.id === reached);
  if (stage)
    // It came at least so far.
    add(`${stage.title} was reached`, Math.log(0.4), (row) =>
      yesNo(stage.gives.every((net) => isUp(table, row, net))),
    );
  return list;
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
