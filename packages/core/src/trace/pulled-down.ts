import { netOf, outputPins, type Board, type NetId, netById } from '../board/index.ts';
import { lowByNature } from '../readings/index.ts';
import { isGuessed } from './guesses.ts';
import { statusOf } from './judged.ts';
import type { FirstMissing, Known } from './known.ts';

// What pulls a net down: what is there to do it, and what cold ohms say that something does.

/** What holds a net low: by itself, or through a resistor, which is named as well. */
export interface Holder {
  ref: string;
  pin: string | null;
  through: string | null;
}

/**
 * Resistors and transistors to ground and the chips' pins that drive the net, at the net itself or
 * behind one resistor, as gates are driven.
 */
export function pulledDownBy(board: Board, net: NetId): Holder[] {
  const isRail = (id: NetId): boolean => netById(board, id)?.kind === 'rail';
  const behind = board.parts.flatMap((part): Holder[] => {
    const other = part.pins.find((pin) => pin.net !== net)?.net;
    const joins =
      part.kind === 'resistor' && part.fitted && part.pins.some((one) => one.net === net);
    if (!joins || !other || other === board.ground || isRail(other)) return [];
    return holdersOn(board, other).map((one) => ({ ...one, through: part.ref }));
  });
  return [...holdersOn(board, net), ...behind];
}

function holdersOn(board: Board, net: NetId): Holder[] {
  const isOn = (pins: readonly { name: string; net: NetId }[], names: string, on: NetId): boolean =>
    pins.some((pin) => pin.net === on && (names === '' || names.includes(pin.name)));
  const parts = board.parts.filter(({ kind, fitted, pins }) => {
    if (!fitted) return false;
    switch (kind) {
      case 'resistor':
        return isOn(pins, '', net) && isOn(pins, '', board.ground);
      case 'nfet':
        return isOn(pins, 'D', net) && isOn(pins, 'S', board.ground);
      case 'npn':
        return isOn(pins, 'C', net) && isOn(pins, 'E', board.ground);
      default:
        return false;
    }
  });
  const pins = board.chips.flatMap((chip) =>
    chip.behaviours.flatMap((behaviour) =>
      // A regulator's output is fed, not pulled down; its power-good is let go or held low.
      (behaviour.do === 'regulator'
        ? behaviour.powerGood
          ? [behaviour.powerGood]
          : []
        : outputPins(behaviour)
      )
        .filter((pin) => chip.fitted && chip.pins.get(pin) === net)
        .map((pin): Holder => ({ ref: chip.ref, pin, through: null })),
    ),
  );
  return [...parts.map((part): Holder => ({ ref: part.ref, pin: null, through: null })), ...pins];
}

/**
 * Less than this is little even for a core rail: large graphics read so, hardly a laptop's processor
 * (common practice, no source). Held against a rail that is missing, or whose power-good is.
 */
const littleCoreOhms = 0.5;

/** What the cold ohms of a rail that is not there say of its output. */
export function outputPulledDown(known: Known, net: NetId): FirstMissing['pulledDown'] {
  const ohms = statusOf(known.readings, net, 'cold', 'ohms');
  if (ohms.kind === 'unread') return null;
  const { reading, verdict } = ohms.reading;
  if (ohms.kind === 'bad' && verdict.kind === 'shorted') return 'surely';
  return isGuessed(known) &&
    lowByNature(netOf(known.healthy.board, net)) &&
    reading.value.kind === 'number' &&
    reading.value.value < littleCoreOhms
    ? 'likely'
    : null;
}
