import { isFet, type Board, type NetId, type StageId } from '../../board/index.ts';
import { faultName, faultPlace, type Fault } from '../../faults/index.ts';
import { firstMissingIn } from '../../dictionary/index.ts';
import type { OrderedStage } from '../../expectations/index.ts';
import { brokenTest } from './broken-between.ts';
import { classTitle, type BrokenBetween, type FaultClass } from './classes.ts';
import type { Evidence } from '../evidence/evidence.ts';
import type { Observation } from '../weighing/observation.ts';
import { silentTitle, type Group } from './groups.ts';
import { faultWeights } from '../weighing/fault-weights.ts';
import { outOfQuestion } from '../weighing/row-priors.ts';
import { cautionText } from '../../safety/index.ts';
import { shortGoneWith, type ShortGone } from '../../trace/index.ts';
import { separatingTest, type SeparatingTest } from './separate.ts';
import { faultAt, listedRow, predicted, type Table } from '../weighing/table.ts';

export interface SuspectFault {
  fault: Fault;
  /** Faults that must be there besides it to explain what was seen; mostly none. */
  also: readonly Fault[];
  name: string;
  /** Its part of the suspect's probability: they add up to it. */
  probability: number;
}

/** Faults no reading on the nets tells apart, and how likely it is that one of them is there. */
export interface Suspect {
  /** Its number among the classes that outcomes of proposals speak of. */
  group: number;
  title: string;
  probability: number;
  /** Most likely first. */
  faults: SuspectFault[];
  /** One part is left, or a group that only its own test can separate. */
  depth: 'group' | 'part';
  /** How the members are told apart; for one part, how it is checked before it is heated. */
  separate: SeparatingTest;
  /** Two pins of one net that read differently, where that is what it is. */
  between?: BrokenBetween | undefined;
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

/** A group as it is shown: its faults, why, and how to tell them apart. */
export function suspectOf(
  table: Table,
  stages: readonly OrderedStage[],
  group: Group,
  weights: Float64Array,
  evidence: Evidence,
  used: readonly Observation[],
): Omit<Suspect, 'group'> {
  const { board, dictionary } = table;
  const out = outOfQuestion(table, evidence);
  /** The faults of a single row, with their shares of it. */
  const byFault = faultWeights(table, evidence);
  const inRow = (row: number): SuspectFault[] => {
    const list: { fault: Fault; weight: number }[] = [];
    for (const index of table.faultsIn[row] ?? []) {
      const fault = dictionary.faults[index]!;
      if (out(fault)) continue;
      const log = used.reduce((all, one) => all + (one.byFault?.[index] ?? 0), 0);
      list.push({ fault, weight: byFault[index]! * Math.exp(log) });
    }
    const sum = list.reduce((all, one) => all + one.weight, 0) || 1;
    return list.map(({ fault, weight }) => ({
      fault,
      also: [],
      name: faultName(fault),
      probability: weight / sum,
    }));
  };
  const alternatives = group.together
    ? togetherFaults(table, group, weights, inRow)
    : [...weightsByListedRow(table, group.rows, weights)].flatMap(([row, weight]) =>
        inRow(row).map((one) => ({ ...one, probability: weight * one.probability })),
      );
  const faults = alternatives.sort((a, b) => b.probability - a.probability);
  const lead = group.rows.reduce(
    (best, row) => (weights[row]! > weights[best]! ? row : best),
    group.rows[0]!,
  );
  const parts = new Set(faults.map(({ fault }) => faultPlace(fault)));
  const voices = used.map((one): Voice => ({
    id: one.id,
    text: one.text,
    bits: voiceBits(one, group.rows, weights),
  }));
  const went = group.isGone ? shortGoneWith(board, evidence.readings, evidence.gone) : null;
  const isNamedByFault = faults.some((one) => one.name === group.title);
  return {
    // Called by one of its faults, it is called by the likeliest; by what took a short with it where that is known.
    title: went
      ? `In ${went.title}, with which the short went`
      : isNamedByFault
        ? (faults[0]?.name ?? group.title)
        : group.title,
    probability: group.probability,
    faults,
    depth: parts.size === 1 ? 'part' : 'group',
    separate: group.isGone
      ? goneTest(went)
      : group.title === silentTitle
        ? noVoltageShows
        : group.together
          ? firstOfSeveral(table, stages, group.together)
          : group.between
            ? brokenTest(group.between)
            : separatingTest(
                board,
                faults.map((one) => one.fault),
                group.shortedNet,
                {
                  gone: evidence.gone,
                  measured: measuredParts(board, evidence),
                  seen: seenPart(faults, group.probability, evidence),
                },
              ),
    between: group.between,
    firstMissing: firstMissingIn(stages, dictionary, lead),
    missingNets: missingNets(table, stages, lead),
    speaksFor: voices.filter((one) => one.bits > 0.3).sort((a, b) => b.bits - a.bits),
    speaksAgainst: voices.filter((one) => one.bits < -0.3).sort((a, b) => a.bits - b.bits),
  };
}

/** Of a suspect, so much must stand on a part that was seen hot or broken before it is taken off to see. */
const mostOfIt = 0.5;
const marks: ReadonlySet<string> = new Set(['hot', 'burnt', 'cracked', 'swollen']);

/** The part at which something was seen and on which most of a suspect stands; null where none is. */
function seenPart(
  faults: readonly SuspectFault[],
  all: number,
  { findings, lifted }: Evidence,
): string | null {
  const shares = new Map<string, number>();
  for (const { fault, probability } of faults)
    if ('part' in fault)
      shares.set(fault.part, (shares.get(fault.part) ?? 0) + probability / Math.max(all, 1e-9));
  const found = findings.find(
    ({ kind, part }) =>
      part !== null &&
      marks.has(kind) &&
      !lifted.includes(part) &&
      (shares.get(part) ?? 0) > mostOfIt,
  );
  return found?.part ?? null;
}

/** Parts across whose ends something was read, unpowered. */
function measuredParts(board: Board, { readings }: Evidence): string[] {
  const ends = new Set(
    readings.flatMap(({ reading: { at, reference, phase } }) =>
      phase === 'cold' && reference ? [[at.net, reference.net].sort().join()] : [],
    ),
  );
  return board.parts.flatMap((part) => {
    const nets = part.pins.filter((pin) => !isFet(part) || pin.name !== 'G').map((pin) => pin.net);
    return nets.length === 2 && ends.has(nets.sort().join()) ? [part.ref] : [];
  });
}

/** A part that took its short with it is proven: a good one is fitted. */
export const goneTest = (went: ShortGone | null): SeparatingTest =>
  went
    ? {
        text: `${went.said} ${went.text} ${went.remedy}`,
        caution: cautionText(went.title === went.part ? 'lift' : 'plug'),
      }
    : putBack;

/** What went with an attachment or a part is proven by what comes back with it. */
const putBack: SeparatingTest = {
  text: 'Plug it in again, or put the part back, and read the same point: it must go wrong again. Then try another one in its place.',
  caution: cautionText('put-back'),
};

/** Common practice, no source. */
const noVoltageShows: SeparatingTest = {
  text: 'No voltage shows it. One after the other, the easiest first: another memory module; the firmware read out and compared; the clock seen with a scope; a capacitor bridged with a good one; the processor and its joints last.',
  caution: cautionText('lift'),
};

/** Weights of single faults with all their sizes, by the row of the listed one. */
function weightsByListedRow(
  table: Table,
  rows: readonly number[],
  weights: Float64Array,
): Map<number, number> {
  const sums = new Map<number, number>();
  for (const row of rows) {
    const listed = listedRow(table, row);
    if (listed !== null) sums.set(listed, (sums.get(listed) ?? 0) + weights[row]!);
  }
  return sums;
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
    const firstMissing = firstMissingIn(stages, dictionary, one.rows[0]!);
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

const sums = new WeakMap<Float64Array, number>();
/** All likelihoods of an observation together: the same for every suspect. */
function sumOf(byRow: Float64Array): number {
  let sum = sums.get(byRow);
  if (sum === undefined)
    sums.set(byRow, (sum = byRow.reduce((all, log) => all + Math.exp(log), 0)));
  return sum;
}

/** How much more an observation is expected under these rows than under all else that was possible before it. */
function voiceBits(
  { byRow, byNone }: Observation,
  rows: readonly number[],
  weights: Float64Array,
): number {
  let inside = 0;
  let insideWeight = 0;
  let own = 0;
  for (const row of rows) {
    const weight = weights[row]! + 1e-12;
    const likelihood = Math.exp(byRow[row]!);
    inside += weight * likelihood;
    insideWeight += weight;
    own += likelihood;
  }
  const outside = Math.exp(byNone) * 0.05 + Math.max(0, sumOf(byRow) - own) / byRow.length;
  const outsideWeight = 0.05 + (byRow.length - rows.length) / byRow.length;
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
