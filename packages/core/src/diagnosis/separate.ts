import { isSeriesPart, type Board, type NetId } from '../board/index.ts';
import type { Fault } from '../faults/index.ts';

/** How to tell the members of a group apart, where no reading on the nets does. */
export interface SeparatingTest {
  text: string;
  caution: string | null;
}

export const injectionCaution =
  'Battery and source off. Stay below the rail’s own volts, and start with the current limit low. A shorted part gets hot enough to burn: look for it with a camera or a drop of alcohol, not with a finger.';
export const heatCaution =
  'Lifting heats the board: discharge it first, shield what is near, follow your shop’s rules.';

/** The test that separates a group, by what its members are. Common practice, no source. */
export function separatingTest(
  board: Board,
  faults: readonly Fault[],
  shortedNet: NetId | null,
): SeparatingTest {
  if (shortedNet !== null) {
    const volts = board.nets.find((net) => net.id === shortedNet)?.volts ?? null;
    const coil = board.parts.find(
      (part) =>
        part.kind === 'coil' && part.fitted && part.pins.some((pin) => pin.net === shortedNet),
    );
    const limit = volts === null ? 'its own volts or less' : `${Math.min(1, volts)} V`;
    return {
      text: `${coil ? `Lift coil ${coil.ref}: is the short on the regulator's side or the load's? Then inject` : 'Inject'} ${limit} with a small current limit on ${shortedNet} and look for the part that gets warm, or follow the millivolt drop to where it is lowest.`,
      caution: injectionCaution,
    };
  }
  const parts = new Set(faults.flatMap((fault) => ('part' in fault ? [fault.part] : [])));
  const series = board.parts.find((part) => parts.has(part.ref) && isSeriesPart(part));
  if (series) {
    return {
      text: `Measure ${series.ref} from end to end, unpowered: below an ohm it is whole. If it is, touch the pins of the chips beside it themselves: a cut trace or joint reads right on the pad and wrong on the pin.`,
      caution: null,
    };
  }
  const resistors = board.parts.filter((part) => parts.has(part.ref) && part.kind === 'resistor');
  if (resistors.length > 0) {
    return {
      text: `Measure ${resistors.map((part) => part.ref).join(', ')} unpowered against ${resistors.map((part) => part.valueText).join(', ')}; lift one end where something beside it reads along.`,
      caution: heatCaution,
    };
  }
  const chips = board.chips.filter((chip) => parts.has(chip.ref));
  if (chips.length === 1) {
    return {
      text: `Go round ${chips[0]?.ref} pin by pin with the probe on the pins themselves: where pad and pin differ the joint is open; where all are right the chip is bad. Touch up its pins before changing it.`,
      caution: heatCaution,
    };
  }
  return {
    text: `Compare the pins of ${chips.map((chip) => chip.ref).join(', ')} themselves with their nets; then take them out of the line one at a time, the easiest first.`,
    caution: heatCaution,
  };
}
