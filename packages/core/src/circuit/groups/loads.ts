import type { LoadDevice } from '../device.ts';
import { addFlow, type Group, type Placed, type SlotOf, floats, integers } from './group.ts';

export interface LoadGroup extends Group {
  /**
   * A load that is about to be dragged below where it lets go is landed on that knee: a constant
   * current into a node that nothing holds up would throw it far below ground.
   */
  land(volts: Float64Array, next: Float64Array): boolean;
}

/** Current sinks to ground that let go at low volts. */
export function makeLoads(placed: readonly Placed<LoadDevice>[], slot: SlotOf): LoadGroup {
  const count = placed.length;
  const node = integers(placed, ({ device }) => device.node);
  const slots = integers(placed, ({ device }) => slot(device.node, device.node));
  const letGo = floats(placed, ({ device }) => device.letGoVolts);
  const full = new Float64Array(count);
  const drawn = (d: number, volts: Float64Array): number => {
    const here = volts[node[d]!]!;
    return here > letGo[d]! ? full[d]! : (full[d]! / letGo[d]!) * here;
  };
  return {
    refresh() {
      for (let d = 0; d < count; d++) full[d] = placed[d]!.device.amps;
    },
    land(volts, next) {
      let landed = false;
      for (let d = 0; d < count; d++) {
        const at = node[d]!;
        if (full[d] === 0 || !(volts[at]! > letGo[d]!) || !(next[at]! < letGo[d]!)) continue;
        next[at] = letGo[d]! * 0.999;
        landed = true;
      }
      return landed;
    },
    stamp(volts, { values, rhs }) {
      for (let d = 0; d < count; d++) {
        if (volts[node[d]!]! > letGo[d]!) rhs[node[d]!]! -= full[d]!;
        else values[slots[d]!]! += full[d]! / letGo[d]!;
      }
    },
    tally(volts, _scale, flow) {
      for (let d = 0; d < count; d++) addFlow(flow, node[d]!, 0, drawn(d, volts));
    },
    currents(volts, _scale, amps) {
      for (let d = 0; d < count; d++) amps[placed[d]!.index] = drawn(d, volts);
    },
  };
}
