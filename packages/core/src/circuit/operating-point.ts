import type { Circuit, Device, Node } from './device.ts';
import { groupDevices, nodesOf, type Stamping } from './groups/index.ts';
import type { Manner, OperatingPoint } from './point.ts';
import { makeResort } from './resort.ts';
import { orderPattern, makeSparseLu, type OrderedPattern } from './sparse-lu.ts';

export interface Solver {
  /** Solves for the devices' present values, starting from `warm` where given. */
  solve(warm?: Float64Array): OperatingPoint;
  /**
   * Amps through each device at settled volts, in the order of the devices: a to b, out of a source
   * or regulator, into a load, anode to cathode, into drain or collector.
   */
  currents(volts: Float64Array): Float64Array;
  /**
   * Nodes a meter of `meterSiemens` to ground lowers by more than `leastPart` of what they have, with
   * the volts it shows there, at settled volts. By the resistance each node has to all others
   * (Thévenin's theorem); where that is much, curved devices count, and the circuit is solved with the
   * meter on it.
   */
  underMeter(settled: Float64Array, meterSiemens: number, leastPart: number): Map<Node, number>;
}

export interface SolverSettings {
  maxIterations: number;
  /** Conductance from every node to ground, so that a floating node has an answer. */
  groundSiemens: number;
  /** Elimination orders worked out before, to be used again for circuits of the same shape. */
  orders: OrderCache;
}

/** Ordering a pattern takes longer than several solves, and a fault seldom changes the pattern. */
export type OrderCache = Map<number, { places: readonly number[]; pattern: OrderedPattern }>;

const usual = { maxIterations: 150, groundSiemens: 1e-10 };

export function checkSolverSettings(options: Partial<SolverSettings> = {}): SolverSettings {
  const settings = { ...usual, orders: new Map() as OrderCache, ...options };
  if (!(settings.maxIterations >= 1)) throw new Error('maxIterations must be at least 1');
  if (!(settings.groundSiemens > 0)) throw new Error('groundSiemens must be above 0');
  return settings;
}

/**
 * DC operating point by nodal analysis: every source is a Norton equivalent, so the matrix holds
 * node volts only. Newton iteration with these cures: a source or regulator moves from one side of
 * its voltage/current-limit knee to the other only by way of the regulated region between; a node
 * that keeps changing direction has its step halved; convergence is judged on the undamped step and
 * then on Kirchhoff's current law at every node. Where that stalls, other ways are
 * tried (`resort.ts`), the last ones with switching regulators' input power taken from the iteration
 * before instead of standing in the matrix. Never a number that looks like an answer when it is not one.
 */
export function makeSolver(circuit: Circuit, options?: Partial<SolverSettings>): Solver {
  const settings = checkSolverSettings(options);
  const { nodes, devices } = circuit;
  const size = nodes - 1;
  const lu = makeSparseLu(orderOf(size, devices, settings.orders));
  const groups = groupDevices(devices, (row, column) => lu.slot(row - 1, column - 1));
  const { resistors, curved, knees, loads } = groups;
  const diagonal = Int32Array.from({ length: size }, (_, row) => lu.slot(row, row));
  const rhs = new Float64Array(nodes);
  const unknowns = rhs.subarray(1);
  // Resistors do not change during a solve: they are stamped once, and copied in each iteration with
  // what stands on the diagonals.
  const linear = new Float64Array(lu.values.length);
  const constant = new Float64Array(lu.values.length);
  const lastMove = new Float64Array(nodes);
  const damping = new Float64Array(nodes);
  const flow = { sum: new Float64Array(nodes), size: new Float64Array(nodes) };
  let isFresh = true;

  const resetKnees = (): void => knees.forEach((group) => group.reset());

  /** The worst breach of Kirchhoff's current law, in units of what is allowed, and where. */
  const kirchhoff = (
    volts: Float64Array,
    { ground, scale, lead }: Manner,
  ): { worst: number; node: Node; amps: number } => {
    flow.sum.fill(0);
    flow.size.fill(0);
    for (const group of groups.all) group.tally(volts, scale, flow);
    let worst = 0;
    let node = 0;
    for (let n = 1; n < nodes; n++) {
      let leak = ground * volts[n]!;
      if (n === lead?.node) leak += lead.siemens * (volts[n]! - lead.volts);
      const breach =
        Math.abs(flow.sum[n]! - leak) / (2e-6 + 1e-4 * (flow.size[n]! + Math.abs(leak)));
      // A sum that is no number is no answer either.
      if (breach > worst || Number.isNaN(breach)) {
        worst = Number.isNaN(breach) ? Infinity : breach;
        node = n;
      }
    }
    return { worst, node, amps: Math.abs(flow.sum[node]!) };
  };

  const stalled = (
    volts: Float64Array,
    manner: Manner,
    iterations: number,
    worstNode: Node,
  ): OperatingPoint => {
    const residual = kirchhoff(volts, manner);
    const node = residual.node || worstNode;
    return {
      status: 'stalled',
      iterations,
      worstDevice: nameAt(devices, node),
      worstNode: node,
      residualAmps: residual.amps,
    };
  };

  /**
   * Takes a step, halved at nodes that go to and fro; the furthest move asked for, in units of what
   * counts as none, and where.
   */
  const advance = (
    volts: Float64Array,
    next: Float64Array,
    iteration: number,
    tolerance: number,
  ): { move: number; node: Node } => {
    let worst = 0;
    let worstNode = 0;
    const isDamped = iteration > undampedIterations;
    const last = lastMove;
    const damp = damping;
    for (let node = 1; node < nodes; node++) {
      const here = volts[node]!;
      const there = next[node]!;
      let move = there - here;
      const relative = Math.abs(move) / (tolerance + tolerance * Math.abs(there));
      if (!(relative <= worst)) {
        worst = relative;
        worstNode = node;
      }
      if (isDamped) {
        damp[node] =
          move * last[node]! < 0
            ? Math.max(0.02, damp[node]! * 0.5)
            : Math.min(1, damp[node]! * 1.3);
      }
      last[node] = move;
      move *= damp[node]!;
      volts[node] = here + Math.max(-mostStepVolts, Math.min(mostStepVolts, move));
    }
    return { move: worst, node: worstNode };
  };

  /** What stays the same in all iterations of one run. */
  const stampConstant = ({ ground, anchor, lead }: Manner): void => {
    const drawn = ground + (anchor?.siemens ?? 0);
    constant.set(linear);
    for (let row = 0; row < size; row++) constant[diagonal[row]!]! += drawn;
    if (lead) constant[diagonal[lead.node - 1]!]! += lead.siemens;
  };
  const stampingOf = (manner: Manner): Stamping => ({
    values: lu.values,
    rhs,
    ...manner,
    trust: 1,
    isFirst: true,
    early: true,
  });

  const newton = (start: Float64Array, manner: Manner): OperatingPoint => {
    const volts = start.slice();
    lastMove.fill(0);
    damping.fill(1);
    const at = stampingOf(manner);
    let worstNode = 0;
    const { anchor, lead } = manner;
    stampConstant(manner);
    // A step on the way need not be exact.
    const tolerance = anchor ? 1e-4 : 1e-7;
    for (let iteration = 1; iteration <= manner.mostIterations; iteration++) {
      at.isFirst = iteration === 1;
      at.early = iteration <= earlyIterations;
      at.trust = iteration <= 15 ? 1 : iteration <= 60 ? 0.5 : 0.2;
      lu.values.set(constant);
      rhs.fill(0);
      if (anchor)
        for (let node = 1; node < nodes; node++) rhs[node]! += anchor.siemens * anchor.volts[node]!;
      if (lead) rhs[lead.node]! += lead.siemens * lead.volts;
      for (const group of curved) group.stamp(volts, at);
      if (!lu.factor()) return stalled(volts, manner, iteration, worstNode);
      lu.solve(unknowns);
      const next = rhs;
      next[0] = 0;
      let crossed = false;
      for (const group of knees) {
        if (group.settle(next, manner.scale, iteration > 40)) crossed = true;
        if (crossed && iteration > 40) break;
      }
      const landed = loads.land(volts, next);
      const worst = advance(volts, next, iteration, tolerance);
      if (worst.node > 0) worstNode = worst.node;
      if (Number.isNaN(worst.move)) return stalled(volts, manner, iteration, worstNode);
      if (worst.move < 1 && !crossed && !landed) {
        if (anchor) return { status: 'settled', volts, iterations: iteration };
        const residual = kirchhoff(volts, manner);
        if (residual.worst < 1) return { status: 'settled', volts, iterations: iteration };
        worstNode = residual.node;
      }
    }
    return stalled(volts, manner, manner.mostIterations, worstNode);
  };

  const resort = makeResort({
    circuit,
    settings,
    newton,
    resetKnees,
    isBalanced: (volts, manner) => kirchhoff(volts, manner).worst < 1,
  });
  const usualManner = (): Manner => ({
    exact: true,
    ground: settings.groundSiemens,
    scale: 1,
    mostIterations: Math.min(settings.maxIterations, plainIterations),
  });
  /** Takes over what the devices are now. */
  const refresh = (): void => {
    for (const group of groups.all) group.refresh();
    linear.fill(0);
    resistors.stamp(rhs, { ...stampingOf(usualManner()), values: linear });
  };

  return {
    solve(warm) {
      // What was solved before a fault cut a net in two has a node less: that one begins at nothing.
      const start = new Float64Array(nodes);
      if (warm) start.set(warm.length > nodes ? warm.subarray(0, nodes) : warm);
      refresh();
      // A warm start keeps the regions too: most sources and regulators stay where they were.
      if (!warm || isFresh) resetKnees();
      isFresh = false;
      const full = usualManner();
      const point = newton(start, full);
      return point.status === 'stalled' ? resort(start, full, point.iterations) : point;
    },
    underMeter(settled, meterSiemens, leastPart) {
      const lowered = new Map<Node, number>();
      refresh();
      knees.forEach((group) => group.place(settled));
      const manner = usualManner();
      stampConstant(manner);
      lu.values.set(constant);
      const at = { ...stampingOf(manner), early: false };
      for (const group of curved) group.stamp(settled, at);
      if (!lu.factor()) return lowered;
      // The sum of all transfer resistances of a node is at least its own: one solve tells which to look at.
      const sums = new Float64Array(size).fill(1);
      lu.solve(sums);
      const starts = new Map<Node, Float64Array>();
      const column = new Float64Array(size);
      for (let row = 0; row < size; row++) {
        if (!(Math.abs(sums[row]!) * meterSiemens > leastPart)) continue;
        column.fill(0);
        column[row] = 1;
        lu.solve(column);
        const part = column[row]! * meterSiemens;
        if (part <= leastPart) continue;
        const shown = settled[row + 1]! / (1 + part);
        lowered.set(row + 1, shown);
        if (Math.abs(settled[row + 1]! - shown) < leastCurvedVolts) continue;
        // What the meter takes moves the other nodes along.
        const start = settled.slice();
        for (let one = 0; one < size; one++) start[one + 1]! -= shown * meterSiemens * column[one]!;
        starts.set(row + 1, start);
      }
      for (const [node, start] of starts) {
        const point = newton(start, { ...manner, lead: { node, siemens: meterSiemens, volts: 0 } });
        if (point.status === 'settled') lowered.set(node, point.volts[node]!);
      }
      return lowered;
    },
    currents(volts) {
      const amps = new Float64Array(devices.length);
      for (const group of groups.all) {
        group.refresh();
        group.currents(volts, 1, amps);
      }
      return amps;
    },
  };
}

/** No node is moved further than this in one iteration. */
const mostStepVolts = 50;
/** For this many iterations a FET that has just been turned on counts as an ohmic path. */
const earlyIterations = 10;
/** For this many iterations every step is believed in full. */
const undampedIterations = 12;
/** Plain Newton settles sooner than this or seldom at all. */
const plainIterations = 40;
/** Lowered by less, a point is where its tangent says. */
const leastCurvedVolts = 0.1;

function orderOf(size: number, devices: readonly Device[], orders: OrderCache): OrderedPattern {
  const joined = new Uint8Array(size * size);
  const places: number[] = [];
  // In whatever order the devices stand: the same pairs, the same sum.
  let hash = size;
  for (const device of devices) {
    const nodes = nodesOf(device);
    for (const a of nodes)
      for (const b of nodes) {
        const place = (a - 1) * size + b - 1;
        if (a === 0 || b <= a || joined[place]) continue;
        joined[place] = 1;
        places.push(place);
        hash = (hash + Math.imul(place + 1, 0x9e3779b1)) | 0;
      }
  }
  const known = orders.get(hash);
  const isKnown =
    known?.pattern.size === size &&
    known.places.length === places.length &&
    known.places.every((place) => joined[place] === 1);
  if (isKnown) return known.pattern;
  const pairs = places.map((place) => [Math.floor(place / size), place % size] as const);
  const pattern = orderPattern(size, pairs);
  orders.set(hash, { places, pattern });
  return pattern;
}

function nameAt(devices: readonly Device[], node: Node): string {
  return (
    devices.find((device) => device.kind !== 'resistor' && nodesOf(device).includes(node))?.name ??
    ''
  );
}
