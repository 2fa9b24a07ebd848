import type { Behaviour, Need } from './board.ts';

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
