import {
  isFet,
  netOf,
  pinsOnNet,
  pinText,
  type Board,
  type NetId,
  type PartKind,
  findChip,
  findPart,
} from '../board/index.ts';
import type { ProbePlace } from '../readings/index.ts';

/** Parts whose pads are easy to probe come first. */
const handy: readonly PartKind[] = [
  'coil',
  'fuse',
  'ferrite',
  'resistor',
  'capacitor',
  'diode',
  'schottky',
  'jumper',
  'pfet',
  'nfet',
  'zener',
  'tvs',
  'connector',
];

const fetPins: Record<string, string> = { G: 'gate', D: 'drain', S: 'source' };

/** Where to put the probe for a net, and how to say it; never at a part that is `gone`. */
export function probePlace(
  board: Board,
  net: NetId,
  gone: readonly string[] = [],
): ProbePlace & { text: string; side: string } {
  const isThere = (ref: string | null): boolean => ref === null || !gone.includes(ref);
  const point = board.points.find((one) => one.net === net && isThere(one.part));
  if (point) {
    const part = findPart(board, point.part);
    return {
      net,
      part: point.part,
      pin: point.pin,
      text: point.title || `${point.part ?? point.id} ${point.pin ?? ''}`.trim(),
      side: point.side ?? part?.side ?? '',
    };
  }
  // Parts of a first sheet stand for what nobody looked up: their names are on no board.
  const isFirst = board.choices !== null;
  for (const kind of handy) {
    const part = board.parts.find(
      (one) =>
        one.fitted &&
        !one.isGuess &&
        isThere(one.ref) &&
        one.kind === kind &&
        one.pins.some((pin) => pin.net === net),
    );
    const pin = part?.pins.find((one) => one.net === net);
    if (part && pin) {
      const text = isFet(part)
        ? `${fetPins[pin.name]} of ${isFirst && part.title ? `the ${part.title}` : part.ref}`
        : `${part.kind} ${part.ref}, pin ${pin.name}`;
      return { net, part: part.ref, pin: pin.name, text, side: part.side ?? '' };
    }
  }
  if (isFirst) {
    const { title } = netOf(board, net);
    return { net, part: null, pin: null, text: title || net, side: '' };
  }
  const pin = pinsOnNet(board, net).find((one) => isThere(one.ref));
  if (!pin) return { net, part: null, pin: null, text: net, side: '' };
  const chip = findChip(board, pin.ref);
  return {
    net,
    part: pin.ref,
    pin: pin.pin,
    text: chip?.virtual ? net : `${pin.ref} pin ${pinText(board, pin.ref, pin.pin)}`,
    side: chip?.side ?? '',
  };
}
