import { type Diagnosis } from './proposing/diagnosis.ts';
import type { Board, NetId, StageId } from '../board/index.ts';
import { faultKey, type Fault } from '../faults/index.ts';
import { feedsBackwards, type PlaySetup } from '../play/index.ts';
import {
  firstMissingIn,
  isPlayed,
  makeRowPlayer,
  type Dictionary,
  type RowPlayer,
} from '../dictionary/index.ts';
import { studyHealthyBoard, type HealthyBoard, type OrderedStage } from '../expectations/index.ts';
import type { Phase, Reading } from '../readings/index.ts';
import { proposeActions } from './proposing/actions.ts';
import { posterior, shares } from '../inference/index.ts';
import { makeClasses } from './grouping/classes.ts';
import { wasWatched } from './weighing/sign-observations.ts';
import type { Evidence } from './evidence/evidence.ts';
import type { Observation, Weighed } from './weighing/observation.ts';
import { withBroken } from './grouping/broken-between.ts';
import { mergeAlike, withGrown, type Group } from './grouping/groups.ts';
import {
  mostTimes,
  leastWeight,
  probeKey,
  proposeProbes,
  slipLogs,
  type BenchNow,
  type Hypothesis,
  type Taken,
} from './proposing/next-probe.ts';
import { logPriors, outOfQuestion } from './weighing/row-priors.ts';
import { observations } from './weighing/observations.ts';
import { benchOfReading, benchOfSetup, speaksOf, type BenchOf } from './evidence/bench-of.ts';
import { jointlyCarried } from './weighing/other-bench.ts';
import { deadMaker } from './weighing/early-limits.ts';
import { fitsBadly, growSeveral } from './weighing/several.ts';
import { severityGains } from './weighing/severity.ts';
import { suspectOf } from './grouping/suspects.ts';
import { makeTable, type Table } from './weighing/table.ts';
import { evidenceWithoutGain, gainsFor, mixedLogs } from './weighing/meter-gain.ts';
import { stintsByRow, stintsOf } from './weighing/comes-and-goes.ts';
import { weighDoubts, withSheetMistakes } from './weighing/sheet-mistake.ts';
import { makeUnlisted, weighUnlisted, type Unlisted } from './weighing/unlisted.ts';

export interface Diagnoser {
  /**
   * Where single faults fit badly, a dozen sets of several are played, `rounds` times at most; they
   * are kept for the next time.
   */
  diagnose(evidence: Evidence, bench: BenchNow, rounds?: number): Diagnosis;
  /**
   * Takes over the dictionary of another bench: readings taken there then count. It need not be whole;
   * given again it replaces the one before.
   */
  alsoKnow(bench: BenchOf, dictionary: Dictionary): void;
}

const afterPress: readonly Phase[] = ['pressed', 'trying', 'run'];
const mostSuspects = 12;
const leastProbability = 0.002;
/** Rounds of plays in which what stands is looked at as closely as what was grown. */
const rivalRounds = 2;

/** Everything that can be worked out before the first reading, once per dictionary and its setup. */
export function makeDiagnoser(
  board: Board,
  stages: readonly OrderedStage[],
  dictionary: Dictionary,
  setup: PlaySetup,
): Diagnoser {
  const single = makeTable(board, dictionary);
  const classes = makeClasses(board, dictionary);
  const classOf = new Int32Array(dictionary.rows).fill(-1);
  classes.forEach(({ rows }, index) => rows.forEach((row) => (classOf[row] = index)));
  let player: RowPlayer | null = null;
  const several = growSeveral(single, classOf, () => (player ??= makeRowPlayer(board, setup)));

  const here = benchOfSetup(board, setup);
  const others: { bench: BenchOf; table: Table }[] = [];

  let study: HealthyBoard | null = null;
  const isAlike = (taken: BenchOf, reading: Reading): boolean => {
    if (reading.reference !== null) return false;
    const net = reading.at.net as NetId;
    if (!board.nets.some((one) => one.id === net)) return false;
    study ??= studyHealthyBoard(board, setup);
    const there = study.onBench({ ...taken, supply: undefined });
    const [a, b] = [study, there].map((one) => one.expect(net, reading.mode, reading.phase));
    return isNear(a, b);
  };

  const stops = new Map<number, StageId | null>();
  const regionsOf = (table: Table, weights: Float64Array): Diagnosis['regions'] => {
    const byStage = new Map<StageId | null, number>();
    for (let row = 1; row < table.dictionary.rows; row++) {
      if (weights[row]! < 1e-5 || !isPlayed(table.dictionary, row)) continue;
      // Rows of several faults are written anew now and then.
      let stage = row < table.singles ? stops.get(row) : undefined;
      if (stage === undefined) {
        stage = firstMissingIn(stages, table.dictionary, row);
        if (row < table.singles) stops.set(row, stage);
      }
      byStage.set(stage, (byStage.get(stage) ?? 0) + weights[row]!);
    }
    return [...byStage]
      .map(([stage, probability]) => ({ stage, probability }))
      .filter((one) => one.probability > 0.01)
      .sort((a, b) => b.probability - a.probability);
  };

  let unlisted: Unlisted[] | null = null;
  const backwards = new Map<string, boolean>();
  const wakesBackwards = (net: NetId, fault: Fault): boolean => {
    const key = `${net} ${faultKey(fault)}`;
    let known = backwards.get(key);
    if (known === undefined) backwards.set(key, (known = feedsBackwards(board, setup, net, fault)));
    return known;
  };

  /** What everything observed is worth under each row, and under none, with the meter off by this factor. */
  const weighUnder = (evidence: Evidence, gain: number) => {
    const { table } = several;
    const rows = table.dictionary.rows;
    const right = evidenceWithoutGain(evidence, gain);
    const { used: stated, unused } = observations(table, right, { here, others, isAlike });
    const { used, doubts } = withSheetMistakes(table, right, stated, temper);
    const joint = jointlyCarried(
      table,
      used.filter((one) => one.byFault),
      { known: evidence, isOut: outOfQuestion(table, evidence) },
    );
    const weighed = withStrength([
      ...used.filter((one) => !one.byFault),
      ...(joint ? [joint] : []),
    ]);
    const fit = new Float64Array(rows + 1);
    const stints = stintsOf(weighed);
    const steady = weighed.filter(({ stint }) => stint === undefined);
    for (const { byRow, strength } of steady)
      for (let row = 0; row < byRow.length; row++) fit[row]! += strength * byRow[row]!;
    stintsByRow(table, stints)?.forEach((log, row) => (fit[row]! += log));
    // What is in no list is weighed as a whole: it sits somewhere.
    unlisted ??= makeUnlisted(single);
    const elsewhere = weighUnlisted(unlisted, withStrength(used));
    fit[rows]! += elsewhere.log;
    severityGains(table, steady).forEach((more, row) => (fit[row]! += more));
    return { used, unused, doubts, elsewhere, fit };
  };

  const weigh = (evidence: Evidence) => {
    const { table } = several;
    const rows = table.dictionary.rows;
    const priors = logPriors(table, evidence);
    const gains = gainsFor(table, evidence);
    const under = gains.map(({ gain }) => weighUnder(evidence, gain));
    const fit = mixedLogs(
      under.map((weighed) => weighed.fit),
      gains.map(({ share }) => share),
    );
    const weights = posterior(priors, [fit]);
    // What single readings say is told by the likeliest factor.
    const byGain = under.map(
      (weighed, at) => Math.log(gains[at]!.share) + logSum(priors, weighed.fit),
    );
    const { used, unused, doubts, elsewhere } = under[byGain.indexOf(Math.max(...byGain))]!;
    if (evidence.habits.length > 0) {
      const bare = logPriors(table, { ...evidence, habits: [] });
      const alone = posterior(
        bare.map((log, row) => (priors[row] === -Infinity ? -Infinity : log)),
        [fit],
      );
      for (let row = 0; row <= rows; row++)
        weights[row] = beliefInHabits * weights[row]! + (1 - beliefInHabits) * alone[row]!;
    }
    return { table, rows, used, unused, doubts, priors, elsewhere, weights };
  };

  return {
    diagnose(evidence, bench, rounds = 1) {
      let now = weigh(evidence);
      // What was played for what stands now gives its rivals rounds of their own.
      const left = { grown: rounds, rivals: rivalRounds };
      for (;;) {
        const isExplained = !fitsBadly(now.weights, now.used);
        if (left[isExplained ? 'rivals' : 'grown']-- <= 0) break;
        if (!several.grow(now.weights, now.priors, now.used, isExplained)) break;
        now = weigh(evidence);
      }
      const { table, rows, used, unused, doubts, weights, elsewhere } = now;
      const groups = mergeAlike(
        table,
        withBroken(table, withGrown(table, classes, classOf), evidence),
        weights,
        wasWatched(evidence.signs),
      );
      const isKnown = (row: number): boolean =>
        row >= table.singles || isPlayed(table.dictionary, row);
      const isNamed = (group: Group): boolean => group.rows.some(isKnown);
      const suspects = groups
        .filter(
          (group) => (group.probability > leastProbability || group.between) && isNamed(group),
        )
        // Two pins that read differently are told of, however likely a slip of the tip is.
        .filter((group, place) => place < mostSuspects || group.between)
        .map((group) => ({
          ...suspectOf(table, stages, group, weights, evidence, used),
          group: groups.indexOf(group),
        }));
      // What reads alike is one thing to find: probes are to tell the groups apart.
      const merged = new Int32Array(rows + 1);
      groups.forEach((group, index) => group.rows.forEach((row) => (merged[row] = index)));
      merged[0] = groups.length;
      merged[rows] = groups.length + 1;
      const taken = new Map<string, Taken>();
      const weighed = new Map(
        used.flatMap((one) => (one.id === null ? [] : [[one.id, one.byRow]])),
      );
      for (const { id, reading } of evidence.readings) {
        if (!speaksOf(here, benchOfReading(board, here.source, reading))) continue;
        // What is read after the press is asked in one phase; with the button held it was read after it.
        const phase = afterPress.includes(reading.phase) ? 'trying' : reading.phase;
        const key = probeKey(reading.at.net as NetId, reading.mode, phase, reading.reference?.net);
        // A point that could not be reached is not asked for again.
        const times = reading.value.kind === 'unreached' ? mostTimes : 1;
        const before = taken.get(key);
        taken.set(key, {
          times: (before?.times ?? 0) + times,
          // Ohms of something are no slip of the tip.
          slipLog:
            reading.mode === 'volts'
              ? slipLogs.volts
              : reading.value.kind === 'over'
                ? slipLogs.over
                : null,
          byRow: weighed.get(id) ?? before?.byRow ?? null,
        });
      }
      return {
        regions: regionsOf(table, weights),
        suspects,
        none: weights[rows]!,
        healthy: weights[0]!,
        unplayed: groups
          .filter((group) => !isNamed(group))
          .reduce((sum, group) => sum + group.probability, 0),
        actions: proposeActions(
          board,
          suspects.flatMap((one) =>
            one.faults.map(({ fault, probability }) => ({
              fault,
              probability,
              missing: one.missingNets,
            })),
          ),
          { attached: here.attached, lifted: evidence.lifted, gone: evidence.gone },
          wakesBackwards,
        ),
        next: proposeProbes(
          table,
          hypothesesOf(weights, merged, elsewhere.places, groups.length + 2),
          taken,
          bench,
          evidence.gone,
        ),
        elsewhere: placesOf(elsewhere.places),
        sheet: weighDoubts(doubts, weights).filter(
          ({ probability }) => probability > leastProbability,
        ),
        classTitles: [
          ...groups.map((group) => group.title),
          'Nothing wrong',
          'None of these',
          ...[...new Set(elsewhere.places.map(({ one }) => one.net))].map(
            (net) => `Something else at ${net}`,
          ),
        ],
        byFault: faultChances(table, weights),
        unused,
      };
    },
    alsoKnow(bench, dictionary) {
      const known = others.findIndex((one) => speaksOf(one.bench, bench));
      // The same with more of it played.
      if (known >= 0) others.splice(known, 1);
      others.push({ bench, table: makeTable(board, dictionary) });
    },
  };
}

/** ln of what all rows together make of the readings. */
const logSum = (priors: Float64Array, fit: Float64Array): number =>
  shares(priors.map((log, row) => log + fit[row]!)).log;

/** Expectations of two benches that no meter tells apart: within 20 mV or ohms, and 2 % of the value. A guess. */
function isNear(a: unknown, b: unknown): boolean {
  if (typeof a === 'number' && typeof b === 'number')
    return a === b || Math.abs(a - b) <= 0.02 + 0.02 * Math.max(Math.abs(a), Math.abs(b));
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  const [left, right] = [new Map(Object.entries(a)), new Map(Object.entries(b))];
  return (
    left.size === right.size && [...left].every(([key, value]) => isNear(value, right.get(key)))
  );
}

/**
 * Closed jobs say where to look first; they are no proof of this board. The rest of the weight goes by what
 * is read alone: above 95 % needs three to one without them. A guess.
 */
const beliefInHabits = 0.8;

/** Of the places of an unlisted fault, so many are asked about. */
const mostPlaces = 24;

/** Rows as hypotheses with their groups; a fault of no list as one more for each place it may sit at. */
function hypothesesOf(
  weights: Float64Array,
  merged: Int32Array,
  places: readonly { one: Unlisted; share: number }[],
  classes: number,
): Hypothesis[] {
  const none = weights.at(-1)!;
  const nets = [...new Set(places.map(({ one }) => one.net))];
  const hypotheses: Hypothesis[] = [];
  weights.subarray(0, -1).forEach((weight, row) => {
    if (weight > leastWeight) hypotheses.push({ row, weight, group: merged[row]! });
  });
  return [
    ...hypotheses,
    ...places.slice(0, mostPlaces).map(({ one, share }) => ({
      row: one.row,
      weight: none * share,
      group: classes + nets.indexOf(one.net),
    })),
  ];
}

/** Of each fault, the probability of its row and of sets it is in. */
function faultChances(table: Table, weights: Float64Array): Float32Array {
  const { dictionary, singles, sets, played } = table;
  const byRow = weights.slice(0, singles);
  sets.forEach((members, index) => {
    // What a maker that gives up early makes of another bench is told by its row there.
    const dead = deadMaker(table, played[index]![1]);
    for (const row of dead === null ? members : [...members, dead])
      byRow[row]! += weights[singles + index]!;
  });
  return Float32Array.from(dictionary.faults, (_, index) => byRow[dictionary.rowOf[index]!]!);
}

function placesOf(places: readonly { one: Unlisted; share: number }[]): Diagnosis['elsewhere'] {
  const byNet = new Map<NetId, number>();
  for (const { one, share } of places) byNet.set(one.net, (byNet.get(one.net) ?? 0) + share);
  return [...byNet]
    .map(([net, share]) => ({ net, share }))
    .sort((a, b) => b.share - a.share)
    .slice(0, 5);
}

/** Errors of a sheet and a board show in several readings at once: together they tell less than each. */
const temper = 0.8;
const withStrength = (used: readonly Observation[]): Weighed[] =>
  used.map((one) => ({ ...one, strength: temper }));
