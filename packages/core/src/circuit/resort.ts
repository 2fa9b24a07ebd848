import type { Circuit, Node } from './device.ts';
import type { Manner, OperatingPoint } from './point.ts';

/** What the ways below are built from. */
interface Means {
  circuit: Circuit;
  settings: { maxIterations: number; groundSiemens: number };
  newton(start: Float64Array, manner: Manner): OperatingPoint;
  /** Puts every source and regulator back into its regulated region. */
  resetKnees(): void;
  /** Whether Kirchhoff's current law is kept at every node. */
  isBalanced(volts: Float64Array, manner: Manner): boolean;
}

/**
 * What is tried where plain Newton stalled: a bus is held and let go; the ground conductance is stepped
 * down; time goes by with a capacitor at every node, in longer and longer steps, as the board itself
 * would get there; the sources are stepped up. Gets where it began, the manner in full and the iterations
 * spent before.
 */
export function makeResort({
  circuit: { nodes, devices },
  settings,
  newton,
  resetKnees,
  isBalanced,
}: Means): (start: Float64Array, full: Manner, spent: number) => OperatingPoint {
  /** Number of the way that settled the last stalled solve. */
  let helped = 0;
  return (start, full, spent) => {
    let iterations = spent;
    let onTheWay: Float64Array | undefined;
    const attempt = (from: Float64Array, manner: Manner): OperatingPoint => {
      const point = newton(from, manner);
      iterations += point.iterations;
      return { ...point, iterations };
    };
    const patient: Manner = { ...full, mostIterations: settings.maxIterations };

    /** Much ground conductance, then less and less of it. */
    const easeGround = (manner: Manner): OperatingPoint | null => {
      resetKnees();
      let from: Float64Array = new Float64Array(nodes);
      for (let ground = 1e-2; ground > settings.groundSiemens; ground /= 10) {
        const eased = attempt(from, { ...manner, ground });
        if (eased.status === 'stalled') return null;
        from = eased.volts;
      }
      return attempt(from, manner);
    };
    /** Time goes by with a capacitor at every node, in longer and longer steps. */
    const letTimePass = (manner: Manner): OperatingPoint => {
      resetKnees();
      let from = start;
      let siemens = 1;
      const mostIterations = Math.min(settings.maxIterations, 20);
      for (let step = 0; step < mostTimeSteps && siemens > 1e-9; step++) {
        const anchor = { siemens, volts: from };
        const point = attempt(from, { ...manner, mostIterations, anchor });
        if (point.status === 'settled') {
          from = point.volts;
          siemens /= 3;
        } else {
          resetKnees();
          siemens *= 9;
        }
      }
      return attempt(from, manner);
    };

    /**
     * One bus is held, and let go down or up, the way it pulls, until nothing is needed to hold it: what
     * a source does that is too weak for the power asked of it, and where Newton finds no way.
     */
    const letGo = (node: Node): OperatingPoint | null => {
      let from = start;
      /** Amps it takes to hold the node there; null where nothing settles. */
      const toHold = (at: number): number | null => {
        const lead = { node, siemens: holdSiemens, volts: at };
        const point = attempt(from, { ...full, lead });
        if (point.status === 'stalled') {
          resetKnees();
          return null;
        }
        from = point.volts;
        return holdSiemens * (at - point.volts[node]!);
      };
      /** Nothing is needed to hold it, as far as anything is exact. */
      const settledThere = (): OperatingPoint => {
        const free = attempt(from, full);
        return free.status === 'settled' ? free : { status: 'settled', volts: from, iterations };
      };
      resetKnees();
      let here = start[node]!;
      let pull = toHold(here);
      if (pull === null) return null;
      if (isBalanced(from, full)) return settledThere();
      const most = Math.max(1, here) / holdSteps;
      // Small steps first: where it began is seldom far from where it ends.
      let step = ((pull > 0 ? -1 : 1) * most) / firstPart;
      for (let count = 0; count < mostHolds && Math.abs(step) > most / 2000; count++) {
        const next = here + step;
        const settled = from;
        const there = toHold(next);
        if (there === null) {
          // In smaller steps from the last one that settled.
          from = settled;
          step /= 4;
          continue;
        }
        if (isBalanced(from, full)) return settledThere();
        if (pull > 0 === there > 0) {
          here = next;
          pull = there;
          step = Math.sign(step) * Math.min(most, Math.abs(step) * 2);
          continue;
        }
        // Regula falsi, with the end that stays counted half (the Illinois way).
        let [a, b, atA, atB] = [here, next, pull, there];
        for (let round = 0; round < holdRounds; round++) {
          const between = b - (atB * (b - a)) / (atB - atA);
          const amps = toHold(between);
          if (amps === null) break;
          if (isBalanced(from, full)) return settledThere();
          if (amps > 0 === atB > 0) atA /= 2;
          else [a, atA] = [b, atB];
          [b, atB] = [between, amps];
        }
        from = settled;
        break;
      }
      onTheWay ??= from;
      return null;
    };
    /** The inputs of regulators, one of each bus, highest first. */
    const letBusesGo = (): OperatingPoint | null => {
      const inputs = devices.flatMap((one) => (one.kind === 'regulator' && one.on ? [one.in] : []));
      const buses: Node[] = [];
      for (const one of inputs.sort((a, b) => start[b]! - start[a]!))
        if (!buses.some((bus) => Math.abs(start[bus]! - start[one]!) < sameBusVolts))
          buses.push(one);
      for (const bus of buses.slice(0, mostBuses)) {
        const point = letGo(bus);
        if (point) return point;
      }
      return null;
    };

    const ways = [
      () => letBusesGo(),
      () => easeGround(full),
      () => letTimePass(patient),
      () => letTimePass({ ...patient, exact: false }),
      () => easeGround({ ...patient, exact: false }),
    ];
    // What helped this circuit the last time comes first.
    const order = [helped, ...ways.keys()].filter((one, at, all) => all.indexOf(one) === at);
    for (const one of order) {
      const found = ways[one]?.();
      if (found?.status === 'settled') {
        helped = one;
        return found;
      }
    }
    // Sources from a tenth of their volts upward.
    resetKnees();
    let point: OperatingPoint = attempt(start, { ...patient, exact: false });
    if (point.status === 'settled') return point;
    let from: Float64Array = new Float64Array(nodes);
    for (let tenth = 1; tenth <= 10; tenth++) {
      point = attempt(from, { ...patient, exact: false, scale: tenth / 10 });
      if (point.status === 'settled') from = point.volts;
    }
    return point.status === 'stalled' && onTheWay ? { ...point, onTheWay } : point;
  };
}

const mostTimeSteps = 150;
/** A bus is held by a milliohm, let go in so many steps, and then found in so many rounds. */
const holdSiemens = 1000;
const holdSteps = 24;
const firstPart = 256;
const mostHolds = 120;
const holdRounds = 30;
const mostBuses = 3;
/** Inputs nearer than this hang on one bus. */
const sameBusVolts = 0.05;
