import {
  findChip,
  findPart,
  isFet,
  netById,
  type Board,
  type ChipKind,
  type NetId,
  type Part,
  type PartKind,
} from '../../board/index.ts';
import type { Fault, SourceTrouble } from '../../faults/index.ts';

/**
 * How often things fail before anything is read: weights against each other, not per cent. All are
 * guesses by common practice (no source): shorted input and rail capacitors, blown fuses and shorted
 * FETs lead; traces and single resistors follow; a shorted output inside a chip is rarer than a
 * capacitor beside it. Closed jobs and findings move them.
 */
const partWeights: Record<PartKind, { open: number; short: number; drift: number }> = {
  resistor: { open: 0.3, short: 0, drift: 0.05 },
  capacitor: { open: 0, short: 0.8, drift: 0 },
  coil: { open: 0.15, short: 0, drift: 0 },
  ferrite: { open: 0.4, short: 0, drift: 0 },
  fuse: { open: 2, short: 0, drift: 0 },
  jumper: { open: 0.1, short: 0, drift: 0 },
  diode: { open: 0.2, short: 0.4, drift: 0 },
  schottky: { open: 0.2, short: 0.4, drift: 0 },
  zener: { open: 0.1, short: 0.3, drift: 0 },
  tvs: { open: 0.05, short: 0.8, drift: 0 },
  led: { open: 0.1, short: 0.05, drift: 0 },
  pfet: { open: 0.4, short: 1, drift: 0 },
  nfet: { open: 0.4, short: 1, drift: 0 },
  npn: { open: 0.15, short: 0.2, drift: 0 },
  pnp: { open: 0.15, short: 0.2, drift: 0 },
  crystal: { open: 0.4, short: 0, drift: 0 },
  fan: { open: 0.3, short: 0, drift: 0 },
  button: { open: 0.1, short: 0.3, drift: 0 },
  connector: { open: 0.1, short: 0.1, drift: 0 },
};

const chipDeath: Partial<Record<ChipKind, number>> = {
  controller: 1,
  chipset: 1.5,
  charger: 1.5,
  // A few transistors that carry no power.
  supervisor: 0.4,
  detector: 0.4,
  // With its cable, which wears at the hinge, and its plug.
  panel: 10,
};
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
/** A joint or the copper at one pin of a part: "open" counts most of them already. */
const jointOfPart = 0.015;
const jointOfFet = 0.1;
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
  ohms < 5 ? 0.25 : ohms < 50 ? 0.3 : ohms < 20_000 ? 0.2 : 0.12;

/** The table below is guesses: it is believed this much, as a power of each weight. */
const beliefInGuesses = 0.75;

/** Weight of a fault by its kind alone: it never changes for a board. */
export const baseWeight = (board: Board, fault: Fault): number =>
  guessedWeight(board, fault) ** beliefInGuesses;

/** How often a fault happens, by the table: weights against each other. */
export function guessedWeight(board: Board, fault: Fault): number {
  const part = 'part' in fault ? findPart(board, fault.part) : undefined;
  const chip = 'part' in fault ? findChip(board, fault.part) : undefined;
  const of = part && partWeights[part.kind];
  const kindOf = (id: NetId | undefined): string | undefined => netById(board, id)?.kind;
  switch (fault.kind) {
    case 'open':
      return part?.kind === 'button' || board.button?.part === fault.part
        ? buttonOpen
        : (of?.open ?? 0.1);
    case 'pins-short':
      if (chip) return chipWeights.through * (fault.ohms < 0.5 ? 0.7 : 0.3);
      return (of?.short ?? 0.1) * shareOfOhms(fault.ohms) * (part ? amongMany(board, part) : 1);
    case 'all-short':
      return fetAllShort;
    case 'drift':
      return part?.kind === 'resistor' ? (of?.drift ?? 0.05) : clampWorn;
    case 'high':
      return ((part && goneHigh[part.kind]) ?? 0.1) / 4;
    case 'reversed':
      return reversed;
    case 'trace-open':
      return !part ? chipWeights.trace : isFet(part) ? jointOfFet : jointOfPart;
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

/** So many capacitors on a rail are as short as often each as alone. */
const fewCapacitors = 6;

/**
 * Of many capacitors on one rail each is short more seldom: all of them together grow with the root of
 * their number. Where a hundred stand they are small, at a processor's volt or less, far below what they
 * bear; what breaks them is volts near their limit (common practice, no source).
 */
function amongMany(board: Board, part: Part): number {
  if (part.kind !== 'capacitor') return 1;
  const net = part.pins.find((pin) => pin.net !== board.ground)?.net;
  const many = (net && capacitorsOf(board).get(net)) ?? 1;
  return many <= fewCapacitors ? 1 : (fewCapacitors / many) ** (0.5 / beliefInGuesses);
}

const counted = new WeakMap<Board, Map<NetId, number>>();
function capacitorsOf(board: Board): Map<NetId, number> {
  let counts = counted.get(board);
  if (!counts) {
    counts = new Map();
    for (const { kind, pins, fitted } of board.parts)
      if (kind === 'capacitor' && fitted)
        for (const { net } of pins) counts.set(net, (counts.get(net) ?? 0) + 1);
    counted.set(board, counts);
  }
  return counts;
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

/** Chances beside the single faults: that nothing is wrong, and that it is something not in the list. */
export const healthyShare = 0.01;
/**
 * Of boards that do on the bench all that they came for, so many have nothing wrong: a plug that was loose,
 * a battery that slept (common practice, no source).
 */
export const healthyShareOfReached = 0.3;
export const noneShare = 0.04;
/** Of boards with a fault, the share that has one more beside it: liquid and lightning seldom take one part. A guess. */
export const severalShare = 0.2;
