import type { Circuit, Device, Node } from './device.ts';
import { makeSparseLu } from './sparse-lu.ts';
import {
  initialRegions,
  kirchhoff,
  landLoads,
  nodesOf,
  settleRegions,
  stamp,
  stampLinear,
  throughCurrent,
  type Stamping,
} from './stamp.ts';

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
  // Resistors do not change during a solve: they are stamped once and copied in each iteration.
  const linear = new Float64Array(lu.values.length);
  const loads = devices.filter((device) => device.kind === 'load');
  const curved = devices.flatMap((device, index) => (device.kind === 'resistor' ? [] : [index]));
  const regions = new Int8Array(devices.length);
  const inputs = new Float64Array(devices.length);
  let isFresh = true;

  const step = (
    volts: Float64Array,
    next: Float64Array,
    ground: number,
    scale: number,
    trust: number,
  ): boolean => {
    lu.values.set(linear);
    rhs.fill(0);
    for (let row = 0; row < size; row++) {
      const slot = diagonal[row] as number;
      lu.values[slot] = (lu.values[slot] as number) + ground;
    }
    const at: Stamping = { values: lu.values, rhs, regions, inputs, trust, scale };
    for (const d of curved) stamp(devices[d] as Device, d, slots[d] as Int32Array, volts, at);
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
      const trust = iteration <= 15 ? 1 : iteration <= 60 ? 0.5 : 0.2;
      if (!step(volts, next, ground, scale, trust)) {
        return {
          status: 'stalled',
          iterations: iteration,
          worstDevice: '',
          worstNode,
          residualAmps: Infinity,
        };
      }
      const crossed = settleRegions(devices, next, regions, scale, iteration > 40);
      const landed = landLoads(loads, volts, next);
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
        const most = 50;
        volts[node] = here + Math.max(-most, Math.min(most, move));
      }
      if (worst < 1 && !crossed && !landed) {
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
      linear.fill(0);
      devices.forEach((device, d) => {
        if (device.kind === 'resistor') stampLinear(device, slots[d] as Int32Array, linear);
      });
      // A warm start keeps the regions too: most sources and regulators stay where they were.
      if (!warm || isFresh) initialRegions(devices, regions);
      isFresh = false;
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

function pattern(devices: readonly Device[]): [number, number][] {
  const pairs: [number, number][] = [];
  for (const device of devices) {
    const nodes = nodesOf(device);
    for (const a of nodes) for (const b of nodes) pairs.push([a - 1, b - 1]);
  }
  return pairs;
}

/** Slots of every pair of the device's nodes, row by row, in the order of nodesOf. */
function deviceSlots(device: Device, slot: (row: number, column: number) => number): Int32Array {
  const nodes = nodesOf(device);
  return Int32Array.from(nodes.flatMap((a) => nodes.map((b) => slot(a - 1, b - 1))));
}

function nameAt(devices: readonly Device[], node: Node): string {
  return (
    devices.find((device) => device.kind !== 'resistor' && nodesOf(device).includes(node))?.name ??
    ''
  );
}
