import type { SourceDevice } from '../device.ts';
import {
  addFlow,
  addPair,
  holding,
  limiting,
  zero,
  type KneeGroup,
  type Placed,
  type SlotOf,
  floats,
  integers,
} from './group.ts';

/** Norton equivalents with a most and a least current. */
export function makeSources(placed: readonly Placed<SourceDevice>[], slot: SlotOf): KneeGroup {
  const count = placed.length;
  const node = integers(placed, ({ device }) => device.node);
  const base = integers(placed, ({ device }) => device.base);
  /** Where the amps come from. */
  const from = integers(placed, ({ device }) => (device.ownFeed ? 0 : device.base));
  const slots = new Int32Array(count * 4);
  const placeSlots = (d: number): void => {
    slots[d * 4] = slot(node[d]!, node[d]!);
    slots[d * 4 + 1] = slot(node[d]!, base[d]!);
    slots[d * 4 + 2] = slot(from[d]!, node[d]!);
    slots[d * 4 + 3] = slot(from[d]!, base[d]!);
  };
  for (let d = 0; d < count; d++) placeSlots(d);
  const siemens = floats(placed, ({ device }) => 1 / device.ohms);
  const target = new Float64Array(count);
  const most = new Float64Array(count);
  const least = new Float64Array(count);
  const isOn = new Uint8Array(count);
  const regions = new Int8Array(count).fill(holding);

  const wanted = (d: number, volts: Float64Array, scale: number): number =>
    (target[d]! * scale + volts[base[d]!]! - volts[node[d]!]!) * siemens[d]!;
  const regionAt = (d: number, volts: Float64Array, scale: number): number => {
    const amps = wanted(d, volts, scale);
    const slack = 1e-9 + most[d]! * 1e-9;
    return amps > most[d]! + slack ? limiting : amps < least[d]! - slack ? zero : holding;
  };
  const given = (d: number, volts: Float64Array, scale: number): number =>
    isOn[d] ? Math.max(least[d]!, Math.min(most[d]!, wanted(d, volts, scale))) : 0;

  return {
    refresh() {
      for (let d = 0; d < count; d++) {
        const { device } = placed[d]!;
        if (device.node !== node[d] || device.base !== base[d]) {
          node[d] = device.node;
          base[d] = device.base;
          from[d] = device.ownFeed ? 0 : device.base;
          placeSlots(d);
        }
        target[d] = device.volts;
        most[d] = device.maxAmps;
        least[d] = device.minAmps;
        isOn[d] = device.on ? 1 : 0;
      }
    },
    reset() {
      regions.fill(holding);
    },
    place(volts) {
      for (let d = 0; d < count; d++) if (isOn[d]) regions[d] = regionAt(d, volts, 1);
    },
    settle(volts, scale, oneOnly) {
      let crossed = false;
      for (let d = 0; d < count; d++) {
        if (!isOn[d]) continue;
        const region = regionAt(d, volts, scale);
        const now = regions[d]!;
        if (region === now) continue;
        regions[d] = now + Math.sign(region - now);
        crossed = true;
        if (oneOnly) return true;
      }
      return crossed;
    },
    stamp(_volts, { values, rhs, scale }) {
      for (let d = 0; d < count; d++) {
        if (!isOn[d]) continue;
        const region = regions[d];
        if (region === holding) addPair(values, slots, d, siemens[d]!);
        const amps =
          region === holding
            ? siemens[d]! * target[d]! * scale
            : region === limiting
              ? most[d]!
              : least[d]!;
        rhs[node[d]!]! += amps;
        rhs[from[d]!]! -= amps;
      }
    },
    tally(volts, scale, flow) {
      for (let d = 0; d < count; d++) {
        if (isOn[d]) addFlow(flow, from[d]!, node[d]!, given(d, volts, scale));
      }
    },
    currents(volts, scale, amps) {
      for (let d = 0; d < count; d++) amps[placed[d]!.index] = given(d, volts, scale);
    },
  };
}
