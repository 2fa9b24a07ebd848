import type { Board, NetId, StageId } from '../board/index.ts';
import { faultKey, faultName, type Fault } from '../faults/index.ts';
import { proposeActions, type BenchAction } from './actions.ts';
import {
  feedsBackwards,
  makeRowPlayer,
  outcomeOf,
  voltsPlace,
  type Dictionary,
  type OrderedStage,
  type PlaySetup,
  type RowPlayer,
} from '../powerup/index.ts';
import { posterior } from './bayes.ts';
import { classTitle, makeClasses, type FaultClass } from './classes.ts';
import type { Evidence, Observation } from './evidence.ts';
import { logPriors, observations, outOfQuestion, type Unused } from './observations.ts';
import {
  benchOfReading,
  benchOfSetup,
  jointlyCarried,
  speaksOf,
  type BenchOf,
} from './other-bench.ts';
import { fitsBadly, growSeveral } from './several.ts';
import { faultAt, makeTable, predicted, swingAt, type Table } from './table.ts';
import { diodeSigma, ohmsSigmaDecades, voltsSigma } from './likelihood.ts';
import { priorWeight } from './priors.ts';
import { probeKey, proposeProbes, type BenchNow, type Proposal } from './next-probe.ts';
import { separatingTest, type SeparatingTest } from './separate.ts';

export interface SuspectFault {
  fault: Fault;
  /** Faults that must be there besides it to explain what was seen; mostly none. */
  also: readonly Fault[];
  name: string;
  /** Share of the suspect's probability. */
  probability: number;
}

/** Faults no reading on the nets tells apart, and how likely it is that one of them is there. */
export interface Suspect {
  title: string;
  probability: number;
  /** Most likely first. */
  faults: SuspectFault[];
  /** One part is left, or a group that only its own test can separate. */
  depth: 'group' | 'part';
  /** How the members are told apart; for one part, how it is checked before it is heated. */
  separate: SeparatingTest;
  /** The first stage that does not come with it. */
  firstMissing: StageId | null;
  /** Nets a healthy board has and this one has not, in the order of waking. */
  missingNets: NetId[];
  /** What was read that speaks for it and against it, strongest first, in bits against the rest. */
  speaksFor: Voice[];
  speaksAgainst: Voice[];
}

export interface Voice {
  /** Reading it is; null for signs and the complaint. */
  id: string | null;
  text: string;
  bits: number;
}

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
      evidence,
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

/** Sets of several faults whose members are of the same classes are one class. */
function setClasses(
  table: Table,
  classes: readonly FaultClass[],
  classOf: ArrayLike<number>,
): FaultClass[] {
  const byKey = new Map<string, FaultClass>();
  table.sets.forEach((members, index) => {
    const numbers = members.map((row) => classOf[row]!).sort((a, b) => a - b);
    const key = numbers.join();
    const one = byKey.get(key) ?? {
      rows: [],
      faults: members.map((row) => faultAt(table, row)),
      shortedNet: null,
      together: numbers.map((number) => classes[number]!),
    };
    one.rows.push(table.singles + index);
    byKey.set(key, one);
  });
  return [...byKey.values()];
}

/** Errors of a sheet and a board show in several readings at once: together they tell less than each. */
const temper = 0.8;
const tempered = (logs: Float64Array): Float64Array => logs.map((log) => log * temper);

interface Group extends FaultClass {
  title: string;
  probability: number;
}

/** Only what still stands is held against each other: the rest keeps its class. */
const mostCompared = 24;

/** Classes whose leading rows read the same everywhere a probe can go, put together; likeliest first. */
function mergeAlike(table: Table, classes: readonly FaultClass[], weights: Float64Array): Group[] {
  const sum = (rows: readonly number[]): number =>
    rows.reduce((all, row) => all + weights[row]!, 0);
  const groups = classes
    .map((one): Group => ({
      ...one,
      title: classTitle(one),
      probability: sum(one.rows),
    }))
    .sort((a, b) => b.probability - a.probability);
  for (const group of groups)
    if (group.rows.every((row) => isAlike(table, row, 0))) group.title = silentTitle;
  const lead = (group: Group): number =>
    group.rows.reduce((best, row) => (weights[row]! > weights[best]! ? row : best), group.rows[0]!);
  const merged: Group[] = [];
  groups.forEach((group, index) => {
    const like =
      index < mostCompared && group.probability > leastProbability / 10
        ? merged.find((other) => isAlike(table, lead(other), lead(group)))
        : undefined;
    if (!like) {
      merged.push({ ...group });
      return;
    }
    like.rows = [...like.rows, ...group.rows];
    like.faults = [...like.faults, ...group.faults];
    like.probability += group.probability;
  });
  return merged.sort((a, b) => b.probability - a.probability);
}

const silentTitle = 'Faults that no reading on the nets shows';

/** Single rows never change: what was compared once is kept. */
function isAlike(table: Table, a: number, b: number): boolean {
  if (Math.max(a, b) >= table.singles) return readAlike(table, a, b);
  const key = Math.min(a, b) * table.singles + Math.max(a, b);
  let known = table.alike.get(key);
  if (known === undefined) table.alike.set(key, (known = readAlike(table, a, b)));
  return known;
}

/** Whether no reading on the nets would tell two rows apart on a board that is not quite the sheet's. */
function readAlike(table: Table, a: number, b: number): boolean {
  const { dictionary, where, isSwitch } = table;
  const { nets, volts, ohms, diode } = dictionary;
  for (let net = 0; net < nets.length; net++) {
    for (const phase of isSwitch[net] ? [] : (['standby', 'trying'] as const)) {
      const [here, there] = [
        voltsPlace(dictionary, a, phase, net),
        voltsPlace(dictionary, b, phase, net),
      ];
      if ((swingAt(dictionary, here) === null) !== (swingAt(dictionary, there) === null))
        return false;
      const limit =
        3 * voltsSigma(Math.max(Math.abs(volts[here]!), Math.abs(volts[there]!)), where[net]!);
      if (Math.abs(volts[here]! - volts[there]!) > limit) return false;
    }
    const [left, right] = [a * nets.length + net, b * nets.length + net];
    if ((ohms[left] === Infinity) !== (ohms[right] === Infinity)) return false;
    if (ohms[left] !== Infinity) {
      const decades = Math.abs(
        Math.log10(Math.max(ohms[left]!, 0.3) / Math.max(ohms[right]!, 0.3)),
      );
      if (decades > 3 * ohmsSigmaDecades) return false;
    }
    if ((diode[left] === Infinity) !== (diode[right] === Infinity)) return false;
    if (diode[left] !== Infinity && Math.abs(diode[left]! - diode[right]!) > 3 * diodeSigma)
      return false;
  }
  return true;
}

function suspectOf(
  table: Table,
  stages: readonly OrderedStage[],
  group: Group,
  weights: Float64Array,
  evidence: Evidence,
  used: readonly Observation[],
): Suspect {
  const { board, dictionary } = table;
  const out = outOfQuestion(table, evidence);
  /** The faults of a single row, with their shares of it. */
  const inRow = (row: number): SuspectFault[] => {
    const list = dictionary.faults.filter(
      (fault, index) => dictionary.rowOf[index] === row && !out(fault),
    );
    const weightOf = (fault: Fault): number => {
      const index = dictionary.faults.indexOf(fault);
      const log = used.reduce((all, { byFault }) => all + (byFault?.[index] ?? 0), 0);
      return priorWeight(board, fault, evidence) * Math.exp(log);
    };
    const sum = list.reduce((all, one) => all + weightOf(one), 0);
    return list.map((fault) => ({
      fault,
      also: [],
      name: faultName(fault),
      probability: weightOf(fault) / sum,
    }));
  };
  const alternatives = group.together
    ? togetherFaults(table, group, weights, inRow)
    : group.rows.flatMap((row) =>
        inRow(row).map((one) => ({ ...one, probability: weights[row]! * one.probability })),
      );
  const faults = alternatives.sort((a, b) => b.probability - a.probability);
  const lead = group.rows.reduce(
    (best, row) => (weights[row]! > weights[best]! ? row : best),
    group.rows[0]!,
  );
  const outcome = outcomeOf(board, stages, dictionary, lead);
  const parts = new Set(faults.map(({ fault }) => ('part' in fault ? fault.part : fault.net)));
  const voices = used.map((one): Voice => ({
    id: one.id,
    text: one.text,
    bits: voiceBits(one, group.rows, weights),
  }));
  return {
    title: group.title,
    probability: group.probability,
    faults,
    depth: parts.size === 1 ? 'part' : 'group',
    separate: group.together
      ? firstOfSeveral(table, stages, group.together)
      : separatingTest(
          board,
          faults.map((one) => one.fault),
          group.shortedNet,
        ),
    firstMissing: outcome.firstMissing,
    missingNets: missingNets(table, stages, lead),
    speaksFor: voices.filter((one) => one.bits > 0.3).sort((a, b) => b.bits - a.bits),
    speaksAgainst: voices.filter((one) => one.bits < -0.3).sort((a, b) => a.bits - b.bits),
  };
}

/** Each fault that could be one of the set, with a likely one for the others. */
function togetherFaults(
  table: Table,
  { rows }: Group,
  weights: Float64Array,
  inRow: (row: number) => SuspectFault[],
): SuspectFault[] {
  return rows.flatMap((row) => {
    const members = row < table.singles ? [] : table.sets[row - table.singles]!;
    return members.flatMap((member) => {
      const others = members.filter((one) => one !== member).map((one) => faultAt(table, one));
      return inRow(member).map(({ fault, probability }): SuspectFault => ({
        fault,
        also: others,
        name: [fault, ...others].map(faultName).join(' and '),
        probability: (weights[row]! * probability) / members.length,
      }));
    });
  });
}

/** Of several faults the one that stops the board first is proven and mended first. */
function firstOfSeveral(
  { board, dictionary }: Table,
  stages: readonly OrderedStage[],
  together: readonly FaultClass[],
): SeparatingTest {
  const placeOf = (one: FaultClass): number => {
    const { firstMissing } = outcomeOf(board, stages, dictionary, one.rows[0]!);
    const place = stages.findIndex(({ stage }) => stage.id === firstMissing);
    return place < 0 ? stages.length : place;
  };
  const first = [...together].sort((a, b) => placeOf(a) - placeOf(b))[0]!;
  const { text, caution } = separatingTest(board, first.faults, first.shortedNet);
  return {
    text: `Prove one at a time, and measure again after each. First ${classTitle(first)}: ${text}`,
    caution,
  };
}

/** How much more an observation is expected under these rows than under all else that was possible before it. */
function voiceBits(
  { byRow, byNone }: Observation,
  rows: readonly number[],
  weights: Float64Array,
): number {
  const own = new Set(rows);
  let inside = 0;
  let insideWeight = 0;
  let outside = Math.exp(byNone) * 0.05;
  let outsideWeight = 0.05;
  byRow.forEach((log, row) => {
    if (own.has(row)) {
      const weight = weights[row]! + 1e-12;
      inside += weight * Math.exp(log);
      insideWeight += weight;
    } else {
      outside += Math.exp(log) / byRow.length;
      outsideWeight += 1 / byRow.length;
    }
  });
  return Math.log2(inside / insideWeight / (outside / outsideWeight));
}

function missingNets(table: Table, stages: readonly OrderedStage[], row: number): NetId[] {
  const { placeOf } = table;
  return stages.flatMap(({ stage, phase }) =>
    phase === null
      ? []
      : stage.gives.filter((net) => {
          const place = placeOf.get(net);
          if (place === undefined) return false;
          const at = phase === 'standby' ? 'standby' : 'trying';
          const { value } = predicted(table, row, 'volts', at, place);
          const healthy = predicted(table, 0, 'volts', 'run', place).value;
          return healthy > 0.3 && Math.abs(value - healthy) > Math.max(0.1, healthy * 0.15);
        }),
  );
}
