import type { ResistorDevice } from '../device.ts';
import {
  addFlow,
  addPair,
  pairSlots,
  type Group,
  type Placed,
  type SlotOf,
  integers,
} from './group.ts';

/** Ohmic paths. They do not change during a solve: stamp is called once per solve, not per iteration. */
export function makeResistors(placed: readonly Placed<ResistorDevice>[], slot: SlotOf): Group {
  const count = placed.length;
  const a = integers(placed, ({ device }) => device.a);
  const b = integers(placed, ({ device }) => device.b);
  const slots = pairSlots(a, b, slot);
  const siemens = new Float64Array(count);
  return {
    refresh() {
      for (let d = 0; d < count; d++) {
        const { device } = placed[d]!;
        siemens[d] = device.siemens;
        if (device.a === a[d] && device.b === b[d]) continue;
        a[d] = device.a;
        b[d] = device.b;
        slots.set(pairSlots(a.subarray(d, d + 1), b.subarray(d, d + 1), slot), d * 4);
      }
    },
    stamp(_volts, { values }) {
      for (let d = 0; d < count; d++) {
        if (siemens[d] !== 0) addPair(values, slots, d, siemens[d] as number);
      }
    },
    tally(volts, _scale, flow) {
      for (let d = 0; d < count; d++) {
        if (siemens[d] === 0) continue;
        const from = a[d] as number;
        const to = b[d] as number;
        addFlow(flow, from, to, (volts[from]! - volts[to]!) * siemens[d]!);
      }
    },
    currents(volts, _scale, amps) {
      for (let d = 0; d < count; d++)
        amps[placed[d]!.index] = (volts[a[d]!]! - volts[b[d]!]!) * siemens[d]!;
    },
  };
}
