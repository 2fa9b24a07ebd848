import type { BipolarDevice } from '../device.ts';
import { thermalVolts } from '../junction.ts';
import { addFlow, type Group, type Placed, type SlotOf } from './group.ts';

/** Bipolar transistors. There are few on a board: they keep to their objects. */
export function makeBipolars(placed: readonly Placed<BipolarDevice>[], slot: SlotOf): Group {
  const nodes = placed.map(
    ({ device }) => [device.base, device.collector, device.emitter] as const,
  );
  const slots = nodes.map((own) => own.flatMap((row) => own.map((column) => slot(row, column))));
  return {
    refresh() {},
    stamp(volts, { values, rhs }) {
      placed.forEach(({ device }, d) => {
        const flow = transport(device, volts);
        const own = nodes[d] as readonly [number, number, number];
        const into = [flow.base, flow.collector, -flow.base - flow.collector];
        for (let row = 0; row < 3; row++) {
          let constant = into[row]!;
          for (let column = 0; column < 3; column++) {
            const slope = slopes[row * 3 + column]!;
            values[slots[d]![row * 3 + column]!]! += slope;
            constant -= slope * volts[own[column]!]!;
          }
          rhs[own[row]!]! -= constant;
        }
      });
    },
    tally(volts, _scale, flow) {
      for (const { device } of placed) {
        const { base, collector } = transport(device, volts);
        addFlow(flow, device.base, device.emitter, base);
        addFlow(flow, device.collector, device.emitter, collector);
      }
    },
    currents(volts, _scale, amps) {
      for (const { device, index } of placed) amps[index] = transport(device, volts).collector;
    },
  };
}

const slopes = new Float64Array(9);

/**
 * Ebers-Moll in its transport form (J. J. Ebers and J. L. Moll, 1954; from memory): currents into
 * base and collector of an NPN, mirrored for a PNP, and in `slopes` their slopes, row by row over
 * base, collector, emitter. Above half an amp the exponentials go on as straight lines.
 */
function transport(
  device: BipolarDevice,
  volts: Float64Array,
): { base: number; collector: number } {
  const sign = device.polarity === 'npn' ? 1 : -1;
  const vb = sign * volts[device.base]!;
  const is = device.saturationAmps;
  const forward = limitedExponential(vb - sign * volts[device.emitter]!, is);
  const backward = limitedExponential(vb - sign * volts[device.collector]!, is);
  const { forwardBeta, reverseBeta } = device;
  const base = forward.amps / forwardBeta + backward.amps / reverseBeta;
  const collector = forward.amps - backward.amps * (1 + 1 / reverseBeta);
  const gbe = forward.siemens / forwardBeta;
  const gbc = backward.siemens / reverseBeta;
  const cf = forward.siemens;
  const cr = backward.siemens * (1 + 1 / reverseBeta);
  slopes[0] = gbe + gbc;
  slopes[1] = -gbc;
  slopes[2] = -gbe;
  slopes[3] = cf - cr;
  slopes[4] = cr;
  slopes[5] = -cf;
  for (let column = 0; column < 3; column++)
    slopes[6 + column] = -slopes[column]! - slopes[3 + column]!;
  return { base: sign * base, collector: sign * collector };
}

function limitedExponential(volts: number, is: number): { amps: number; siemens: number } {
  const most = Math.log(0.5 / is);
  const x = volts / thermalVolts;
  if (x < -40) return { amps: -is, siemens: 0 };
  const value = is * Math.exp(Math.min(x, most));
  const siemens = value / thermalVolts;
  return { amps: value - is + Math.max(0, x - most) * thermalVolts * siemens, siemens };
}
