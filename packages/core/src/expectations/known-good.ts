import type { Board, GoodNet, Origin } from '../board/index.ts';
import { leastGoodBoards, type Phase } from '../readings/index.ts';

/** What good boards read at a net, and how many stand behind it. */
export type KnownNet = { net: string; median: number; count: number } &
  /** With nothing connected. */
  (
    | { mode: 'ohms' | 'diode' }
    /** On the source of this bench. */
    | { mode: 'volts'; phase: Phase; spread: number }
  );

/** Figures that somebody looked up are better than a few boards; these are not. */
const weaker: readonly Origin[] = ['rule-of-thumb', 'guess'];

/**
 * The board with what good ones read in place of rules of thumb and guesses, for expectations. What is
 * played with faults goes on by the sheet alone.
 */
export function withKnownGood(board: Board, known: readonly KnownNet[]): Board {
  const taken = known.filter((one) => one.count >= leastGoodBoards);
  if (taken.length === 0) return board;
  return {
    ...board,
    nets: board.nets.map((net) => {
      const own = taken.filter((one) => one.net === net.id);
      const isWeak = weaker.includes(net.origin);
      const cold = (mode: 'ohms' | 'diode', stated: number | null): KnownNet | undefined =>
        stated === null || isWeak ? own.find((one) => one.mode === mode) : undefined;
      const [ohms, diode] = [cold('ohms', net.coldOhms), cold('diode', net.coldDiodeVolts)];
      const volts = isWeak
        ? own.flatMap((one) =>
            one.mode === 'volts'
              ? [[one.phase, { volts: one.median, spread: one.spread, boards: one.count }] as const]
              : [],
          )
        : [];
      if (!ohms && !diode && volts.length === 0) return net;
      const good: GoodNet = {
        ...(ohms ? { ohms: ohms.count } : {}),
        ...(diode ? { diode: diode.count } : {}),
        volts: Object.fromEntries(volts),
      };
      return {
        ...net,
        coldOhms: ohms?.median ?? net.coldOhms,
        coldDiodeVolts: diode?.median ?? net.coldDiodeVolts,
        good,
      };
    }),
  };
}
