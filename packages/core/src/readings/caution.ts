import { unreachable } from '../base/index.ts';
import type { Phase } from './phase.ts';

/**
 * The caution that belongs to what the bench is doing now. Jiko defers to local rules and licensed
 * practice; it never says that a board is safe.
 */
export function cautionFor(phase: Phase, attached: readonly string[]): string {
  const battery = attached.includes('battery');
  switch (phase) {
    case 'cold':
      return battery
        ? 'The battery is still on the board: unplug it before taking ohms or diode-mode, and look at it first. Leave a swollen cell alone and follow your local rules.'
        : 'Source off, battery unplugged, large capacitors discharged before ohms or diode-mode. Nothing here is mains-side: that is for licensed practice.';
    case 'standby':
      return 'The board is live. One probe at a time, insulated tip, nothing loose on the bench; the input rail carries enough current to burn.';
    case 'pressed':
      return 'Hold the button, not the board. A probe that slips between two pads now takes a chip with it.';
    case 'trying':
      return 'The board goes off by itself within seconds: read one point per try, let it cool between tries, and stop when something smells or gets hot.';
    case 'run':
      return 'All rails are up: coils and FETs may burn skin. Fan and heatsink on before it runs for more than seconds.';
    default:
      return unreachable(phase);
  }
}
