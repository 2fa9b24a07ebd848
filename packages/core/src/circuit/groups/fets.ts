import type { FetDevice } from '../device.ts';
import { addFlow, type Group, type Placed, type SlotOf, floats, integers } from './group.ts';

/** More than a board's input carries. */
const mostEarlyAmps = 5;

/** Level 1 MOSFET channels (Shichman-Hodges), symmetric in drain and source. */
export function makeFets(placed: readonly Placed<FetDevice>[], slot: SlotOf): Group {
  const count = placed.length;
  const gate = integers(placed, ({ device }) => device.gate);
  const drain = integers(placed, ({ device }) => device.drain);
  const source = integers(placed, ({ device }) => device.source);
  // Rows drain and source, columns gate, drain, source.
  const slots = Int32Array.from(
    placed.flatMap(({ device: { gate: g, drain: d, source: s } }) => [
      slot(d, g),
      slot(d, d),
      slot(d, s),
      slot(s, g),
      slot(s, d),
      slot(s, s),
    ]),
  );
  const sign = integers(placed, ({ device }) => (device.polarity === 'n' ? 1 : -1));
  const threshold = floats(placed, ({ device }) => device.thresholdVolts);
  const beta = floats(placed, ({ device }) => device.beta);

  // Of the last channel evaluated: amps into the drain and the slopes by gate, drain and source.
  let amps = 0;
  let byGate = 0;
  let byDrain = 0;
  let bySource = 0;
  const evaluate = (d: number, volts: Float64Array): void => {
    const polarity = sign[d]!;
    const g = polarity * volts[gate[d]!]!;
    const atDrain = polarity * volts[drain[d]!]!;
    const atSource = polarity * volts[source[d]!]!;
    const swapped = atDrain < atSource;
    const low = swapped ? atDrain : atSource;
    const across = swapped ? atSource - atDrain : atDrain - atSource;
    const over = g - low - threshold[d]!;
    if (over <= 0) {
      amps = byGate = byDrain = bySource = 0;
      return;
    }
    const gain = beta[d]!;
    let flow: number;
    let gm: number;
    let gds = 0;
    if (across < over) {
      flow = gain * across * (over - across / 2);
      gm = gain * across;
      gds = gain * (over - across);
    } else {
      flow = (gain / 2) * over * over;
      gm = gain * over;
    }
    // d(flow)/d(high end) = gds, d/d(gate) = gm, d/d(low end) = -(gm + gds); signs cancel in slopes.
    if (swapped) {
      amps = -polarity * flow;
      byGate = -gm;
      byDrain = gm + gds;
      bySource = -gds;
    } else {
      amps = polarity * flow;
      byGate = gm;
      byDrain = gds;
      bySource = -(gm + gds);
    }
  };

  return {
    refresh() {},
    stamp(volts, { values, rhs, early }) {
      for (let d = 0; d < count; d++) {
        evaluate(d, volts);
        // Just turned on, with most of the supply still across it, a power FET's tangent asks for
        // hundreds of amps and throws the iteration about: its chord to zero does not.
        if (early && Math.abs(amps) > mostEarlyAmps) {
          const chord = Math.abs(amps / (volts[drain[d]!]! - volts[source[d]!]!));
          byGate = 0;
          byDrain = chord;
          bySource = -chord;
        }
        if (byGate === 0 && byDrain === 0) continue;
        const at = d * 6;
        values[slots[at]!]! += byGate;
        values[slots[at + 1]!]! += byDrain;
        values[slots[at + 2]!]! += bySource;
        values[slots[at + 3]!]! -= byGate;
        values[slots[at + 4]!]! -= byDrain;
        values[slots[at + 5]!]! -= bySource;
        const constant =
          amps -
          byGate * volts[gate[d]!]! -
          byDrain * volts[drain[d]!]! -
          bySource * volts[source[d]!]!;
        rhs[drain[d]!]! -= constant;
        rhs[source[d]!]! += constant;
      }
    },
    tally(volts, _scale, flow) {
      for (let d = 0; d < count; d++) {
        evaluate(d, volts);
        if (amps !== 0) addFlow(flow, drain[d]!, source[d]!, amps);
      }
    },
    currents(volts, _scale, into) {
      for (let d = 0; d < count; d++) {
        evaluate(d, volts);
        into[placed[d]!.index] = amps;
      }
    },
  };
}
