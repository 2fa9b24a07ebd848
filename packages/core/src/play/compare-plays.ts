import type { NetId } from '../board/index.ts';
import { poweredPhases, type PoweredPhase } from '../readings/index.ts';
import type { Play } from './play.ts';

/**
 * Which nets differ between two plays, and in which phases: by more than a meter shows apart from
 * noise (2 % and 30 mV), or because one of them swings. Nets of one play only are left out.
 */
export function comparePlays(a: Play, b: Play): Map<NetId, Set<PoweredPhase>> {
  const changed = new Map<NetId, Set<PoweredPhase>>();
  for (const phase of poweredPhases) {
    const left = a.phases.get(phase);
    const right = b.phases.get(phase);
    if (!left || !right) continue;
    for (const [net, volts] of left.volts) {
      const other = right.volts.get(net);
      if (other === undefined) continue;
      const allowed = 0.03 + 0.02 * Math.max(Math.abs(volts), Math.abs(other));
      const swings = left.swinging.has(net) !== right.swinging.has(net);
      if (!swings && Math.abs(volts - other) <= allowed) continue;
      const phases = changed.get(net) ?? new Set<PoweredPhase>();
      phases.add(phase);
      changed.set(net, phases);
    }
  }
  return changed;
}
