import {
  asOnBench,
  findPartOrChip,
  isOff,
  type Board,
  type NetId,
  type OffBoard,
} from '../board/index.ts';
import type { OrderCache } from '../circuit/index.ts';
import { islandOf, withFaults, type Fault } from '../faults/index.ts';
import type { Meter } from '../readings/index.ts';
import {
  diesOf,
  makeColdBench,
  readingOf,
  type ColdBench,
  type ColdMode,
  type ColdTouch,
  type Die,
} from './cold-meter.ts';
import { editFor, numberOf, touchedBy } from './cold-sweep.ts';

/** Where a lead stands: on a net, and on which of its pins where that is known. */
export interface Spot {
  net: NetId;
  ref: string | null;
  pin: string | null;
}

/** Cold readings between any two points of a board, healthy or with faults, whatever lies between. */
export interface ColdReader {
  between(at: Spot, against: Spot, mode: ColdMode): ColdPair;
}

/** Volts or ohms between two points: Infinity above range, NaN where nothing settled. */
export interface ColdPair {
  healthy: number;
  /** Only what a fault can change is solved again. */
  under(faults: readonly Fault[]): number;
}

export function makeColdReader(whole: Board, meter: Meter, off: OffBoard): ColdReader {
  const board = asOnBench(whole, off);
  const orders: OrderCache = new Map();
  let dies: Die[] | null = null;
  const pairs = new Map<string, ColdPair>();
  const benches = new Map<NetId, ColdBench>();
  const benchOn = (reference: NetId): ColdBench => {
    let bench = benches.get(reference);
    if (!bench) {
      dies ??= diesOf(board, meter);
      bench = makeColdBench(board, dies, orders, meter.mostDiodeVolts, reference);
      benches.set(reference, bench);
    }
    return bench;
  };

  const behind = new Map<NetId, number>();
  /** What stands behind a net to ground, in ohms. */
  const ohmsBehind = (net: NetId): number => {
    let ohms = behind.get(net);
    if (ohms === undefined) {
      const read = readingOf(benchOn(board.ground), meter, net, 'ohms');
      ohms = read.kind === 'value' ? read.value : meter.mostOhms;
      behind.set(net, ohms);
    }
    return ohms;
  };

  const pairOf = (at: Spot, against: Spot, mode: ColdMode): ColdPair => {
    const bench = benchOn(against.net);
    const netAt = new Map(board.nets.map((net) => [bench.nodeOf(net.id), net.id]));
    const ownOhms = (_: string, node: number): number => {
      const net = netAt.get(node);
      // Beside the leads themselves the test current is at hand.
      const isProbed = net === at.net || net === against.net;
      return net === undefined || net === board.ground || isProbed ? 0 : ohmsBehind(net);
    };
    let touch: ColdTouch | undefined;
    const healthy =
      at.net === against.net
        ? 0
        : numberOf(readingOf(bench, meter, at.net, mode, undefined, (one) => (touch = one)));
    return {
      healthy,
      under(all) {
        const faults = all.filter((fault) => {
          const owner = 'part' in fault ? findPartOrChip(board, fault.part) : undefined;
          return !owner || !isOff(off, owner);
        });
        const [here, there] = [at, against].map((spot) => netUnder(board, faults, spot));
        if (here === there) return 0;
        const isMoved = here !== at.net || there !== against.net;
        if (!isMoved) {
          if (!touch) return healthy;
          const { volts } = touch;
          const across = Math.abs(volts[bench.nodeOf(at.net)]!);
          const takes = faults.flatMap((fault) => touchedBy(board, bench, ownOhms, fault) ?? []);
          if (!takes.some((one) => one('ohms', touch as ColdTouch, across))) return healthy;
          // A short to ground where nothing led there before changes the circuit's shape.
          const edits = faults.flatMap((fault) => editFor(board, bench, fault) ?? []);
          const keepShape =
            against.net === board.ground || edits.every((edit) => edit.kind === 'part');
          if (edits.length === faults.length && keepShape) {
            let read = NaN;
            bench.withEdits(edits, () => {
              read = numberOf(readingOf(bench, meter, at.net, mode, touch));
            });
            return read;
          }
        }
        const faulty = asOnBench(withFaults(whole, faults), off);
        const its = makeColdBench(
          faulty,
          dies ?? diesOf(board, meter),
          orders,
          meter.mostDiodeVolts,
          there,
        );
        return numberOf(readingOf(its, meter, here as NetId, mode));
      },
    };
  };

  return {
    between(at, against, mode) {
      const key = [at, against].map((one) => `${one.net} ${one.ref} ${one.pin}`).join() + mode;
      let pair = pairs.get(key);
      if (!pair) pairs.set(key, (pair = pairOf(at, against, mode)));
      return pair;
    },
  };
}

/** The net a pin stands on with faults in the board: its own, where one cut it off. */
export function netUnder(board: Board, faults: readonly Fault[], { net, ref, pin }: Spot): NetId {
  for (const fault of faults) {
    const island = islandOf(board, fault);
    if (island?.places.some((one) => one.ref === ref && one.pin === pin)) return island.net;
  }
  return net;
}
