import type { Behaviour, Board, Need } from './board.ts';
import type { NetId } from './ids.ts';

/** Every threshold a behaviour looks at. */
export function allNeeds(behaviour: Behaviour): Need[] {
  switch (behaviour.do) {
    case 'regulator':
      return behaviour.needs;
    case 'follower':
      return [...behaviour.supply, ...behaviour.needs, ...behaviour.startNeeds];
    case 'sequence':
      return [
        ...behaviour.supply,
        ...behaviour.needs,
        ...behaviour.abort,
        ...behaviour.steps.flatMap((step) => (step.kind === 'wait' ? step.needs : [])),
      ];
  }
}

/** Nets that a chip's output holds both high and low. */
export function drivenNets(board: Board): Set<NetId> {
  const nets = new Set<NetId>();
  for (const { fitted, behaviours, pins } of board.chips)
    for (const one of fitted ? behaviours : [])
      if (one.do !== 'regulator' && one.drive === 'push-pull')
        for (const pin of outputPins(one)) nets.add(pins.get(pin) as NetId);
  return nets;
}

/** Pins a behaviour drives. */
export function outputPins(behaviour: Behaviour): string[] {
  switch (behaviour.do) {
    case 'regulator':
      return behaviour.powerGood ? [behaviour.out, behaviour.powerGood] : [behaviour.out];
    case 'follower':
      return [behaviour.out];
    case 'sequence': {
      const pins = new Set(behaviour.idle.map((one) => one.pin));
      for (const step of behaviour.steps) {
        if (step.kind === 'drive') step.levels.forEach((one) => pins.add(one.pin));
        if (step.kind === 'pulse') pins.add(step.pin);
      }
      return [...pins];
    }
  }
}
