import type { DiodeDevice } from '../device.ts';
import { thermalVolts, wrightOmega } from '../junction.ts';
import {
  addFlow,
  addPair,
  pairSlots,
  type Group,
  type Placed,
  type SlotOf,
  floats,
  integers,
} from './group.ts';

/** One exponential junction; a zener is two, the second turned round behind its breakdown volts. */
interface Junction {
  device: DiodeDevice;
  index: number;
  from: number;
  to: number;
  offsetVolts: number;
  sign: 1 | -1;
}

/** A junction that has just begun to conduct is not believed above this many amps at first. */
const mostFirstAmps = 1;
/** Moved by less than this part of n Vt, a junction's tangent is as good as ever. */
const hardlyMoved = 1e-4;

/**
 * Junctions by the equations of junction.ts, with their constants worked out beforehand.
 * Reverse-biased ones, which are most, cost a comparison. A conducting one is linearised at the
 * current the circuit last asked of it, not at the volts: by volts Newton comes down an exponential
 * by no more than one n Vt an iteration.
 */
export function makeDiodes(placed: readonly Placed<DiodeDevice>[], slot: SlotOf): Group {
  const junctions = placed.flatMap(({ device, index }): Junction[] => {
    const { anode, cathode, breakdownVolts } = device;
    const forward: Junction = { device, index, from: anode, to: cathode, offsetVolts: 0, sign: 1 };
    if (breakdownVolts === null) return [forward];
    return [
      forward,
      { device, index, from: cathode, to: anode, offsetVolts: breakdownVolts, sign: -1 },
    ];
  });
  const count = junctions.length;
  const from = integers(junctions, (one) => one.from);
  const to = integers(junctions, (one) => one.to);
  const slots = pairSlots(from, to, slot);
  const offset = floats(junctions, (one) => one.offsetVolts);
  const per = (value: (device: DiodeDevice) => number): Float64Array =>
    floats(junctions, ({ device }) => value(device));
  const leak = per(({ model }) => model.saturationAmps);
  const unit = per(({ model }) => model.emission * thermalVolts);
  const ohms = per(({ model }) => model.seriesOhms);
  const drop = per(({ model }) => model.saturationAmps * model.seriesOhms);
  const logDrop = per(({ model }) =>
    Math.log((model.saturationAmps * model.seriesOhms) / (model.emission * thermalVolts)),
  );
  const voltsAt = (d: number, amps: number): number =>
    unit[d]! * Math.log1p(amps / leak[d]!) + amps * ohms[d]!;
  const mostFirstVolts = floats(
    junctions.map((_, d) => d),
    (d) => voltsAt(d, mostFirstAmps),
  );

  // Where each was linearised last.
  const lastVolts = new Float64Array(count).fill(Infinity);
  const lastAmps = new Float64Array(count);
  const lastSlope = new Float64Array(count);

  const ampsAt = (d: number, across: number): number => {
    if (across < -40 * unit[d]!) return -leak[d]!;
    const omega = wrightOmega(logDrop[d]! + (across + drop[d]!) / unit[d]!);
    return (unit[d]! / ohms[d]!) * omega - leak[d]!;
  };
  const across = (d: number, volts: Float64Array): number =>
    volts[from[d]!]! - volts[to[d]!]! - offset[d]!;
  const linearise = (d: number, here: number, isFirst: boolean): void => {
    if (Math.abs(here - lastVolts[d]!) < hardlyMoved * unit[d]!) return;
    if (here < -40 * unit[d]!) {
      lastVolts[d] = here;
      lastAmps[d] = -leak[d]!;
      lastSlope[d] = 0;
      return;
    }
    const asked = lastAmps[d]! + lastSlope[d]! * (here - lastVolts[d]!);
    if (!isFirst && asked > 0) {
      lastVolts[d] = voltsAt(d, asked);
      lastAmps[d] = asked;
      lastSlope[d] = 1 / (unit[d]! / (asked + leak[d]!) + ohms[d]!);
      return;
    }
    const at = Math.min(here, mostFirstVolts[d]!);
    const omega = wrightOmega(logDrop[d]! + (at + drop[d]!) / unit[d]!);
    lastVolts[d] = at;
    lastAmps[d] = (unit[d]! / ohms[d]!) * omega - leak[d]!;
    lastSlope[d] = omega / (ohms[d]! * (1 + omega));
  };

  return {
    refresh() {},
    stamp(volts, { values, rhs, isFirst }) {
      for (let d = 0; d < count; d++) {
        linearise(d, across(d, volts), isFirst);
        const slope = lastSlope[d]!;
        if (slope !== 0) addPair(values, slots, d, slope);
        const constant = lastAmps[d]! - slope * (lastVolts[d]! + offset[d]!);
        rhs[from[d]!]! -= constant;
        rhs[to[d]!]! += constant;
      }
    },
    tally(volts, _scale, flow) {
      for (let d = 0; d < count; d++) {
        const here = across(d, volts);
        const moved = here - lastVolts[d]!;
        const amps =
          Math.abs(moved) < hardlyMoved * unit[d]!
            ? lastAmps[d]! + lastSlope[d]! * moved
            : ampsAt(d, here);
        addFlow(flow, from[d]!, to[d]!, amps);
      }
    },
    currents(volts, _scale, amps) {
      for (let d = 0; d < count; d++) {
        const { index, sign } = junctions[d]!;
        const through = sign * ampsAt(d, across(d, volts));
        amps[index] = sign === 1 ? through : amps[index]! + through;
      }
    },
  };
}
