import type { RegulatorDevice } from '../device.ts';
import {
  holding,
  limiting,
  zero,
  type KneeGroup,
  type Placed,
  type SlotOf,
  floats,
  integers,
} from './group.ts';

/** A switching regulator's longest duty: how near its output comes to its input. */
const switchingDuty = 0.97;
/**
 * However low its sense pin says the output is, a switching regulator lets it go no further than
 * this times its volts: over-voltage protection, data-sheet habit, from memory.
 */
const mostOvervolts = { switching: 1.3, boost: 1.2 };

/**
 * Regulators: current into the output to hold the sense pin, up to a limit and to what the input
 * allows; at the input the same current (linear) or the same power (switching).
 */
export function makeRegulators(
  placed: readonly Placed<RegulatorDevice>[],
  slot: SlotOf,
): KneeGroup {
  const count = placed.length;
  const devices = placed.map(({ device }) => device);
  const isLinear = integers(devices, (one) => (one.pass === 'linear' ? 1 : 0));
  const isBoost = integers(devices, (one) => (one.pass === 'boost' ? 1 : 0));
  const input = integers(devices, (one) => one.in);
  const output = integers(devices, (one) => one.out);
  const sense = integers(devices, (one) => one.sense);
  // Rows in and out; columns in, out, sense.
  const slots = Int32Array.from(
    devices.flatMap(({ in: i, out: o, sense: s }) => [
      slot(i, i),
      slot(i, o),
      slot(i, s),
      slot(o, i),
      slot(o, o),
      slot(o, s),
    ]),
  );
  const target = new Float64Array(count);
  const most = new Float64Array(count);
  const isOn = new Uint8Array(count);
  const siemens = floats(devices, (one) => 1 / one.ohms);
  const dropout = floats(devices, (one) => one.dropoutVolts);
  const efficiency = floats(devices, (one) => one.efficiency);
  const regions = new Int8Array(count).fill(holding);
  /** Amps each took at its input in the iteration before. */
  const taken = new Float64Array(count);

  /** The most the output can reach from its input, whatever the sense pin says. */
  const ceiling = (d: number, volts: Float64Array): number => {
    if (isBoost[d]) return target[d]! * mostOvervolts.boost;
    const at = volts[input[d]!]!;
    if (isLinear[d]) return Math.max(0, at - dropout[d]!);
    return Math.max(0, Math.min(at * switchingDuty, target[d]! * mostOvervolts.switching));
  };
  const wanted = (d: number, volts: Float64Array, scale: number): number =>
    siemens[d]! *
    Math.min(target[d]! * scale - volts[sense[d]!]!, ceiling(d, volts) - volts[output[d]!]!);
  const regionAt = (d: number, volts: Float64Array, scale: number): number => {
    const amps = wanted(d, volts, scale);
    const slack = 1e-9 + most[d]! * 1e-9;
    return amps > most[d]! + slack ? limiting : amps < -slack ? zero : holding;
  };
  const given = (d: number, volts: Float64Array, scale: number): number =>
    isOn[d] ? Math.max(0, Math.min(most[d]!, wanted(d, volts, scale))) : 0;
  /** Below its least input a regulator takes less and less, as its duty has an end. */
  const leastInput = (d: number): number => (isBoost[d] ? 1 : Math.max(0.5, target[d]!));
  const inputAmps = (d: number, volts: Float64Array, amps: number): number => {
    if (isLinear[d]) return amps;
    const power = (amps * Math.max(0, volts[output[d]!]!)) / efficiency[d]!;
    const at = volts[input[d]!]!;
    const least = leastInput(d);
    return at >= least ? power / at : (Math.max(0, at) * power) / (least * least);
  };

  /**
   * The input's amps with their slopes (a negative conductance at the input), for the amps given
   * and their slopes by input, and by the pin that is held.
   */
  const stampInputExactly = (
    d: number,
    volts: Float64Array,
    values: Float64Array,
    rhs: Float64Array,
    amps: number,
    ampsByInput: number,
    ampsByHeld: number,
    held: number,
  ): void => {
    const at = volts[input[d]!]!;
    const out = Math.max(0, volts[output[d]!]!);
    const least = leastInput(d);
    const isAbove = at >= least;
    const perPower = isAbove ? 1 / at : Math.max(0, at) / (least * least);
    const perPowerSlope = isAbove ? -1 / (at * at) : at > 0 ? 1 / (least * least) : 0;
    const power = (amps * out) / efficiency[d]!;
    const byAmps = (out / efficiency[d]!) * perPower;
    const byInput = power * perPowerSlope + byAmps * ampsByInput;
    const byOutput = out > 0 ? (amps / efficiency[d]!) * perPower : 0;
    const byHeld = byAmps * ampsByHeld;
    const first = d * 6;
    values[slots[first]!]! += byInput;
    values[slots[first + 1]!]! += byOutput;
    values[slots[first + held]!]! += byHeld;
    const heldNode = held === 1 ? output[d]! : sense[d]!;
    rhs[input[d]!]! -=
      power * perPower - byInput * at - byOutput * volts[output[d]!]! - byHeld * volts[heldNode]!;
  };
  /** The input's amps as they were found before, without slopes: slower, and never upset. */
  const stampInputLagging = (
    d: number,
    volts: Float64Array,
    rhs: Float64Array,
    amps: number,
    trust: number,
  ): void => {
    const now = taken[d]! + trust * (inputAmps(d, volts, amps) - taken[d]!);
    taken[d] = now;
    rhs[input[d]!]! -= now;
  };

  return {
    refresh() {
      for (let d = 0; d < count; d++) {
        const device = devices[d]!;
        target[d] = device.volts;
        most[d] = device.limitAmps;
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
    stamp(volts, { values, rhs, scale, exact, trust }) {
      for (let d = 0; d < count; d++) {
        if (!isOn[d]) continue;
        const region = regions[d]!;
        const linear = isLinear[d] === 1;
        if (region !== holding) {
          if (region === zero) continue;
          const amps = most[d]!;
          rhs[output[d]!]! += amps;
          if (linear) rhs[input[d]!]! -= amps;
          else if (exact) stampInputExactly(d, volts, values, rhs, amps, 0, 0, 1);
          else stampInputLagging(d, volts, rhs, amps, trust);
          continue;
        }
        // amps = siemens * (known + fromInput * v(in) - v(held)), held being the sense pin or, where
        // the input is what ends it, the output.
        const per = siemens[d]!;
        const top = ceiling(d, volts);
        const bySense = target[d]! * scale - volts[sense[d]!]!;
        const byInput = top - volts[output[d]!]!;
        const atCeiling = byInput < bySense;
        const protects = !linear && top === target[d]! * mostOvervolts.switching;
        const follows = atCeiling && !isBoost[d] && !protects && top > 0;
        const fromInput = follows ? (linear ? 1 : switchingDuty) : 0;
        const known = !atCeiling ? target[d]! * scale : follows ? (linear ? -dropout[d]! : 0) : top;
        const held = atCeiling ? 1 : 2;
        const first = d * 6;
        values[slots[first + 3 + held]!]! += per;
        values[slots[first + 3]!]! -= per * fromInput;
        rhs[output[d]!]! += per * known;
        if (linear) {
          values[slots[first + held]!]! -= per;
          values[slots[first]!]! += per * fromInput;
          rhs[input[d]!]! -= per * known;
          continue;
        }
        const free = per * Math.min(bySense, byInput);
        const amps = Math.max(0, Math.min(free, most[d]!));
        if (exact) {
          const isFree = amps === free;
          stampInputExactly(
            d,
            volts,
            values,
            rhs,
            amps,
            isFree ? per * fromInput : 0,
            isFree ? -per : 0,
            held,
          );
        } else stampInputLagging(d, volts, rhs, amps, trust);
      }
    },
    tally(volts, scale, flow) {
      for (let d = 0; d < count; d++) {
        const amps = given(d, volts, scale);
        if (amps === 0) continue;
        const drawn = inputAmps(d, volts, amps);
        flow.sum[output[d]!]! += amps;
        flow.size[output[d]!]! += amps;
        flow.sum[input[d]!]! -= drawn;
        flow.size[input[d]!]! += drawn;
      }
    },
    currents(volts, scale, amps) {
      for (let d = 0; d < count; d++) amps[placed[d]!.index] = given(d, volts, scale);
    },
  };
}
