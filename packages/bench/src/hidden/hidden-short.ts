import { draw, seeded, type Chance } from '@jiko/core/base';
import {
  asOnBench,
  isSeriesPart,
  type Board,
  type NetId,
  netById,
  findPartOrChip,
  joinedTo,
} from '@jiko/core/board';
import { groundedNet, faultName, listFaults, withFaults, type Fault } from '@jiko/core/faults';
import { priorWeight } from '@jiko/core/diagnosis';
import { makeColdMeter } from '@jiko/core/cold';
import { usualMeter } from '@jiko/core/readings';

// A board with a hidden short and a bench around it: heat that spreads, copper of a width of its own, a
// camera with a floor. Physics of its own, by other formulas than the hunt reasons with.

export interface HiddenShort {
  board: Board;
  net: NetId;
  /** The part, or the net where nothing drawn is it. */
  name: string;
  title: string;
  /** Ohms from a net to ground as the meter shows them. */
  ohms(net: NetId, lifted: readonly string[]): number;
  feed(net: NetId, at: string | null, volts: number, limitAmps: number): FedBench;
}

export interface FedBench {
  amps: number;
  volts: number;
  /** The warmest part a camera shows; null where nothing stands out. */
  camera(): { part: string; rise: number } | null;
  drop(part: string): number;
}

const nothing = { findings: [], tried: [], habits: [] };
/** Rails with so many parts that could be it are worth a hunt. */
const leastCandidates = 4;
const cameraFloor = 0.5;

/** A short on one of the board's rails, drawn by seed. */
export function hideShort(board: Board, seed: number): HiddenShort {
  const chance = seeded(seed);
  const lows = listFaults(board).flatMap((fault) => {
    const net = groundedNet(board, fault);
    return net && netById(board, net)?.kind === 'rail'
      ? [{ fault, net, name: 'part' in fault ? fault.part : (net as string) }]
      : [];
  });
  const rails = [...new Set(lows.map((one) => one.net))].filter((net) => {
    const rail = joinedTo(board, [net]);
    const names = new Set(lows.filter((one) => rail.has(one.net)).map((one) => one.name));
    return names.size >= leastCandidates && !rail.has(board.ground);
  });
  const net = draw(rails, chance);
  const rail = joinedTo(board, [net]);
  const on = lows.filter((one) => rail.has(one.net));
  const names = [...new Set(on.map((one) => one.name))];
  const name = chance() < 0.3 ? draw(names, chance) : byWeight(board, on, chance);
  const model = on.find((one) => one.name === name)!;
  const ohms = 0.02 * (8 / 0.02) ** chance();
  const fault = { ...model.fault, ohms } as Fault;
  return benchOf(board, model.net, name, fault, ohms, chance);
}

function byWeight(
  board: Board,
  on: readonly { fault: Fault; name: string }[],
  chance: Chance,
): string {
  const weights = on.map((one) => priorWeight(board, one.fault, nothing));
  let at = chance() * weights.reduce((sum, one) => sum + one, 0);
  return (on.find((_, index) => (at -= weights[index]!) < 0) ?? on[0]!).name;
}

function benchOf(
  board: Board,
  net: NetId,
  name: string,
  fault: Fault,
  shortOhms: number,
  chance: Chance,
): HiddenShort {
  const leads = 0.05 + 0.15 * chance();
  const spread = (middle: number, sigma: number): number =>
    middle * Math.exp(sigma * normal(chance));
  const copper = treeOf(board, net, () => spread(0.00017, 0.5), chance);
  const perWatt = spread(30, 0.4);
  const isPart = 'part' in fault;
  // Coils and links have ohms of their own, and warm up with what flows.
  const own = new Map<string, number>(
    board.parts.filter(isSeriesPart).map((one) => [one.ref, spread(0.008, 0.6)]),
  );
  return {
    board,
    net,
    name,
    title: faultName(fault),
    ohms(at, lifted) {
      const isOff = isPart && lifted.includes(name);
      const faulty = isOff ? board : withFaults(board, [fault]);
      const read = makeColdMeter(asOnBench(faulty, { lifted }), usualMeter, board).ohms(at);
      return read.kind === 'value' ? read.value * (1 + 0.01 * normal(chance)) + leads : Infinity;
    },
    feed(_, at, volts, limitAmps) {
      const from = at ?? copper.refs[0]!;
      const way = copper.way(from, isPart ? name : (copper.on(net)[0] ?? from));
      const inWay = way.ohms + way.series.reduce((sum, ref) => sum + (own.get(ref) ?? 0), 0);
      const amps = Math.min(limitAmps, volts / (shortOhms + inWay));
      const watts = amps * amps * shortOhms;
      const heats = new Map<string, number>();
      if (isPart) heats.set(name, watts * perWatt);
      for (const ref of way.series)
        heats.set(ref, (heats.get(ref) ?? 0) + amps * amps * (own.get(ref) ?? 0) * 20);
      return {
        amps,
        volts: amps * (shortOhms + inWay),
        camera() {
          const seen = [...board.parts, ...board.chips].flatMap((one) => {
            if (!one.fitted || one.x === null || one.y === null) return [];
            const rise = [...heats].reduce((sum, [ref, kelvin]) => {
              const hot = placeOf(board, ref);
              if (!hot) return sum;
              const away = Math.hypot(hot.x - one.x!, hot.y - one.y!);
              return sum + (ref === one.ref ? kelvin : 0.55 * kelvin * Math.exp(-away / 7));
            }, 0);
            // How shiny it is: a bright part looks colder than it is.
            return [{ part: one.ref as string, rise: rise * (0.75 + 0.25 * chance()) }];
          });
          const [top] = seen.sort((a, b) => b.rise - a.rise);
          const noise = 0.2 * normal(chance);
          return top && top.rise + noise > 2 * cameraFloor ? top : null;
        },
        drop(part) {
          const shared = copper.shared(from, isPart ? name : from, part, own);
          const read = amps * (shortOhms + shared) + 0.00005 * normal(chance);
          return Math.round(read * 1e4) / 1e4;
        },
      };
    },
  };
}

const normal = (chance: Chance): number =>
  Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(2 * Math.PI * chance());

function placeOf(board: Board, ref: string): { x: number; y: number } | null {
  const one = findPartOrChip(board, ref);
  return one && one.x !== null && one.y !== null ? { x: one.x, y: one.y } : null;
}

/**
 * The rail's copper as the shortest tree over its pads, each piece with ohms of its own: currents run
 * along the tree, not as the crow flies.
 */
function treeOf(board: Board, net: NetId, perMillimetre: () => number, chance: Chance) {
  const rail = joinedTo(board, [net]);
  interface Node {
    ref: string;
    net: NetId;
    x: number;
    y: number;
  }
  const nodes: Node[] = [
    ...board.parts.map((one) => ({ one, nets: one.pins.map((pin) => pin.net) })),
    ...board.chips.map((one) => ({ one, nets: [...one.pins.values()] })),
  ].flatMap(({ one, nets }) =>
    one.fitted && one.x !== null && one.y !== null
      ? [...new Set(nets.filter((id) => rail.has(id)))].map((id) => ({
          ref: one.ref,
          net: id,
          x: one.x!,
          y: one.y!,
        }))
      : [],
  );
  interface Edge {
    to: number;
    ohms: number;
    /** The series part it runs through. */
    through: string | null;
  }
  const edges: Edge[][] = nodes.map(() => []);
  const join = (a: number, b: number, ohms: number, through: string | null): void => {
    edges[a]!.push({ to: b, ohms, through });
    edges[b]!.push({ to: a, ohms, through });
  };
  for (const id of rail) {
    const mine = nodes.flatMap((node, index) => (node.net === id ? [index] : []));
    const inTree = new Set(mine.slice(0, 1));
    while (inTree.size < mine.length) {
      let best = { a: -1, b: -1, far: Infinity };
      for (const a of inTree)
        for (const b of mine) {
          if (inTree.has(b)) continue;
          const far = Math.hypot(nodes[a]!.x - nodes[b]!.x, nodes[a]!.y - nodes[b]!.y);
          if (far < best.far) best = { a, b, far };
        }
      join(
        best.a,
        best.b,
        Math.max(0.5, best.far) * perMillimetre() * (0.8 + 0.4 * chance()),
        null,
      );
      inTree.add(best.b);
    }
  }
  nodes.forEach((a, i) =>
    nodes.forEach((b, j) => {
      if (i < j && a.ref === b.ref) join(i, j, 0, a.ref);
    }),
  );
  const pathOf = (from: string, to: string): { edges: (Edge & { id: string })[] } => {
    const start = nodes.findIndex((one) => one.ref === from);
    const seen = new Map<number, { before: number; edge: Edge | null }>([
      [start, { before: -1, edge: null }],
    ]);
    const queue = [start];
    for (let here = queue.shift(); here !== undefined; here = queue.shift())
      for (const edge of edges[here] ?? [])
        if (!seen.has(edge.to)) {
          seen.set(edge.to, { before: here, edge });
          queue.push(edge.to);
        }
    let end = nodes.findIndex((one, index) => one.ref === to && seen.has(index));
    const list: (Edge & { id: string })[] = [];
    for (let at = seen.get(end); at?.edge; at = seen.get(end)) {
      list.unshift({ ...at.edge, id: [at.before, end].sort().join() });
      end = at.before;
    }
    return { edges: list };
  };
  return {
    refs: [...new Set(nodes.map((one) => one.ref))],
    on: (id: NetId) => nodes.filter((one) => one.net === id).map((one) => one.ref),
    way(from: string, to: string) {
      const path = pathOf(from, to).edges;
      return {
        ohms: path.reduce((sum, one) => sum + one.ohms, 0),
        series: path.flatMap((one) => (one.through ? [one.through] : [])),
      };
    },
    /** Ohms that the current into the short shares with the way to a place. */
    shared(from: string, short: string, place: string, own: ReadonlyMap<string, number>): number {
      const current = pathOf(from, short).edges;
      const ids = new Set(pathOf(from, place).edges.map((one) => one.id));
      // What the current passes after the place has branched off still drops above the short.
      const rest = current.filter((one) => !ids.has(one.id));
      return rest.reduce(
        (sum, one) => sum + one.ohms + (one.through ? (own.get(one.through) ?? 0) : 0),
        0,
      );
    },
  };
}
