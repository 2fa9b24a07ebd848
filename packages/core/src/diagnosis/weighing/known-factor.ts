import { pinNetsOf, type Finding, type Known, type Tried } from '../evidence/finding.ts';
import {
  roleOf,
  type Board,
  type Chip,
  type NetId,
  type Part,
  findPartOrChip,
} from '../../board/index.ts';
import type { Fault } from '../../faults/index.ts';
import type { FailureWay, findingKinds, Habit } from '../../record/index.ts';
import { baseWeight } from './priors.ts';

// What is known of a board beside its readings, and what it makes of how often things fail.

/** How much more likely a fault becomes at a part where something was seen. Guesses. */
const findingFactors: Record<(typeof findingKinds)[number], number> = {
  corrosion: 8,
  burnt: 25,
  cracked: 20,
  // What is not there is open, and nothing else: its other faults are held down by `notThereFactor`.
  missing: 400,
  bridged: 15,
  reworked: 5,
  'wrong-part': 15,
  'lifted-pad': 20,
  hot: 6,
  swollen: 15,
};

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

/** Liquid and heat reach this far, in millimetres, and through the board to the other side. */
const nearMillimetres = 4;
const throughMillimetres = 3;
/** So much of a finding's weight, as a power of it, falls on what stands near, or hangs on the same net. */
const nearPower = 0.5;
const netPower = 0.4;

function findingFactor(board: Board, fault: Fault, findings: readonly Finding[]): number {
  let factor = 1;
  for (const { kind, part, net } of findings) {
    const full = findingFactors[kind];
    if (part === null) {
      if (net) factor *= onNetFactor(board, fault, net as NetId, full);
    } else if (kind === 'missing') {
      if ('part' in fault && part === fault.part)
        factor *= isAbsence(fault) ? full : notThereFactor;
    } else if ('part' in fault && part === fault.part) {
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

/** A part that is not there can neither be short nor weak; the mark may stand at the wrong part. A guess. */
const notThereFactor = 0.01;
const isAbsence = (fault: Fault): boolean => fault.kind === 'open' || fault.kind === 'dead';

/** What is seen on a net speaks of the net, and less of what is joined to it. */
function onNetFactor(board: Board, fault: Fault, net: NetId, full: number): number {
  if (netsOf(fault).includes(net)) return full;
  return 'part' in fault && pinNetsOf(board, fault.part).includes(net) ? full ** netPower : 1;
}

/** What was soldered by others may be turned round. */
const repairedFactor = 8;
const isRepaired = (kind: Finding['kind']): boolean => kind === 'reworked' || kind === 'wrong-part';
/** Liquid, fire, blows and bridges do not stop at one part. */
const spreads = (kind: Finding['kind']): boolean =>
  kind === 'corrosion' || kind === 'burnt' || kind === 'bridged' || kind === 'reworked';

function isNear(board: Board, seen: string, ref: string): boolean {
  const at = (place: string): Part | Chip | undefined => findPartOrChip(board, place);
  const [a, b] = [at(seen), at(ref)];
  if (!a || !b || a.x === null || a.y === null || b.x === null || b.y === null) return false;
  const distance = Math.hypot(a.x - b.x, a.y - b.y);
  return distance <= (a.side === b.side ? nearMillimetres : throughMillimetres);
}

/** The nets a fault between parts is on. */
function netsOf(fault: Fault): readonly NetId[] {
  if (fault.kind === 'nets-joined') return fault.nets;
  return fault.kind === 'short' || fault.kind === 'break' ? [fault.net] : [];
}

function touches(board: Board, fault: Fault, ref: string): boolean {
  const nets = netsOf(fault);
  return nets.length > 0 && nets.every((net) => pinNetsOf(board, ref).includes(net))
    ? true
    : nets.some((net) => pinNetsOf(board, ref).includes(net)) && fault.kind !== 'nets-joined';
}

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
  'other-battery': {
    speaksOf: (board, fault) =>
      belongsTo(board, fault, 'battery') ||
      (fault.kind === 'source' &&
        board.sources.some((one) => one.id === fault.source && one.kind === 'battery')),
    noChange: 0.05,
    helped: 60,
  },
  'button-pads': {
    speaksOf: (board, fault) => fault.kind === 'open' && fault.part === board.button?.part,
    noChange: 0.05,
    helped: 200,
  },
  clock: {
    speaksOf: (board, fault) => hasKind(board, fault, 'clock'),
    noChange: 0.1,
    helped: 20,
  },
  flash: {
    speaksOf: (_, fault) => fault.kind === 'blank',
    noChange: 0.1,
    helped: 20,
  },
  firmware: {
    speaksOf: (_, { kind }) => kind === 'blank' || kind === 'corrupt' || kind === 'stops',
    noChange: 0.1,
    helped: 20,
  },
  'panel-cable': {
    speaksOf: (board, fault) => belongsTo(board, fault, 'panel'),
    noChange: 0.5,
    helped: 60,
  },
  // A faint picture is a sign of its own.
  light: null,
  'other-storage': {
    speaksOf: (board, fault) => belongsTo(board, fault, 'storage'),
    noChange: 0.05,
    helped: 60,
  },
  'battery-contacts': {
    speaksOf: (board, fault) => belongsTo(board, fault, 'battery'),
    noChange: 0.7,
    helped: 20,
  },
  // By elimination: it speaks of no fault that a reading could show.
  processor: null,
};

function hasKind(board: Board, fault: Fault, kind: Chip['kind']): boolean {
  return 'part' in fault && board.chips.some((one) => one.ref === fault.part && one.kind === kind);
}

/** Whether the fault's part goes with an attachment: a certain one, or any. */
function belongsTo(board: Board, fault: Fault, attachment: string | null): boolean {
  if (!('part' in fault)) return false;
  const owner = findPartOrChip(board, fault.part);
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
