import type { Board, Origin } from '../board/index.ts';
import { leastGoodBoards } from '../readings/index.ts';

/** What good boards read at a net with nothing connected, and how many stand behind it. */
export interface KnownNet {
  net: string;
  mode: 'ohms' | 'diode';
  median: number;
  count: number;
}

/** Figures that somebody looked up are better than a few boards; these are not. */
const weaker: readonly Origin[] = ['rule-of-thumb', 'guess'];

/**
 * The board with what good ones read cold in place of rules of thumb and guesses, for expectations. What is
 * played with faults goes on by the sheet alone.
 */
export function withKnownGood(board: Board, known: readonly KnownNet[]): Board {
  const of = (net: string, mode: KnownNet['mode']): KnownNet | undefined =>
    known.find((one) => one.net === net && one.mode === mode && one.count >= leastGoodBoards);
  return {
    ...board,
    nets: board.nets.map((net) => {
      const [ohms, diode] = [of(net.id, 'ohms'), of(net.id, 'diode')];
      const isOpen = (stated: number | null): boolean =>
        stated === null || weaker.includes(net.origin);
      const takes = {
        coldOhms: ohms && isOpen(net.coldOhms) ? ohms.median : net.coldOhms,
        coldDiodeVolts: diode && isOpen(net.coldDiodeVolts) ? diode.median : net.coldDiodeVolts,
      };
      const isTaken =
        takes.coldOhms !== net.coldOhms || takes.coldDiodeVolts !== net.coldDiodeVolts;
      return isTaken
        ? {
            ...net,
            ...takes,
            origin: 'known-good',
            goodBoards: Math.max(ohms?.count ?? 0, diode?.count ?? 0),
          }
        : net;
    }),
  };
}
