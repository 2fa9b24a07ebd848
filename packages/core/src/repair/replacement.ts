import { isFet, type Board, findChip, findPart, netById } from '../board/index.ts';

/** What a replacement has to match, and the caution of fitting it. */
export interface Replacement {
  ref: string;
  wants: string[];
}

/** What the sheet says of a part that another one has to match. */
export function replacementFor(board: Board, ref: string): Replacement | null {
  const chip = findChip(board, ref);
  const part = findPart(board, ref);
  if (!chip && !part) return null;
  const volts = Math.max(
    0,
    ...(part?.pins ?? []).map((pin) => {
      const net = netById(board, pin.net);
      return net?.rangeVolts?.[1] ?? net?.volts ?? 0;
    }),
  );
  const wants: string[] = [];
  const marking = chip?.marking ?? part?.marking ?? '';
  wants.push(
    marking
      ? `Marking ${marking}, or one its data sheet calls the same.`
      : 'The sheet knows no marking: read it off the part before it is lost.',
  );
  if (part?.package) wants.push(`Package ${part.package}.`);
  if (chip) wants.push(`${chip.pins.size} pins on this sheet: same pin-out, pin 1 at its mark.`);
  if (part && isFet(part))
    wants.push(
      `${part.kind === 'pfet' ? 'P-channel' : 'N-channel'}, same pin-out; drain to source well above ${volts || 30} V, as many amps, a threshold its gate drive reaches.`,
    );
  switch (part?.kind) {
    case 'capacitor':
      wants.push(
        `${part.valueText || 'same farads'}, rated for at least one and a half times ${volts || 'its'} V; polarised ones the right way round.`,
      );
      break;
    case 'resistor':
      wants.push(
        `${part.valueText || 'same ohms'}, same size; a sense resistor of the same tolerance.`,
      );
      break;
    case 'fuse':
      wants.push(
        `${part.valueText || 'Same amps'} and speed, rated for ${volts || 'the'} V or more: never larger, never a wire.`,
      );
      break;
    case 'coil':
      wants.push(
        `${part.valueText || 'Same henries'}, saturation above the regulator's limit, same height.`,
      );
      break;
    case 'zener':
    case 'tvs':
      wants.push(
        `Same kind and breakdown volts${part.value ? ` (${part.value} V)` : ''}: lower it conducts at the rail's own volts, higher it protects nothing; the bar is the cathode: mark it before the old one comes off.`,
      );
      break;
    case 'diode':
    case 'schottky':
    case 'led':
      wants.push('Same kind; the bar is the cathode: mark it before the old one comes off.');
      break;
    default:
      break;
  }
  wants.push('A spare from a donor is measured before it is fitted.');
  return { ref, wants };
}
