import { junctionCurrent } from './junction.ts';
import { makeSparseLu } from './sparse-lu.ts';
import type { Circuit, Device, Node } from './device.ts';

export type OperatingPoint =
  | {
      status: 'settled';
      /** Volts per node, ground included as 0. */
      volts: Float64Array;
      iterations: number;
    }
  | {
      status: 'stalled';
      iterations: number;
      worstDevice: string;
      worstNode: Node;
      residualAmps: number;
    };

export interface Solver {
  /** Solves for the devices' present values, starting from `warm` where given. */
  solve(warm?: Float64Array): OperatingPoint;
  /** Amps through each device at the last settled point, in the order of the devices. */
  currents(volts: Float64Array): Float64Array;
}

export interface SolverSettings {
  maxIterations: number;
  /** Conductance from every node to ground, so that a floating node has an answer. */
  groundSiemens: number;
}

const usual: SolverSettings = { maxIterations: 150, groundSiemens: 1e-10 };

export function checkSolverSettings(options: Partial<SolverSettings> = {}): SolverSettings {
  const settings = { ...usual, ...options };
  if (!(settings.maxIterations >= 1)) throw new Error('maxIterations must be at least 1');
  if (!(settings.groundSiemens > 0)) throw new Error('groundSiemens must be above 0');
  return settings;
}

/**
 * DC operating point by nodal analysis: every source is a Norton equivalent, so the matrix holds
 * node volts only. Newton iteration with these cures: a source or regulator moves from one side of
 * its voltage/current-limit knee to the other only by way of the regulated region between; a node
 * that keeps changing direction has its step halved; convergence is judged on the undamped step and
 * then on Kirchhoff's current law at every node. Where plain Newton stalls, the ground conductance
 * is stepped down, then the sources are stepped up. Never a number that looks like an answer when it
 * is not one.
 */
export function makeSolver(circuit: Circuit, options?: Partial<SolverSettings>): Solver {
  const settings = checkSolverSettings(options);
  const size = circuit.nodes - 1;
  const devices = circuit.devices;
  const lu = makeSparseLu(size, pattern(devices));
  const slots = devices.map((device) => deviceSlots(device, lu.slot));
  const diagonal = Int32Array.from({ length: size }, (_, row) => lu.slot(row, row));
  const rhs = new Float64Array(size);
  const regions = new Int8Array(devices.length);

  const step = (
    volts: Float64Array,
    next: Float64Array,
    ground: number,
    scale: number,
  ): boolean => {
    lu.values.fill(0);
    rhs.fill(0);
    for (let row = 0; row < size; row++) lu.values[diagonal[row] as number] = ground;
    for (let d = 0; d < devices.length; d++) {
      stamp(devices[d] as Device, slots[d] as Int32Array, volts, lu.values, rhs, regions, d, scale);
    }
    if (!lu.factor()) return false;
    lu.solve(rhs);
    next[0] = 0;
    for (let row = 0; row < size; row++) {
      const value = rhs[row] as number;
      if (!Number.isFinite(value)) return false;
      next[row + 1] = value;
    }
    return true;
  };

  const newton = (start: Float64Array, ground: number, scale: number): OperatingPoint => {
    const volts = Float64Array.from(start);
    const next = new Float64Array(circuit.nodes);
    const lastMove = new Float64Array(circuit.nodes);
    const damping = new Float64Array(circuit.nodes).fill(1);
    let worstNode = 0;
    for (let iteration = 1; iteration <= settings.maxIterations; iteration++) {
      if (!step(volts, next, ground, scale)) {
        return {
          status: 'stalled',
          iterations: iteration,
          worstDevice: '',
          worstNode,
          residualAmps: Infinity,
        };
      }
      const crossed = settleRegions(devices, next, regions, scale, iteration > 40);
      let worst = 0;
      for (let node = 1; node < circuit.nodes; node++) {
        const here = volts[node] as number;
        let move = (next[node] as number) - here;
        const relative = Math.abs(move) / (1e-7 + 1e-7 * Math.abs(next[node] as number));
        if (relative > worst) {
          worst = relative;
          worstNode = node;
        }
        if (iteration > 12 && move * (lastMove[node] as number) < 0) {
          damping[node] = Math.max(0.02, (damping[node] as number) * 0.5);
        } else {
          damping[node] = Math.min(1, (damping[node] as number) * 1.3);
        }
        lastMove[node] = move;
        move *= damping[node] as number;
        volts[node] = here + Math.max(-50, Math.min(50, move));
      }
      if (worst < 1 && !crossed) {
        const residual = kirchhoff(devices, volts, circuit.nodes, ground, scale);
        if (residual.worst < 1) return { status: 'settled', volts, iterations: iteration };
        worstNode = residual.node;
      }
    }
    const residual = kirchhoff(devices, volts, circuit.nodes, ground, scale);
    return {
      status: 'stalled',
      iterations: settings.maxIterations,
      worstDevice: nameAt(devices, residual.node),
      worstNode: residual.node,
      residualAmps: residual.amps,
    };
  };

  return {
    solve(warm) {
      const start = warm ?? new Float64Array(circuit.nodes);
      initialRegions(devices, regions);
      const plain = newton(start, settings.groundSiemens, 1);
      if (plain.status === 'settled') return plain;

      let iterations = plain.iterations;
      // First resort: much ground conductance, then less and less of it.
      initialRegions(devices, regions);
      let at: Float64Array | null = new Float64Array(circuit.nodes);
      for (let ground = 1e-2; at && ground > settings.groundSiemens; ground /= 10) {
        const eased: OperatingPoint = newton(at, ground, 1);
        iterations += eased.iterations;
        at = eased.status === 'settled' ? eased.volts : null;
      }
      if (at) {
        const last = newton(at, settings.groundSiemens, 1);
        iterations += last.iterations;
        if (last.status === 'settled') return { ...last, iterations };
      }
      // Second: sources from a fifth of their volts upward.
      initialRegions(devices, regions);
      let point: OperatingPoint = plain;
      let from: Float64Array = new Float64Array(circuit.nodes);
      for (let scale = 0.1; scale < 1.0001; scale += 0.1) {
        point = newton(from, settings.groundSiemens, Math.min(1, scale));
        iterations += point.iterations;
        if (point.status === 'settled') from = point.volts;
      }
      return { ...point, iterations };
    },
    currents(volts) {
      const amps = new Float64Array(devices.length);
      devices.forEach((device, index) => {
        amps[index] = throughCurrent(device, volts, 1);
      });
      return amps;
    },
  };
}

const zero = 0;
const holding = 1;
const limiting = 2;

function pattern(devices: readonly Device[]): [number, number][] {
  const pairs: [number, number][] = [];
  for (const device of devices) {
    const nodes = nodesOf(device);
    for (const a of nodes) for (const b of nodes) pairs.push([a - 1, b - 1]);
  }
  return pairs;
}

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
    case 'regulator':
      return [device.in, device.out, device.sense];
  }
}

/** Slots of every pair of the device's nodes, row by row, in the order of nodesOf. */
function deviceSlots(device: Device, slot: (row: number, column: number) => number): Int32Array {
  const nodes = nodesOf(device);
  return Int32Array.from(nodes.flatMap((a) => nodes.map((b) => slot(a - 1, b - 1))));
}

function initialRegions(devices: readonly Device[], regions: Int8Array): void {
  devices.forEach((_, index) => (regions[index] = holding));
}

/** The volts a source or regulator is short of its target; its current follows from it. */
function shortfall(device: Device, volts: Float64Array, scale: number): number {
  if (device.kind === 'source') {
    return device.volts * scale + (volts[device.base] as number) - (volts[device.node] as number);
  }
  if (device.kind === 'regulator')
    return target(device, volts, scale) - (volts[device.sense] as number);
  return 0;
}

function target(
  device: Device & { kind: 'regulator' },
  volts: Float64Array,
  scale: number,
): number {
  const input = volts[device.in] as number;
  const ceiling =
    device.pass === 'boost'
      ? Infinity
      : device.pass === 'linear'
        ? input - device.dropoutVolts
        : input * 0.97;
  return Math.max(0, Math.min(device.volts * scale, ceiling));
}

/**
 * Moves each source and regulator at most one region on, so that the knee is landed on, never
 * jumped. With `oneOnly` a single device moves per iteration, which ends every merry-go-round.
 */
function settleRegions(
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

function stamp(
  device: Device,
  slots: Int32Array,
  volts: Float64Array,
  values: Float64Array,
  rhs: Float64Array,
  regions: Int8Array,
  index: number,
  scale: number,
): void {
  switch (device.kind) {
    case 'resistor':
      conductance(values, slots, device.siemens);
      return;
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
      const wanted = target(device, volts, scale);
      const followsInput = wanted < device.volts * scale && wanted > 0;
      const siemens = region === holding ? 1 / device.ohms : 0;
      const amps =
        region === holding
          ? (wanted - (volts[device.sense] as number)) * siemens
          : region === limiting
            ? device.limitAmps
            : 0;
      if (region === holding) {
        // Rows in (0), out (1); columns in (0), out (1), sense (2).
        add(values, slots[5] as number, siemens);
        if (followsInput) {
          const slope = device.pass === 'linear' ? 1 : 0.97;
          add(values, slots[3] as number, -siemens * slope);
          const offset = device.pass === 'linear' ? -device.dropoutVolts : 0;
          inject(rhs, device.out, siemens * offset);
          if (device.pass === 'linear') {
            add(values, slots[0] as number, siemens);
            add(values, slots[2] as number, -siemens);
            inject(rhs, device.in, -siemens * offset);
          }
        } else {
          inject(rhs, device.out, siemens * wanted);
          if (device.pass === 'linear') {
            add(values, slots[2] as number, -siemens);
            inject(rhs, device.in, -siemens * wanted);
          }
        }
        if (device.pass === 'linear') return;
      } else {
        inject(rhs, device.out, amps);
        if (device.pass === 'linear') {
          inject(rhs, device.in, -amps);
          return;
        }
      }
      // A switching regulator's input power stands in the right-hand side alone: its slope is a
      // negative conductance, which would upset the factorisation.
      inject(rhs, device.in, -inputAmps(device, volts, Math.max(0, amps)));
      return;
    }
  }
}

/** Amps taken at the input for `amps` at the output: the same power, less what is lost. */
function inputAmps(
  device: Device & { kind: 'regulator' },
  volts: Float64Array,
  amps: number,
): number {
  if (device.pass === 'linear') return amps;
  const input = Math.max(volts[device.in] as number, 0.5);
  const output = Math.max(0, volts[device.out] as number);
  return Math.min(device.limitAmps * 20, (amps * output) / (device.efficiency * input));
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

/** Amps through the device: a to b, out of a source, into a load, anode to cathode, drain to source. */
function throughCurrent(device: Device, volts: Float64Array, scale: number): number {
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
  }
}

/** The worst breach of Kirchhoff's current law, in units of what is allowed, and where. */
function kirchhoff(
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

function nameAt(devices: readonly Device[], node: Node): string {
  return (
    devices.find((device) => device.kind !== 'resistor' && nodesOf(device).includes(node))?.name ??
    ''
  );
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
