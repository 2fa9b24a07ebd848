import { isSeriesPart, type Board, type NetId, type SourceId } from '../board/index.ts';
import { withFaults, type Fault } from '../faults/index.ts';
import { playBoard, type PlaySetup } from './play.ts';

/** What a bench supply that feeds a single rail is limited to. */
const feedAmps = 0.5;
/** A net lifted by this much from outside is driven. */
const drivenVolts = 0.5;

/**
 * Whether a missing rail, fed at its own volts from a bench supply with the board's own source off,
 * drives what should feed it: through a body diode or a switch that is on. Then it is no harmless test.
 */
export function feedsBackwards(board: Board, setup: PlaySetup, net: NetId, fault: Fault): boolean {
  const volts = board.nets.find((one) => one.id === net)?.volts;
  if (!volts) return true;
  const id = 'feed' as SourceId;
  const model = board.sources[0];
  if (!model) return true;
  const fed: Board = {
    ...board,
    sources: [
      ...board.sources,
      {
        ...model,
        id,
        kind: 'bench',
        title: 'bench supply on a rail',
        net,
        volts,
        limitAmps: feedAmps,
        on: null,
        stays: false,
        offersVolts: [],
      },
    ],
  };
  // Nothing else on: the battery is unplugged for this.
  const play = playBoard(withFaults(fed, [fault]), { ...setup, source: id, staying: [] });
  const standby = play.phases.get('standby');
  if (play.status === 'invalid' || !standby) return true;
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
