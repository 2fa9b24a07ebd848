import type { Board } from '../board/index.ts';
import type { PlaySetup } from './play.ts';

/** How a bench stands: what feeds the board and what is plugged into it. */
export interface BenchSetup {
  /** Id of the connected source; the board's first where not given or not known. */
  source?: string | undefined;
  /** Ids of attachments. */
  attached: readonly string[];
  /** Parts lifted or taken off. */
  lifted?: readonly string[] | undefined;
  /** What a bench supply is set to; as the sheet says where not given. */
  supply?: { volts: number; limitAmps: number } | undefined;
}

/** The play's setup for a bench: a battery that is plugged in stays beside the connected source. */
export function benchSetup(
  board: Board,
  { source, attached, lifted, supply }: BenchSetup,
): PlaySetup {
  const connected =
    board.sources.find((one) => one.id === source) ??
    board.sources.find((one) => !one.stays && one.on === null) ??
    board.sources[0];
  // Fed by its battery, the board has it plugged in.
  const plugged = new Set([...attached, ...(connected?.on ? [connected.on] : [])]);
  return {
    source: connected?.id ?? '',
    staying: board.sources
      .filter((one) => one !== connected && (one.stays || (one.on !== null && plugged.has(one.on))))
      .map((one) => one.id),
    unplugged: board.attachments.map((one) => one.id).filter((id) => !plugged.has(id)),
    ...(lifted?.length ? { lifted: [...lifted].sort() } : {}),
    ...(supply ? { supply } : {}),
  };
}

/** All plugged in but batteries, on the given source or the board's first: a play without a word of the bench. */
export function usualSetup(board: Board, source?: string): PlaySetup {
  const batteries = new Set(board.sources.map((one) => one.on));
  const attached = board.attachments.map((one) => one.id).filter((id) => !batteries.has(id));
  return benchSetup(board, { source, attached });
}

/** Attachments that are plugged in. */
export function attachedIn(board: Board, setup: PlaySetup): string[] {
  return board.attachments
    .map((one) => one.id)
    .filter((id) => !(setup.unplugged ?? []).includes(id));
}
