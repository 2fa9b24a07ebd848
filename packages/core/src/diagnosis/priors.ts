import type { Board, ChipKind, NetId, PartKind } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import type { findingKinds, Habit, simpleResults, simpleThings } from '../record/index.ts';

/**
 * How often things fail before anything is read: weights against each other, not per cent. All are
 * guesses by common practice (no source): shorted input and rail capacitors, blown fuses and shorted
 * FETs lead; traces and single resistors follow; a shorted output inside a chip is rarer than a
 * capacitor beside it. Closed jobs and findings move them.
 */
const partWeights: Record<PartKind, { open: number; short: number; drift: number; trace: number }> =
  {
    resistor: { open: 0.3, short: 0, drift: 0.08, trace: 0.1 },
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
const chipWeights = { dead: 1.2, corrupt: 0.8, trace: 0.12, stuck: 0.12, pinShort: 0.25 };

/** A short is more often hard than soft: parts of its weight by ohms. */
const shareOfOhms = (ohms: number): number =>
  ohms < 0.5 ? 0.4 : ohms < 5 ? 0.25 : ohms < 50 ? 0.2 : 0.15;

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
  /** How often closed jobs on this board were mended at a part. */
  habits: readonly Habit[];
}

/** Each job that ended at a part makes it so much more likely the next time. A guess. */
const habitFactor = 1.5;

/** Weight of a fault before any reading; its scale means nothing but against other faults. */
export function priorWeight(
  board: Board,
  fault: Fault,
  { findings, tried, habits }: Known,
): number {
  const times = habits.find((one) => 'part' in fault && one.part === fault.part)?.times ?? 0;
  return (
    weightByKind(board, fault) *
    findingFactor(fault, findings) *
    triedFactor(board, fault, tried) *
    (1 + habitFactor * times)
  );
}

function weightByKind(board: Board, fault: Fault): number {
  const part = 'part' in fault ? board.parts.find((one) => one.ref === fault.part) : undefined;
  const chip = 'part' in fault ? board.chips.find((one) => one.ref === fault.part) : undefined;
  const of = part && partWeights[part.kind];
  switch (fault.kind) {
    case 'open':
      return of?.open ?? 0.1;
    case 'pins-short':
      return (of?.short ?? 0.1) * shareOfOhms(fault.ohms);
    case 'drift':
      return of?.drift ?? 0.05;
    case 'trace-open':
      return of?.trace ?? chipWeights.trace;
    case 'dead':
      return (chip && chipDeath[chip.kind]) ?? chipWeights.dead;
    case 'corrupt':
      return chipWeights.corrupt;
    case 'stuck':
      return chipWeights.stuck;
    case 'pin-short': {
      const net = chip?.pins.get(fault.pin);
      return (
        (chipWeights.pinShort + (net ? undrawnShort(board, net) : 0)) * shareOfOhms(fault.ohms)
      );
    }
    case 'short':
      return 0.1 * shareOfOhms(fault.ohms);
  }
}

/** Capacitors of a rail that a sheet does not draw are there all the same, and short as often. */
const undrawnCapacitors = 1.5;

/** The share of them that falls to each chip's pin on the rail; 0 where the sheet draws some. */
function undrawnShort(board: Board, id: NetId): number {
  const net = board.nets.find((one) => one.id === id);
  if (net?.kind !== 'rail') return 0;
  const drawn = board.parts.some(
    (part) => part.kind === 'capacitor' && part.pins.some((pin) => pin.net === id),
  );
  if (drawn) return 0;
  const pins = board.chips.reduce(
    (sum, chip) => sum + [...chip.pins.values()].filter((one) => one === id).length,
    0,
  );
  return undrawnCapacitors / pins;
}

function findingFactor(fault: Fault, findings: readonly Finding[]): number {
  let factor = 1;
  for (const { kind, part } of findings) {
    if (!('part' in fault) || part !== fault.part) continue;
    // Heat speaks for current: of an open part it says nothing.
    if (kind === 'hot' && (fault.kind === 'open' || fault.kind === 'trace-open')) continue;
    factor *= findingFactors[kind];
  }
  return factor;
}

/**
 * What a simple thing says of the faults it speaks of, where it changed nothing and where it helped. All are
 * guesses by common practice (no source).
 */
const triedFactors: Record<
  Tried['thing'],
  { speaksOf: (board: Board, fault: Fault) => boolean; noChange: number; helped: number } | null
> = {
  // The fault is not on the board at all then: see healthyOdds.
  'other-source': null,
  'meter-zero': null,
  settings: { speaksOf: (_, fault) => fault.kind === 'corrupt', noChange: 0.7, helped: 10 },
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
  // A button that does not close is not on the list either.
  'button-pads': null,
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

/** How much likelier it is that the board is well: another source, or its pads instead of the button, cured it. */
export const healthyOdds = (tried: readonly Tried[]): number =>
  tried.some(
    ({ thing, result }) =>
      (thing === 'other-source' || thing === 'button-pads') && result === 'helped',
  )
    ? 40
    : 1;

/** Chances beside the single faults: that nothing is wrong, and that it is something not in the list. */
export const healthyShare = 0.01;
export const noneShare = 0.04;
/** Of boards with a fault, the share that has one more beside it: liquid and lightning seldom take one part. A guess. */
export const severalShare = 0.2;
