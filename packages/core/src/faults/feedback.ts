import type { Behaviour, Board, Chip, NetId, Regulator } from '../board/index.ts';

/** Without its upper resistor a converter gives all it can: its feed. */
const mostVolts = 1000;

/** One and the ratio of a divider's resistors, upper to lower; null where the sheet draws none. */
function dividerRatio(board: Board, chip: Chip, { feedback }: Regulator): number | null {
  const net = feedback === undefined ? undefined : chip.pins.get(feedback);
  if (net === undefined) return null;
  let [up, down] = [0, 0];
  for (const { kind, fitted, value, pins } of board.parts) {
    if (kind !== 'resistor' || !fitted || !value) continue;
    const other = otherEnd(pins, net);
    if (other === board.ground) down += 1 / value;
    else if (other !== null) up += 1 / value;
  }
  if (up === 0 && down === 0) return null;
  return up === 0 ? Infinity : 1 + down / up;
}

function otherEnd(pins: readonly { net: NetId }[], net: NetId): NetId | null {
  const at = pins.findIndex((pin) => pin.net === net);
  return at < 0 ? null : (pins.find((_, index) => index !== at)?.net ?? null);
}

const isAdjustable = (behaviour: Behaviour): boolean =>
  behaviour.do === 'regulator' && behaviour.feedback !== undefined;

/**
 * A converter holds its feedback pin at its reference, so its volts follow the divider: reference x
 * (1 + upper / lower), as every data sheet of an adjustable regulator has it. Regulators whose divider
 * differs between the two boards hold other volts.
 */
export function retuned(before: Board, after: Board): Board {
  if (!before.chips.some((chip) => chip.behaviours.some(isAdjustable))) return after;
  let isChanged = false;
  const chips = after.chips.map((chip) => {
    const was = before.chips.find(({ ref }) => ref === chip.ref);
    if (!was) return chip;
    const behaviours = chip.behaviours.map((behaviour) => {
      if (behaviour.do !== 'regulator') return behaviour;
      const [then, now] = [
        dividerRatio(before, was, behaviour),
        dividerRatio(after, chip, behaviour),
      ];
      // With both of its resistors gone the pin stands nowhere: it gives all it can.
      if (then === null || then === Infinity || now === then) return behaviour;
      isChanged = true;
      return {
        ...behaviour,
        volts: Math.min(mostVolts, (behaviour.volts / then) * (now ?? Infinity)),
      };
    });
    return { ...chip, behaviours };
  });
  return isChanged ? { ...after, chips } : after;
}
