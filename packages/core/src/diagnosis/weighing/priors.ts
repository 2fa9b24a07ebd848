import {
  roleOf,
  type Board,
  type Chip,
  type ChipKind,
  type NetId,
  type Part,
  type PartKind,
} from '../../board/index.ts';
import type { Fault, SourceTrouble } from '../../faults/index.ts';
import type {
  FailureWay,
  findingKinds,
  Habit,
  simpleResults,
  simpleThings,
} from '../../record/index.ts';

/**
 * How often things fail before anything is read: weights against each other, not per cent. All are
 * guesses by common practice (no source): shorted input and rail capacitors, blown fuses and shorted
 * FETs lead; traces and single resistors follow; a shorted output inside a chip is rarer than a
 * capacitor beside it. Closed jobs and findings move them.
 */
const partWeights: Record<PartKind, { open: number; short: number; drift: number; trace: number }> =
  {
    resistor: { open: 0.3, short: 0, drift: 0.05, trace: 0.1 },
    capacitor: { open: 0, short: 0.8, drift: 0, trace: 0.05 },
    coil: { open: 0.15, short: 0, drift: 0, trace: 0.05 },
    ferrite: { open: 0.4, short: 0, drift: 0, trace: 0.05 },
    fuse: { open: 2, short: 0, drift: 0, trace: 0.05 },
    jumper: { open: 0.1, short: 0, drift: 0, trace: 0.05 },
    diode: { open: 0.2, short: 0.4, drift: 0, trace: 0.05 },
    schottky: { open: 0.2, short: 0.4, drift: 0, trace: 0.05 },
    zener: { open: 0.1, short: 0.3, drift: 0, trace: 0.05 },
    tvs: { open: 0.05, short: 0.8, drift: 0, trace: 0.05 },
    led: { open: 0.1, short: 0.05, drift: 0, trace: 0.05 },
    pfet: { open: 0.4, short: 1, drift: 0, trace: 0.1 },
    nfet: { open: 0.4, short: 1, drift: 0, trace: 0.1 },
    npn: { open: 0.15, short: 0.2, drift: 0, trace: 0.05 },
    pnp: { open: 0.15, short: 0.2, drift: 0, trace: 0.05 },
    crystal: { open: 0.4, short: 0, drift: 0, trace: 0 },
    fan: { open: 0.3, short: 0, drift: 0, trace: 0 },
    button: { open: 0.1, short: 0.3, drift: 0, trace: 0 },
    connector: { open: 0.1, short: 0.1, drift: 0, trace: 0 },
  };

const chipDeath: Partial<Record<ChipKind, number>> = { controller: 1, chipset: 1.5, charger: 1.5 };
const chipWeights = {
  dead: 1.2,
  /** Of a dead chip with a power-good: mostly it holds it low. */
  letsGo: 0.25,
  outputDead: 0.5,
  /** Over all its severities, each. */
  weak: 0.4,
  offValue: 0.15,
  corrupt: 0.8,
  /** Over all the steps a firmware may stop at. */
  stops: 0.6,
  blank: 0.5,
  trace: 0.12,
  stuckLow: 0.12,
  stuckReleased: 0.06,
  /** Over all severities: feeds and outputs, other rails, signals. */
  pinShort: 0.25,
  railPin: 0.1,
  signalPin: 0.05,
  /** The upper switch of a stage gone short. */
  through: 0.15,
};
/** Wires gone high instead of open, over all severities. */
const goneHigh: Partial<Record<PartKind, number>> = {
  fuse: 0.4,
  ferrite: 0.25,
  coil: 0.1,
  jumper: 0.1,
  resistor: 0.2,
};
const clampWorn = 0.1;
const fetAllShort = 0.3;
/** Nobody turns a part round but an earlier repair: a finding raises it. */
const reversed = 0.01;
const netWeights = { railLow: 0.1, signalLow: 0.1, break: 0.1, joined: 0.01 };
const sourceWeights: Record<SourceTrouble, number> = {
  dead: 0.5,
  weak: 0.2,
  weaker: 0.15,
  limited: 0.15,
  low: 0.25,
  high: 0.05,
};
const buttonOpen = 0.3;
const warmth = 0.3;

/** A short is more often hard than soft: parts of its weight by ohms, on rails and on signals. */
export const shareOfOhms = (ohms: number): number =>
  ohms < 0.5 ? 0.38 : ohms < 5 ? 0.22 : ohms < 50 ? 0.18 : ohms < 1000 ? 0.14 : 0.08;
const shareOfSignalOhms = (ohms: number): number =>
  ohms < 50 ? 0.35 : ohms < 20_000 ? 0.25 : 0.15;

/** How much more likely a fault becomes at a part where something was seen. */
const findingFactors: Record<(typeof findingKinds)[number], number> = {
  corrosion: 8,
  burnt: 25,
  cracked: 20,
  missing: 40,
  bridged: 15,
  reworked: 5,
  'wrong-part': 15,
  'lifted-pad': 20,
  hot: 6,
};

export interface Finding {
  kind: (typeof findingKinds)[number];
  part: string | null;
}

/** One of the simple things, and what came of it. */
export interface Tried {
  thing: (typeof simpleThings)[number];
  result: (typeof simpleResults)[number];
}

/** What is known of a board beside its readings. */
export interface Known {
  findings: readonly Finding[];
  tried: readonly Tried[];
  /** How often closed jobs were mended at a part, on this board or on others of its scheme. */
  habits: readonly Habit[];
  /** Parts worked on without effect. */
  doubted?: readonly string[];
}

/** A job that ended at a part makes it so much more likely the next time; each further one less. A guess. */
const habitFactor = 1;
/** However many jobs ended there: one habit is not to drown what is read. */
const mostHabitFactor = 5;
/** A part that failed in one way is so much of a lesson for its other ways. A guess. */
const otherWay = 0.25;
/** What other boards of the scheme teach of parts in the same place, and at most: ten jobs less than a tenth. Guesses. */
const schemeFactor = 0.03;
const mostSchemeFactor = 1.25;
/** What was reflowed or programmed anew without effect is so much less likely. A guess. */
const doubtedFactor = 0.25;

/** Weight of a fault before any reading; its scale means nothing but against other faults. */
export function priorWeight(board: Board, fault: Fault, known: Known): number {
  return baseWeight(board, fault) * knownFactor(board, fault, known);
}

/** What findings, simple things and closed jobs make of a fault's weight. */
export function knownFactor(
  board: Board,
  fault: Fault,
  { findings, tried, habits, doubted = [] }: Known,
): number {
  return (
    findingFactor(board, fault, findings) *
    triedFactor(board, fault, tried) *
    habitFactorOf(board, fault, habits) *
    ('part' in fault && doubted.includes(fault.part) ? doubtedFactor : 1)
  );
}

/** What closed jobs make of a fault: by its part and the way that failed, weakly by its place in the scheme. */
function habitFactorOf(board: Board, fault: Fault, habits: readonly Habit[]): number {
  if (!('part' in fault) || habits.length === 0) return 1;
  const way = wayOf(fault);
  const times = (which: (one: Habit) => boolean): number =>
    habits.reduce((sum, one) => {
      if (!which(one)) return sum;
      const isOther = one.how !== undefined && way !== null && one.how !== way;
      return sum + one.times * (isOther ? otherWay : 1);
    }, 0);
  const own = times((one) => 'part' in one && one.part === fault.part);
  const role = habits.some((one) => 'role' in one) ? roleOf(board, fault.part) : null;
  const elsewhere = role === null ? 0 : times((one) => 'role' in one && one.role === role);
  return Math.min(
    mostHabitFactor,
    (1 + habitFactor * Math.sqrt(own)) *
      Math.min(mostSchemeFactor, 1 + schemeFactor * Math.sqrt(elsewhere)),
  );
}

/** The way a closing would name a fault by; null where none fits. */
export function wayOf(fault: Fault): FailureWay | null {
  switch (fault.kind) {
    case 'open':
    case 'high':
      return 'open';
    case 'pins-short':
    case 'all-short':
    case 'pin-short':
    case 'short':
    case 'nets-joined':
      return 'short';
    case 'dead':
    case 'output-dead':
    case 'weak':
    case 'stuck':
      return 'dead';
    case 'drift':
    case 'off-value':
      return 'value';
    case 'trace-open':
    case 'break':
      return 'joint';
    case 'corrupt':
    case 'stops':
    case 'blank':
      return 'contents';
    default:
      return null;
  }
}

/** The table below is guesses: it is believed this much, as a power of each weight. */
const beliefInGuesses = 0.75;

/** Weight of a fault by its kind alone: it never changes for a board. */
export const baseWeight = (board: Board, fault: Fault): number =>
  guessedWeight(board, fault) ** beliefInGuesses;

function guessedWeight(board: Board, fault: Fault): number {
  const part = 'part' in fault ? board.parts.find((one) => one.ref === fault.part) : undefined;
  const chip = 'part' in fault ? board.chips.find((one) => one.ref === fault.part) : undefined;
  const of = part && partWeights[part.kind];
  const kindOf = (id: NetId | undefined): string | undefined =>
    board.nets.find((one) => one.id === id)?.kind;
  switch (fault.kind) {
    case 'open':
      return part?.kind === 'button' || board.button?.part === fault.part
        ? buttonOpen
        : (of?.open ?? 0.1);
    case 'pins-short':
      if (chip) return chipWeights.through * (fault.ohms < 0.5 ? 0.7 : 0.3);
      return (of?.short ?? 0.1) * shareOfOhms(fault.ohms);
    case 'all-short':
      return fetAllShort;
    case 'drift':
      return part?.kind === 'resistor' ? (of?.drift ?? 0.05) : clampWorn;
    case 'high':
      return ((part && goneHigh[part.kind]) ?? 0.1) / 4;
    case 'reversed':
      return reversed;
    case 'trace-open':
      return of?.trace ?? chipWeights.trace;
    case 'dead': {
      const all = (chip && chipDeath[chip.kind]) ?? chipWeights.dead;
      const hasGood = chip?.behaviours.some((one) => one.do === 'regulator' && one.powerGood);
      return !hasGood ? all : all * (fault.letsGo ? chipWeights.letsGo : 1 - chipWeights.letsGo);
    }
    case 'output-dead':
      return chipWeights.outputDead;
    case 'weak':
      return chipWeights.weak / 3;
    case 'off-value':
      return chipWeights.offValue / 4;
    case 'corrupt':
      return chipWeights.corrupt;
    case 'stops': {
      const steps =
        chip?.behaviours.flatMap((one) => (one.do === 'sequence' ? one.steps : [])) ?? [];
      const acts = steps.filter((one) => one.kind !== 'wait' && one.kind !== 'pause').length;
      return chipWeights.stops / Math.max(1, acts);
    }
    case 'blank':
      return chipWeights.blank;
    case 'stuck':
      return fault.level === 'low' ? chipWeights.stuckLow : chipWeights.stuckReleased;
    case 'pin-short': {
      const isRail = kindOf(chip?.pins.get(fault.pin)) === 'rail';
      const feeds =
        chip?.behaviours.some(
          (one) => one.do === 'regulator' && (one.in === fault.pin || one.out === fault.pin),
        ) || chip?.draws.some((draw) => draw.pin === fault.pin);
      const all = feeds
        ? chipWeights.pinShort
        : isRail
          ? chipWeights.railPin
          : chipWeights.signalPin;
      return all * (isRail || feeds ? shareOfOhms(fault.ohms) : shareOfSignalOhms(fault.ohms));
    }
    case 'short':
      return kindOf(fault.net) === 'rail'
        ? (netWeights.railLow + undrawnShort(board, fault.net)) * shareOfOhms(fault.ohms)
        : netWeights.signalLow * shareOfSignalOhms(fault.ohms);
    case 'nets-joined':
      return netWeights.joined;
    case 'break':
      return netWeights.break;
    case 'source':
      return sourceWeights[fault.how];
    case 'warm':
      return warmth;
  }
}

/** Capacitors of a rail that a sheet does not draw are there all the same, and short as often. */
const undrawnCapacitors = 1.5;

/** Their weight on a rail; 0 where the sheet draws some. */
function undrawnShort(board: Board, id: NetId): number {
  const drawn = board.parts.some(
    (part) => part.kind === 'capacitor' && part.pins.some((pin) => pin.net === id),
  );
  return drawn ? 0 : undrawnCapacitors;
}

/** Liquid and heat reach this far, in millimetres, and through the board to the other side. */
const nearMillimetres = 4;
const throughMillimetres = 3;
/** So much of a finding's weight, as a power of it, falls on what stands near, or hangs on the same net. */
const nearPower = 0.5;
const netPower = 0.4;

function findingFactor(board: Board, fault: Fault, findings: readonly Finding[]): number {
  let factor = 1;
  for (const { kind, part } of findings) {
    if (part === null) continue;
    const full = findingFactors[kind];
    if ('part' in fault && part === fault.part) {
      // Heat speaks for current: of an open part it says nothing.
      if (kind === 'hot' && (fault.kind === 'open' || fault.kind === 'trace-open')) continue;
      factor *= full * (fault.kind === 'reversed' && isRepaired(kind) ? repairedFactor : 1);
    } else if (spreads(kind)) {
      if ('part' in fault && isNear(board, part, fault.part)) factor *= full ** nearPower;
      else if (!('part' in fault) && touches(board, fault, part)) factor *= full ** netPower;
    }
  }
  return factor;
}

/** What was soldered by others may be turned round. */
const repairedFactor = 8;
const isRepaired = (kind: Finding['kind']): boolean => kind === 'reworked' || kind === 'wrong-part';
/** Liquid, fire, blows and bridges do not stop at one part. */
const spreads = (kind: Finding['kind']): boolean =>
  kind === 'corrosion' || kind === 'burnt' || kind === 'bridged' || kind === 'reworked';

function isNear(board: Board, seen: string, ref: string): boolean {
  const at = (one: string): Part | Chip | undefined =>
    board.parts.find((part) => part.ref === one) ?? board.chips.find((chip) => chip.ref === one);
  const [a, b] = [at(seen), at(ref)];
  if (!a || !b || a.x === null || a.y === null || b.x === null || b.y === null) return false;
  const distance = Math.hypot(a.x - b.x, a.y - b.y);
  return distance <= (a.side === b.side ? nearMillimetres : throughMillimetres);
}

function touches(board: Board, fault: Fault, ref: string): boolean {
  const nets =
    fault.kind === 'nets-joined'
      ? fault.nets
      : fault.kind === 'short' || fault.kind === 'break'
        ? [fault.net]
        : [];
  return nets.length > 0 && nets.every((net) => pinNetsOf(board, ref).includes(net))
    ? true
    : nets.some((net) => pinNetsOf(board, ref).includes(net)) && fault.kind !== 'nets-joined';
}

const pinNetsOf = (board: Board, ref: string): NetId[] => [
  ...(board.parts.find((one) => one.ref === ref)?.pins.map((pin) => pin.net) ?? []),
  ...(board.chips.find((one) => one.ref === ref)?.pins.values() ?? []),
];

/**
 * What a simple thing says of the faults it speaks of, where it changed nothing and where it helped. All are
 * guesses by common practice (no source).
 */
const triedFactors: Record<
  Tried['thing'],
  { speaksOf: (board: Board, fault: Fault) => boolean; noChange: number; helped: number } | null
> = {
  // The fault is not on the board at all then.
  'other-source': {
    speaksOf: (_, fault) => fault.kind === 'source',
    noChange: 0.05,
    helped: 60,
  },
  'meter-zero': null,
  settings: {
    speaksOf: (_, fault) => fault.kind === 'corrupt' || fault.kind === 'stops',
    noChange: 0.7,
    helped: 10,
  },
  memory: {
    speaksOf: (board, fault) => belongsTo(board, fault, 'memory'),
    noChange: 0.5,
    helped: 20,
  },
  'needed-only': {
    speaksOf: (board, fault) => belongsTo(board, fault, null),
    noChange: 0.1,
    helped: 20,
  },
  'other-panel': {
    speaksOf: (board, fault) => belongsTo(board, fault, 'panel'),
    noChange: 0.05,
    helped: 60,
  },
  'button-pads': {
    speaksOf: (board, fault) => fault.kind === 'open' && fault.part === board.button?.part,
    noChange: 0.05,
    helped: 200,
  },
};

/** Whether the fault's part goes with an attachment: a certain one, or any. */
function belongsTo(board: Board, fault: Fault, attachment: string | null): boolean {
  if (!('part' in fault)) return false;
  const owner = [...board.parts, ...board.chips].find((one) => one.ref === fault.part);
  if (attachment === null) return typeof owner?.on === 'string';
  return owner?.on === attachment || owner?.kind === attachment;
}

function triedFactor(board: Board, fault: Fault, tried: readonly Tried[]): number {
  let factor = 1;
  for (const { thing, result } of tried) {
    const speaks = triedFactors[thing];
    if (result === 'cannot' || !speaks?.speaksOf(board, fault)) continue;
    factor *= result === 'helped' ? speaks.helped : speaks.noChange;
  }
  return factor;
}

/** Chances beside the single faults: that nothing is wrong, and that it is something not in the list. */
export const healthyShare = 0.01;
export const noneShare = 0.04;
/** Of boards with a fault, the share that has one more beside it: liquid and lightning seldom take one part. A guess. */
export const severalShare = 0.2;
