import type { Device, LoadDevice, Node, ResistorDevice } from './device.ts';
import { junctionCurrent, thermalVolts } from './junction.ts';

// The equations of the devices: what each adds to the matrix and right-hand side at the present
// volts, and the current through it. Newton's iteration around them is in operating-point.ts.

const zero = 0;
const holding = 1;
const limiting = 2;

export function nodesOf(device: Device): Node[] {
  switch (device.kind) {
    case 'resistor':
      return [device.a, device.b];
    case 'source':
      return [device.node, device.base];
    case 'load':
      return [device.node];
    case 'diode':
      return [device.anode, device.cathode];
    case 'fet':
      return [device.gate, device.drain, device.source];
    case 'bipolar':
      return [device.base, device.collector, device.emitter];
    case 'regulator':
      return [device.in, device.out, device.sense];
  }
}

export function initialRegions(devices: readonly Device[], regions: Int8Array): void {
  devices.forEach((_, index) => (regions[index] = holding));
}

/** The volts a source or regulator is short of its target; its current follows from it. */
function shortfall(device: Device, volts: Float64Array, scale: number): number {
  if (device.kind === 'source') {
    return device.volts * scale + (volts[device.base] as number) - (volts[device.node] as number);
  }
  if (device.kind === 'regulator') {
    return Math.min(
      device.volts * scale - (volts[device.sense] as number),
      ceiling(device, volts) - (volts[device.out] as number),
    );
  }
  return 0;
}

/** The most a regulator's output can reach from its input, whatever its sense pin says. */
function ceiling(device: Device & { kind: 'regulator' }, volts: Float64Array): number {
  const input = volts[device.in] as number;
  switch (device.pass) {
    case 'boost':
      return device.volts * 1.2;
    case 'linear':
      return Math.max(0, input - device.dropoutVolts);
    case 'switching':
      return Math.max(0, input * switchingDuty);
  }
}
/** A switching regulator's longest duty: how near its output comes to its input. */
const switchingDuty = 0.97;

/**
 * Moves each source and regulator at most one region on, so that the knee is landed on, never
 * jumped. With `oneOnly` a single device moves per iteration, which ends every merry-go-round.
 */
export function settleRegions(
  devices: readonly Device[],
  volts: Float64Array,
  regions: Int8Array,
  scale: number,
  oneOnly: boolean,
): boolean {
  let crossed = false;
  for (let d = 0; d < devices.length; d++) {
    const device = devices[d] as Device;
    if ((device.kind !== 'source' && device.kind !== 'regulator') || !device.on) continue;
    const short = shortfall(device, volts, scale);
    const most = device.kind === 'source' ? device.maxAmps : device.limitAmps;
    const least = device.kind === 'source' ? device.minAmps : 0;
    const amps = short / device.ohms;
    const slack = 1e-9 + most * 1e-9;
    const wanted = amps > most + slack ? limiting : amps < least - slack ? zero : holding;
    const now = regions[d] as number;
    if (wanted === now) continue;
    regions[d] = now + Math.sign(wanted - now);
    crossed = true;
    if (oneOnly) return true;
  }
  return crossed;
}

/** What one iteration stamps into, and what the devices remember from the one before. */
export interface Stamping {
  values: Float64Array;
  rhs: Float64Array;
  /** Which side of its knee each source and regulator is on. */
  regions: Int8Array;
  /** Amps each switching regulator took at its input in the iteration before. */
  inputs: Float64Array;
  /** How much of the new input amps is believed: 1 at first, less when it goes back and forth. */
  trust: number;
  /** Sources at this part of their volts. */
  scale: number;
}

export function stamp(
  device: Device,
  index: number,
  slots: Int32Array,
  volts: Float64Array,
  at: Stamping,
): void {
  const { values, rhs, regions, scale } = at;
  switch (device.kind) {
    case 'resistor':
      return; // stamped once per solve by stampLinear
    case 'source': {
      if (!device.on) return;
      const region = regions[index] as number;
      if (region === holding) {
        const siemens = 1 / device.ohms;
        conductance(values, slots, siemens);
        inject(rhs, device.node, siemens * device.volts * scale);
        inject(rhs, device.base, -siemens * device.volts * scale);
      } else {
        const amps = region === limiting ? device.maxAmps : device.minAmps;
        inject(rhs, device.node, amps);
        inject(rhs, device.base, -amps);
      }
      return;
    }
    case 'load': {
      if (device.amps === 0) return;
      if ((volts[device.node] as number) > device.letGoVolts)
        inject(rhs, device.node, -device.amps);
      else add(values, slots[0] as number, device.amps / device.letGoVolts);
      return;
    }
    case 'diode': {
      const across = (volts[device.anode] as number) - (volts[device.cathode] as number);
      const { amps, siemens } = diodeCurrent(device, across);
      conductance(values, slots, siemens);
      const constant = amps - siemens * across;
      inject(rhs, device.anode, -constant);
      inject(rhs, device.cathode, constant);
      return;
    }
    case 'bipolar': {
      const flow = transport(device, volts);
      // Rows and columns: base (0), collector (1), emitter (2).
      const rows = [device.base, device.collector, device.emitter];
      const into = [flow.base, flow.collector, -flow.base - flow.collector];
      for (let row = 0; row < 3; row++) {
        let constant = into[row] as number;
        for (let column = 0; column < 3; column++) {
          const slope = flow.slopes[row * 3 + column] as number;
          add(values, slots[row * 3 + column] as number, slope);
          constant -= slope * (volts[rows[column] as number] as number);
        }
        inject(rhs, rows[row] as number, -constant);
      }
      return;
    }
    case 'fet': {
      const { amps, gate, drain, source } = channel(device, volts);
      // Rows drain (1) and source (2), columns gate, drain, source.
      add(values, slots[3] as number, gate);
      add(values, slots[4] as number, drain);
      add(values, slots[5] as number, source);
      add(values, slots[6] as number, -gate);
      add(values, slots[7] as number, -drain);
      add(values, slots[8] as number, -source);
      const constant =
        amps -
        gate * (volts[device.gate] as number) -
        drain * (volts[device.drain] as number) -
        source * (volts[device.source] as number);
      inject(rhs, device.drain, -constant);
      inject(rhs, device.source, constant);
      return;
    }
    case 'regulator': {
      if (!device.on) return;
      const region = regions[index] as number;
      const isLinear = device.pass === 'linear';
      if (region !== holding) {
        const amps = region === limiting ? device.limitAmps : 0;
        inject(rhs, device.out, amps);
        inject(rhs, device.in, -(isLinear ? amps : takenAtInput(device, index, volts, amps, at)));
        return;
      }
      // amps = siemens * (known + fromInput * v(in) - v(held)), held being the sense pin or, where
      // the input is what ends it, the output. Rows in (0), out (1); columns in, out, sense.
      const siemens = 1 / device.ohms;
      const bySense = device.volts * scale - (volts[device.sense] as number);
      const byInput = ceiling(device, volts) - (volts[device.out] as number);
      const atCeiling = byInput < bySense;
      const followsInput = atCeiling && device.pass !== 'boost' && ceiling(device, volts) > 0;
      const fromInput = followsInput ? (isLinear ? 1 : switchingDuty) : 0;
      const known = atCeiling
        ? followsInput
          ? isLinear
            ? -device.dropoutVolts
            : 0
          : ceiling(device, volts)
        : device.volts * scale;
      const held = atCeiling ? 1 : 2;
      add(values, slots[3 + held] as number, siemens);
      add(values, slots[3] as number, -siemens * fromInput);
      inject(rhs, device.out, siemens * known);
      if (isLinear) {
        add(values, slots[held] as number, -siemens);
        add(values, slots[0] as number, siemens * fromInput);
        inject(rhs, device.in, -siemens * known);
        return;
      }
      // A switching regulator's input power stands in the right-hand side alone: its slope is a
      // negative conductance, which would upset the factorisation.
      const amps = Math.max(0, Math.min(bySense, byInput) * siemens);
      const given = Math.min(amps, device.limitAmps);
      inject(rhs, device.in, -takenAtInput(device, index, volts, given, at));
      return;
    }
  }
}

/**
 * A load that is about to be dragged below where it lets go is landed on that knee: a constant
 * current into a node that nothing holds up would throw it far below ground.
 */
export function landLoads(
  loads: readonly LoadDevice[],
  volts: Float64Array,
  next: Float64Array,
): boolean {
  let landed = false;
  for (const { node, letGoVolts, amps } of loads) {
    if (amps === 0) continue;
    if ((volts[node] as number) > letGoVolts && (next[node] as number) < letGoVolts) {
      next[node] = letGoVolts * 0.999;
      landed = true;
    }
  }
  return landed;
}

export function stampLinear(device: ResistorDevice, slots: Int32Array, values: Float64Array): void {
  conductance(values, slots, device.siemens);
}

function takenAtInput(
  device: Device & { kind: 'regulator' },
  index: number,
  volts: Float64Array,
  amps: number,
  { inputs, trust }: Stamping,
): number {
  const before = inputs[index] as number;
  const taken = before + trust * (inputAmps(device, volts, amps) - before);
  inputs[index] = taken;
  return taken;
}

/**
 * Amps taken at the input for `amps` at the output: the same power, less what is lost. Below its
 * least input a regulator takes less and less, as its duty has an end: without that a source in its
 * current limit would have no answer at all.
 */
function inputAmps(
  device: Device & { kind: 'regulator' },
  volts: Float64Array,
  amps: number,
): number {
  if (device.pass === 'linear') return amps;
  const output = Math.max(0, volts[device.out] as number);
  const input = volts[device.in] as number;
  const least = device.pass === 'boost' ? 1 : Math.max(0.5, device.volts);
  const power = (amps * output) / device.efficiency;
  return input >= least ? power / input : (Math.max(0, input) * power) / (least * least);
}

function diodeCurrent(
  device: Device & { kind: 'diode' },
  across: number,
): { amps: number; siemens: number } {
  const forward = junctionCurrent(device.model, across);
  if (device.breakdownVolts === null) return forward;
  const backward = junctionCurrent(device.model, -across - device.breakdownVolts);
  return { amps: forward.amps - backward.amps, siemens: forward.siemens + backward.siemens };
}

/** Drain current (positive into the drain of an N channel) and its slopes by node. */
function channel(
  device: Device & { kind: 'fet' },
  volts: Float64Array,
): { amps: number; gate: number; drain: number; source: number } {
  const sign = device.polarity === 'n' ? 1 : -1;
  const g = sign * (volts[device.gate] as number);
  const d = sign * (volts[device.drain] as number);
  const s = sign * (volts[device.source] as number);
  const swapped = d < s;
  const high = swapped ? s : d;
  const low = swapped ? d : s;
  const over = g - low - device.thresholdVolts;
  const across = high - low;
  let amps = 0;
  let gm = 0;
  let gds = 0;
  if (over > 0) {
    if (across < over) {
      amps = device.beta * across * (over - across / 2);
      gm = device.beta * across;
      gds = device.beta * (over - across);
    } else {
      amps = (device.beta / 2) * over * over;
      gm = device.beta * over;
    }
  }
  // d(amps)/d(high) = gds, d/d(gate) = gm, d/d(low) = -(gm + gds); the sign cancels in the slopes.
  const lowSlope = -(gm + gds);
  return swapped
    ? { amps: -sign * amps, gate: -gm, drain: -lowSlope, source: -gds }
    : { amps: sign * amps, gate: gm, drain: gds, source: lowSlope };
}

const slopes = new Float64Array(9);

/**
 * Ebers-Moll in its transport form (J. J. Ebers and J. L. Moll, 1954; from memory): currents into
 * base and collector of an NPN, mirrored for a PNP, and their slopes, row by row over base,
 * collector, emitter. Above half an amp the exponentials go on as straight lines.
 */
function transport(
  device: Device & { kind: 'bipolar' },
  volts: Float64Array,
): { base: number; collector: number; slopes: Float64Array } {
  const sign = device.polarity === 'npn' ? 1 : -1;
  const vb = sign * (volts[device.base] as number);
  const vbe = vb - sign * (volts[device.emitter] as number);
  const vbc = vb - sign * (volts[device.collector] as number);
  const is = device.saturationAmps;
  const forward = limitedExponential(vbe, is);
  const backward = limitedExponential(vbc, is);
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
  for (let column = 0; column < 3; column++) {
    slopes[6 + column] = -(slopes[column] as number) - (slopes[3 + column] as number);
  }
  return { base: sign * base, collector: sign * collector, slopes };
}

function limitedExponential(volts: number, is: number): { amps: number; siemens: number } {
  const most = Math.log(0.5 / is);
  const x = volts / thermalVolts;
  if (x < -40) return { amps: -is, siemens: 0 };
  const value = is * Math.exp(Math.min(x, most));
  const siemens = value / thermalVolts;
  return { amps: value - is + Math.max(0, x - most) * thermalVolts * siemens, siemens };
}

/** Amps through the device: a to b, out of a source, into a load, anode to cathode, drain to source. */
export function throughCurrent(device: Device, volts: Float64Array, scale: number): number {
  switch (device.kind) {
    case 'resistor':
      return ((volts[device.a] as number) - (volts[device.b] as number)) * device.siemens;
    case 'source':
    case 'regulator': {
      if (!device.on) return 0;
      const most = device.kind === 'source' ? device.maxAmps : device.limitAmps;
      const least = device.kind === 'source' ? device.minAmps : 0;
      return Math.max(least, Math.min(most, shortfall(device, volts, scale) / device.ohms));
    }
    case 'load': {
      const here = volts[device.node] as number;
      return here > device.letGoVolts ? device.amps : (device.amps / device.letGoVolts) * here;
    }
    case 'diode':
      return diodeCurrent(
        device,
        (volts[device.anode] as number) - (volts[device.cathode] as number),
      ).amps;
    case 'fet':
      return channel(device, volts).amps;
    case 'bipolar':
      return transport(device, volts).collector;
  }
}

/** The worst breach of Kirchhoff's current law, in units of what is allowed, and where. */
export function kirchhoff(
  devices: readonly Device[],
  volts: Float64Array,
  nodes: number,
  ground: number,
  scale: number,
): { worst: number; node: Node; amps: number } {
  const sum = new Float64Array(nodes);
  const size = new Float64Array(nodes);
  const flow = (node: Node, amps: number): void => {
    sum[node] = (sum[node] as number) + amps;
    size[node] = (size[node] as number) + Math.abs(amps);
  };
  for (const device of devices) {
    const amps = throughCurrent(device, volts, scale);
    switch (device.kind) {
      case 'resistor':
        flow(device.a, -amps);
        flow(device.b, amps);
        break;
      case 'source':
        flow(device.node, amps);
        flow(device.base, -amps);
        break;
      case 'load':
        flow(device.node, -amps);
        break;
      case 'diode':
        flow(device.anode, -amps);
        flow(device.cathode, amps);
        break;
      case 'fet':
        flow(device.drain, -amps);
        flow(device.source, amps);
        break;
      case 'bipolar': {
        const base = transport(device, volts).base;
        flow(device.base, -base);
        flow(device.collector, -amps);
        flow(device.emitter, base + amps);
        break;
      }
      case 'regulator':
        flow(device.out, amps);
        flow(device.in, -inputAmps(device, volts, amps));
        break;
    }
  }
  let worst = 0;
  let node = 0;
  for (let n = 1; n < nodes; n++) {
    flow(n, -ground * (volts[n] as number));
    const breach = Math.abs(sum[n] as number) / (2e-6 + 1e-4 * (size[n] as number));
    if (breach > worst) {
      worst = breach;
      node = n;
    }
  }
  return { worst, node, amps: Math.abs(sum[node] as number) };
}

function conductance(values: Float64Array, slots: Int32Array, siemens: number): void {
  add(values, slots[0] as number, siemens);
  add(values, slots[1] as number, -siemens);
  add(values, slots[2] as number, -siemens);
  add(values, slots[3] as number, siemens);
}

function add(values: Float64Array, slot: number, amount: number): void {
  values[slot] = (values[slot] as number) + amount;
}

function inject(rhs: Float64Array, node: Node, amps: number): void {
  if (node > 0) rhs[node - 1] = (rhs[node - 1] as number) + amps;
}
