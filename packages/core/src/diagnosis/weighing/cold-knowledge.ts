import { type Board, type Net, type NetId, type Origin, joinedNets } from '../../board/index.ts';
import type { Mode } from '../../readings/index.ts';

/** What a sheet says of a cold reading. */
export type ColdKnowledge =
  /** Stated, with the spread that goes with where the number comes from: decades, and volts. */
  | { kind: 'stated'; sigmaDecades: number; sigmaVolts: number }
  /** Nothing but drawn parts stand there: their values settle it. */
  | { kind: 'drawn' }
  /** Chips nobody wrote down stand beside the drawn parts: what these give is a ceiling. */
  | { kind: 'ceiling' }
  /** What is drawn is a guess: only a short tells anything. */
  | { kind: 'nothing'; shortOhms: number };

/** Below this a junction is not what is read. */
export const leastJunctionVolts = 0.15;
/** Rows that pull a point this far below the healthy board say so themselves, whatever else stands there. */
export const ownPart = 0.5;
const abovePart = 1.2;
/**
 * On a board whose parts are guesses, less than this to ground is the doing of a short or a leak. What hangs
 * on a rail has some hundred ohms; signals hang on pulls and inputs of tens of kilohms (common practice, no
 * source).
 */
export const shortOhms = { rail: 300, signal: 8000 } as const;

/**
 * What a cold value is worth beside others: where chips nobody wrote down stand, only what lies far
 * below the healthy board tells anything.
 */
export function toldCold(
  knowledge: ColdKnowledge,
  mode: Mode,
  value: number,
  healthy: number,
): number {
  if (knowledge.kind === 'nothing')
    return value < Math.min(ownPart * healthy, knowledge.shortOhms) ? value : healthy;
  if (knowledge.kind !== 'ceiling') return value;
  if (mode === 'diode') return value < leastJunctionVolts ? value : Infinity;
  // Below by a factor, or above what drawn parts allow: the rest may be read under either.
  return value < ownPart * healthy || value > abovePart * healthy ? value : healthy;
}

/** How far a stated cold value may be from this board's, by where it comes from. A guess by practice. */
const statedSigma: Record<Origin, { decades: number; volts: number }> = {
  'known-good': { decades: 0.14, volts: 0.03 },
  datasheet: { decades: 0.18, volts: 0.035 },
  schematic: { decades: 0.18, volts: 0.035 },
  'rule-of-thumb': { decades: 0.35, volts: 0.06 },
  guess: { decades: 0.5, volts: 0.1 },
};

/** What a sheet says of the cold readings of each net: what is stated on one joined to it counts as well. */
export function coldKnowledge(
  board: Board,
  nets: readonly NetId[],
): { ohms: ColdKnowledge[]; diode: ColdKnowledge[] } {
  const groups = joinedNets(board);
  const hasChip = new Set<NetId>();
  for (const chip of board.chips)
    if (chip.fitted) for (const net of chip.pins.values()) hasChip.add(groups.get(net) ?? net);
  for (const part of board.parts)
    if (part.fitted && part.kind === 'connector')
      for (const { net } of part.pins) hasChip.add(groups.get(net) ?? net);
  const isRail = new Set(board.nets.filter((one) => one.kind === 'rail').map((one) => one.id));
  const of = (stated: (net: Net) => number | null): ColdKnowledge[] => {
    const origins = new Map<NetId, Origin>();
    for (const net of board.nets)
      if (stated(net) !== null) origins.set(groups.get(net.id) ?? net.id, net.origin);
    return nets.map((net): ColdKnowledge => {
      const group = groups.get(net) ?? net;
      const origin = origins.get(group);
      if (origin) {
        const { decades, volts } = statedSigma[origin];
        return { kind: 'stated', sigmaDecades: decades, sigmaVolts: volts };
      }
      if (board.guessed.length > 0)
        return { kind: 'nothing', shortOhms: shortOhms[isRail.has(net) ? 'rail' : 'signal'] };
      return hasChip.has(group) ? { kind: 'ceiling' } : { kind: 'drawn' };
    });
  };
  return { ohms: of((net) => net.coldOhms), diode: of((net) => net.coldDiodeVolts) };
}
