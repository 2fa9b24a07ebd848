import type { Behaviour, Chip } from './board.ts';
import { allNeeds, outputPins } from './behaviour-pins.ts';
import type { NetId } from './ids.ts';

/** Big logic chips have protection diodes from their signal pins to their supply. */
export function usualClamp(kind: Chip['kind'], behaviours: readonly Behaviour[]): string | null {
  if (kind !== 'controller' && kind !== 'chipset') return null;
  for (const behaviour of behaviours) if (behaviour.do === 'sequence') return behaviour.high;
  return null;
}

/** Signal pins with a protection diode to the supply pin `clamp`: those the behaviours use. */
export function clampedPins(
  chip: Pick<Chip, 'pins'>,
  clamp: string | null,
  behaviours: readonly Behaviour[],
  ground: NetId,
): string[] {
  if (clamp === null) return [];
  const supplies = new Set([clamp]);
  const signals = new Set<string>();
  for (const behaviour of behaviours) {
    if (behaviour.do === 'regulator') continue;
    for (const need of behaviour.supply) supplies.add(need.pin);
    for (const pin of outputPins(behaviour)) signals.add(pin);
    for (const need of allNeeds(behaviour)) signals.add(need.pin);
  }
  const supply = chip.pins.get(clamp);
  return [...signals].filter((pin) => {
    const net = chip.pins.get(pin);
    return !supplies.has(pin) && net !== ground && net !== supply;
  });
}
