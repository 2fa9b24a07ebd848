import { findChip, findPart, type Board, type NetId } from '../../board/index.ts';
import type { findingKinds, Habit, simpleResults, TriedThing } from '../../record/index.ts';

// What is known of a board beside its readings.

export interface Finding {
  kind: (typeof findingKinds)[number];
  part: string | null;
  /** Where it sits at no part: the net it is on, as corrosion on a trace. */
  net?: string | null;
}

/** Something that was tried without a reading, and what came of it. */
export interface Tried {
  thing: TriedThing;
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

/** The nets something seen is on: those of its part, or the one it was tied to; none of what is not on the sheet. */
export const netsOfFinding = (board: Board, { part, net }: Omit<Finding, 'kind'>): NetId[] =>
  part === null ? board.nets.flatMap(({ id }) => (id === net ? [id] : [])) : pinNetsOf(board, part);

/** All nets a part or chip is on. */
export const pinNetsOf = (board: Board, ref: string): NetId[] => [
  ...(findPart(board, ref)?.pins.map((pin) => pin.net) ?? []),
  ...(findChip(board, ref)?.pins.values() ?? []),
];
