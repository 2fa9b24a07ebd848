import { isSeriesPart, type Board, type NetId, type SourceId, netById } from '../board/index.ts';
import { withFaults, type Fault } from '../faults/index.ts';
import { playBoard, type PlaySetup } from './play.ts';
import type { Snapshot } from './snapshot.ts';

/** What a bench supply that feeds a single rail is limited to. */
const feedAmps = 0.5;
/** A net lifted by this much from outside is driven. */
const drivenVolts = 0.5;

/** A bench supply on a single rail. */
export interface RailFeed {
  net: NetId;
  volts: number;
  limitAmps: number;
}

/**
 * The board with one of its rails fed from outside: its own sources off and the battery unplugged, or,
 * `live`, with its source on. Null where that does not settle.
 */
export function playFed(
  board: Board,
  setup: PlaySetup,
  feed: RailFeed,
  faults: readonly Fault[],
  live = false,
): Snapshot | null {
  const id = 'feed' as SourceId;
  const model = board.sources[0];
  if (!model) return null;
  const fed: Board = {
    ...board,
    sources: [
      ...board.sources,
      {
        ...model,
        id,
        kind: 'bench',
        title: 'bench supply on a rail',
        net: feed.net,
        volts: feed.volts,
        limitAmps: feed.limitAmps,
        idleVolts: null,
        on: null,
        stays: live,
        chargeLimitAmps: null,
        offersVolts: [],
      },
    ],
  };
  const play = playBoard(
    withFaults(fed, faults),
    live ? { ...setup, staying: [...setup.staying, id] } : { ...setup, source: id, staying: [] },
  );
  return play.status === 'invalid' ? null : (play.phases.get('standby') ?? null);
}

/**
 * Whether a missing rail, fed at its own volts from a bench supply with the board's own source off,
 * drives what should feed it: through a body diode or a switch that is on. Then it is no harmless test.
 */
export function feedsBackwards(board: Board, setup: PlaySetup, net: NetId, fault: Fault): boolean {
  const volts = netById(board, net)?.volts;
  if (!volts) return true;
  const standby = playFed(board, setup, { net, volts, limitAmps: feedAmps }, [fault]);
  if (!standby) return true;
  const feeds = board.chips.flatMap((chip) =>
    chip.behaviours.flatMap((one) =>
      one.do === 'regulator' && [one.out, one.sense].some((pin) => chip.pins.get(pin) === net)
        ? [chip.pins.get(one.in)]
        : [],
    ),
  );
  const across = board.parts.flatMap((part) =>
    isSeriesPart(part) && part.pins.some((pin) => pin.net === net)
      ? part.pins.map((pin) => pin.net)
      : [],
  );
  return feeds.some(
    (one) => one && !across.includes(one) && (standby.volts.get(one) ?? 0) > drivenVolts,
  );
}
