import type { Board, NetId, StageId } from '../board/index.ts';
import { faultKey, type Fault } from '../faults/index.ts';
import {
  feedsBackwards,
  makeRowPlayer,
  outcomeOf,
  type Dictionary,
  type OrderedStage,
  type PlaySetup,
  type RowPlayer,
} from '../powerup/index.ts';
import { proposeActions, type BenchAction } from './actions.ts';
import { posterior } from './bayes.ts';
import { makeClasses } from './classes.ts';
import type { Evidence } from './evidence.ts';
import { mergeAlike, setClasses } from './groups.ts';
import { probeKey, proposeProbes, type BenchNow, type Proposal } from './next-probe.ts';
import { logPriors, observations, outOfQuestion, type Unused } from './observations.ts';
import {
  benchOfReading,
  benchOfSetup,
  jointlyCarried,
  speaksOf,
  type BenchOf,
} from './other-bench.ts';
import { fitsBadly, growSeveral } from './several.ts';
import { suspectOf, type Suspect } from './suspects.ts';
import { makeTable, type Table } from './table.ts';

export interface Diagnosis {
  /** The answer at its coarsest: the first stage that does not come; null where every stage comes. Likeliest first. */
  regions: { stage: StageId | null; probability: number }[];
  suspects: Suspect[];
  /** Probability that it is nothing of the list: another fault, several, or a mistake in the sheet. */
  none: number;
  /** Probability that nothing is wrong. */
  healthy: number;
  next: Proposal[];
  /** Unplugging, feeding, lifting: what tells apart where readings alone do not. */
  actions: BenchAction[];
  /** Titles of the classes that outcomes of `next` speak of, by their number. */
  classTitles: string[];
  /** Readings the dictionaries at hand cannot speak of, and why. */
  unused: Unused[];
}

export interface Diagnoser {
  /**
   * Where single faults fit badly, a dozen sets of several are played, `rounds` times at most; they
   * are kept for the next time.
   */
  diagnose(evidence: Evidence, bench: BenchNow, rounds?: number): Diagnosis;
  /** Takes over the dictionary of another bench: readings taken there then count. */
  alsoKnow(bench: BenchOf, dictionary: Dictionary): void;
}

const mostSuspects = 12;
const leastProbability = 0.002;

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

  const stops = new Map<number, StageId | null>();
  const regionsOf = (table: Table, weights: Float64Array): Diagnosis['regions'] => {
    const byStage = new Map<StageId | null, number>();
    for (let row = 1; row < table.dictionary.rows; row++) {
      if (weights[row]! < 1e-5) continue;
      // Rows of several faults are written anew now and then.
      let stage = row < table.singles ? stops.get(row) : undefined;
      if (stage === undefined) {
        stage = outcomeOf(board, stages, table.dictionary, row).firstMissing;
        if (row < table.singles) stops.set(row, stage);
      }
      byStage.set(stage, (byStage.get(stage) ?? 0) + weights[row]!);
    }
    return [...byStage]
      .map(([stage, probability]) => ({ stage, probability }))
      .filter((one) => one.probability > 0.01)
      .sort((a, b) => b.probability - a.probability);
  };

  const backwards = new Map<string, boolean>();
  const wakesBackwards = (net: NetId, fault: Fault): boolean => {
    const key = `${net} ${faultKey(fault)}`;
    let known = backwards.get(key);
    if (known === undefined) backwards.set(key, (known = feedsBackwards(board, setup, net, fault)));
    return known;
  };

  const weigh = (evidence: Evidence) => {
    const { table } = several;
    const rows = table.dictionary.rows;
    const { used, unused } = observations(table, evidence, { here, others });
    const priors = logPriors(table, evidence);
    const joint = jointlyCarried(
      table,
      used.filter((one) => one.byFault),
      { known: evidence, isOut: outOfQuestion(table, evidence) },
    );
    const weighed = [...used.filter((one) => !one.byFault), ...(joint ? [joint] : [])];
    const logs = weighed.map(({ byRow, byNone }) => {
      const all = new Float64Array(rows + 1);
      all.set(byRow);
      all[rows] = byNone;
      return tempered(all);
    });
    return { table, rows, used, unused, priors, weights: posterior(priors, logs) };
  };

  return {
    diagnose(evidence, bench, rounds = 1) {
      let now = weigh(evidence);
      for (let round = 0; round < rounds && fitsBadly(now.weights, now.used); round++) {
        if (!several.grow(now.weights, now.priors, now.used)) break;
        now = weigh(evidence);
      }
      const { table, rows, used, unused, weights } = now;
      const groups = mergeAlike(
        table,
        [...classes, ...setClasses(table, classes, classOf)],
        weights,
      );
      const suspects = groups
        .filter((group) => group.probability > leastProbability)
        .slice(0, mostSuspects)
        .map((group) => suspectOf(table, stages, group, weights, evidence, used));
      // What reads alike is one thing to find: probes are to tell the groups apart.
      const merged = new Int32Array(rows + 1);
      groups.forEach((group, index) => group.rows.forEach((row) => (merged[row] = index)));
      merged[0] = groups.length;
      merged[rows] = groups.length + 1;
      const taken = new Map<string, number>();
      for (const { reading } of evidence.readings) {
        if (!speaksOf(here, benchOfReading(reading))) continue;
        const phase = reading.phase === 'run' ? 'trying' : reading.phase;
        const key = probeKey(reading.at.net as NetId, reading.mode, phase, reading.reference?.net);
        taken.set(key, (taken.get(key) ?? 0) + 1);
      }
      return {
        regions: regionsOf(table, weights),
        suspects,
        none: weights[rows]!,
        healthy: weights[0]!,
        actions: proposeActions(
          board,
          suspects.flatMap((one) =>
            one.faults.map(({ fault, probability }) => ({
              fault,
              probability,
              missing: one.missingNets,
            })),
          ),
          here.attached,
          wakesBackwards,
        ),
        next: proposeProbes(table, weights, merged, groups.length + 2, taken, bench),
        classTitles: [...groups.map((group) => group.title), 'Nothing wrong', 'None of these'],
        unused,
      };
    },
    alsoKnow(bench, dictionary) {
      if (!others.some((one) => speaksOf(one.bench, bench)))
        others.push({ bench, table: makeTable(board, dictionary) });
    },
  };
}

/** Errors of a sheet and a board show in several readings at once: together they tell less than each. */
const temper = 0.8;
const tempered = (logs: Float64Array): Float64Array => logs.map((log) => log * temper);
