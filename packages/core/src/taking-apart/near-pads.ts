import { netOf, type Board, type NetId, type PartKind, findPartOrChip } from '../board/index.ts';
import { formatVolts } from '../units/index.ts';

/** A pad on the same net that is easier to probe than a pin. */
export interface NearPad {
  ref: string;
  pin: string;
  side: string;
  /** From the chip; null where places are not known. */
  millimetres: number | null;
  /** About as wide as this. */
  padMillimetres: number;
  /** What a slip of the probe would join here; null where it joins nothing that matters. */
  slip: Slip | null;
}

export interface Slip {
  net: NetId;
  text: string;
  /** A net of low volts would get those of a higher one. */
  isHarmful: boolean;
}

/** Width of a pad by kind: common practice, no source. */
const padOf: Partial<Record<PartKind, number>> = {
  coil: 2.5,
  connector: 1,
  fuse: 1.4,
  jumper: 0.8,
  ferrite: 0.8,
  diode: 1,
  schottky: 1.2,
  tvs: 1.5,
  zener: 0.9,
  pfet: 1.2,
  nfet: 1.2,
  resistor: 0.6,
  led: 0.8,
};
/** More than this above what a net bears kills what hangs on it. */
const harmVolts = 1.5;

/** Pads on a net beside a chip, the handiest first: large and near, on the side that faces up. */
export function nearPads(
  board: Board,
  ref: string,
  net: NetId,
  voltsOf: (net: NetId) => number,
  gone: readonly string[] = [],
): NearPad[] {
  const chip = findPartOrChip(board, ref);
  return board.parts
    .filter((part) => part.fitted && !part.isGuess && part.ref !== ref && !gone.includes(part.ref))
    .flatMap((part): NearPad[] => {
      const pin = part.pins.find((one) => one.net === net);
      if (!pin) return [];
      const isPlaced =
        chip !== undefined &&
        part.x !== null &&
        part.y !== null &&
        chip.x !== null &&
        chip.y !== null;
      const padMillimetres =
        part.kind === 'capacitor'
          ? (part.value ?? 0) >= 47e-6
            ? 2
            : (part.value ?? 0) >= 4e-6
              ? 1
              : 0.6
          : (padOf[part.kind] ?? 0.6);
      const others = part.pins.filter((one) => one.net !== net).map((one) => one.net);
      return [
        {
          ref: part.ref,
          pin: pin.name,
          side: part.side ?? '',
          millimetres: isPlaced ? Math.hypot(part.x! - chip.x!, part.y! - chip.y!) : null,
          padMillimetres,
          slip: worstSlip(board, net, others, voltsOf),
        },
      ];
    })
    .sort((a, b) => worth(b, chip?.side ?? '') - worth(a, chip?.side ?? ''));
}

const worth = (pad: NearPad, side: string): number =>
  pad.padMillimetres -
  (pad.millimetres ?? 20) / 12 -
  (pad.side !== '' && side !== '' && pad.side !== side ? 1.5 : 0) -
  (pad.slip?.isHarmful ? 1 : 0);

/** What a probe that slips from a net to its neighbours would do, at worst. */
export function worstSlip(
  board: Board,
  net: NetId,
  beside: readonly NetId[],
  voltsOf: (net: NetId) => number,
): Slip | null {
  const slips = [...new Set(beside)]
    .filter((one) => one !== net)
    .map((one) => ({ net: one, apart: Math.abs(voltsOf(one) - voltsOf(net)) }))
    .sort((a, b) => b.apart - a.apart);
  const [worst] = slips;
  if (!worst || worst.apart < 0.2) return null;
  const low = voltsOf(worst.net) < voltsOf(net) ? worst.net : net;
  const isGround = low === board.ground;
  const bears = netOf(board, low).volts ?? voltsOf(low);
  const isHarmful =
    !isGround && worst.apart > harmVolts && voltsOf(low) + worst.apart > bears + harmVolts;
  return {
    net: worst.net,
    isHarmful,
    text: isGround
      ? `a slip shorts ${formatVolts(round(worst.apart))} to ground`
      : `a slip joins ${worst.net} (${formatVolts(round(voltsOf(worst.net)))}) to ${net} (${formatVolts(round(voltsOf(net)))})`,
  };
}

const round = (volts: number): number => Number(volts.toPrecision(3));
