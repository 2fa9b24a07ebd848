import {
  asOnBench,
  isOff,
  type Board,
  type Chip,
  type NetId,
  type OffBoard,
  type Part,
  findChip,
  findPart,
} from '../board/index.ts';
import type { OrderCache } from '../circuit/index.ts';
import { withFaults, type Fault } from '../faults/index.ts';
import type { Meter } from '../readings/index.ts';
import {
  diesOf,
  makeColdBench,
  readingOf,
  type ColdBench,
  type ColdEdit,
  type ColdMode,
  type ColdReading,
  type ColdTouch,
} from './cold-meter.ts';

/** Readings of the unpowered board at every net: volts or ohms, Infinity above range, NaN where unsettled. */
export interface ColdReadings {
  ohms: Float32Array;
  /** Black on the point, red on ground. */
  diode: Float32Array;
}

export interface ColdSweep {
  healthy: ColdReadings;
  /** The same with faults: only nets whose reading one of them can change are solved again. */
  under(faults: readonly Fault[]): ColdReadings;
}

/** A fault that takes less than this part of the test power changes no reading worth knowing. */
const leastPart = 0.02;
const modes = ['ohms', 'black-on-point'] as const;

export function makeColdSweep(whole: Board, meter: Meter, off: OffBoard = {}): ColdSweep {
  const board = asOnBench(whole, off);
  const dies = diesOf(board, meter);
  const orders: OrderCache = new Map();
  const nets = board.nets.filter((net) => net.id !== board.ground).map((net) => net.id);
  const bench = makeColdBench(board, dies, orders, meter.mostDiodeVolts);
  const healthy: ColdReadings = {
    ohms: new Float32Array(nets.length),
    diode: new Float32Array(nets.length),
  };
  const touches = { ohms: [] as ColdTouch[], 'black-on-point': [] as ColdTouch[] };
  const listOf = (readings: ColdReadings, mode: (typeof modes)[number]): Float32Array =>
    mode === 'ohms' ? readings.ohms : readings.diode;
  for (const mode of modes) {
    nets.forEach((net, index) => {
      let last: ColdTouch | undefined;
      listOf(healthy, mode)[index] = read(
        bench,
        meter,
        net,
        mode,
        undefined,
        (one) => (last = one),
      );
      if (last) touches[mode][index] = last;
    });
  }

  const ownOhms = (mode: (typeof modes)[number], node: number): number => {
    const touch = touches[mode][node - 1];
    return node === 0 || !touch ? 0 : Math.abs(touch.volts[node]!) / Math.max(touch.amps, 1e-9);
  };

  return {
    healthy,
    under(all) {
      const readings: ColdReadings = { ohms: healthy.ohms.slice(), diode: healthy.diode.slice() };
      // What is unplugged cannot be at fault here.
      const faults = all.filter((fault) => {
        const owner = [...board.parts, ...board.chips].find(
          (one) => 'part' in fault && one.ref === fault.part,
        );
        return !owner || !isOff(off, owner);
      });
      const takes = faults.flatMap((fault) => touchedBy(board, bench, ownOhms, fault) ?? []);
      const touched = modes.flatMap((mode) =>
        nets.flatMap((net, index) => {
          const touch = touches[mode][index];
          const isTouched =
            !touch ||
            takes.some((one) => one(mode, touch, Math.abs(touch.volts[bench.nodeOf(net)]!)));
          return takes.length > 0 && isTouched ? [{ mode, net, index, touch }] : [];
        }),
      );
      if (touched.length === 0) return readings;
      const readOn = (faulty: ColdBench): void => {
        for (const { mode, net, index, touch } of touched)
          listOf(readings, mode)[index] = read(faulty, meter, net, mode, touch);
      };
      // What no unpowered reading shows needs no drawing in.
      const shown = faults.filter((fault) => touchedBy(board, bench, ownOhms, fault));
      const edits = shown.flatMap((fault) => editFor(board, bench, fault) ?? []);
      if (edits.length === shown.length) bench.withEdits(edits, () => readOn(bench));
      else {
        const faulty = asOnBench(withFaults(whole, faults), off);
        readOn(makeColdBench(faulty, dies, orders, meter.mostDiodeVolts));
      }
      return readings;
    },
  };
}

function read(
  bench: ColdBench,
  meter: Meter,
  net: NetId,
  mode: ColdMode,
  warm?: ColdTouch,
  keep?: (touch: ColdTouch) => void,
): number {
  return numberOf(readingOf(bench, meter, net, mode, warm, keep));
}

export const numberOf = (reading: ColdReading): number =>
  reading.kind === 'value' ? reading.value : reading.kind === 'over' ? Infinity : NaN;

/** Every net of the board with these faults in it, read one by one; `across` reads from net to net. */
export function readCold(
  board: Board,
  setup: OffBoard,
  faults: readonly Fault[],
  meter: Meter,
): ColdReadings & { across(net: NetId, against: NetId, mode: ColdMode | 'diode'): number } {
  const dies = diesOf(asOnBench(board, setup), meter);
  const faulty = asOnBench(withFaults(board, faults), setup);
  const bench = makeColdBench(faulty, dies, new Map(), meter.mostDiodeVolts);
  const meterOn = new Map<NetId, ColdBench>([[board.ground, bench]]);
  const against = (reference: NetId): ColdBench => {
    let one = meterOn.get(reference);
    if (!one) {
      one = makeColdBench(faulty, dies, new Map(), meter.mostDiodeVolts, reference);
      meterOn.set(reference, one);
    }
    return one;
  };
  const nets = board.nets.filter((net) => net.id !== board.ground);
  const all = (mode: ColdMode): Float32Array =>
    Float32Array.from(nets, (net) => read(bench, meter, net.id, mode));
  // Reading a whole board takes a while: only what is asked for is read.
  let ohms: Float32Array | undefined;
  let diode: Float32Array | undefined;
  return {
    get ohms() {
      return (ohms ??= all('ohms'));
    },
    get diode() {
      return (diode ??= all('black-on-point'));
    },
    across: (net, reference, mode) => {
      const way = mode === 'ohms' ? 'ohms' : mode === 'diode' ? 'black-on-point' : mode;
      return numberOf(readingOf(against(reference), meter, net, way));
    },
  };
}

/** The fault as a change of one resistance, where it is no more than that. */
export function editFor(board: Board, bench: ColdBench, fault: Fault): ColdEdit | null {
  const part = 'part' in fault ? findPart(board, fault.part) : undefined;
  const chip = 'part' in fault ? findChip(board, fault.part) : undefined;
  const isResistance = bench.devices.some(
    (one) => one.kind === 'resistor' && one.name === part?.ref,
  );
  const toGround = (net: NetId | undefined, ohms: number): ColdEdit | null =>
    net === undefined ? null : { kind: 'to ground', node: bench.nodeOf(net), ohms };
  switch (fault.kind) {
    case 'open':
      return part && isResistance ? { kind: 'part', ref: part.ref, times: 0 } : null;
    case 'drift':
      return part && isResistance ? { kind: 'part', ref: part.ref, times: 1 / fault.factor } : null;
    case 'high':
      return part && isResistance ? { kind: 'part', ref: part.ref, ohms: fault.ohms } : null;
    case 'short':
      return toGround(fault.net, fault.ohms);
    case 'pin-short':
      return toGround(chip?.pins.get(fault.pin), fault.ohms);
    case 'pins-short': {
      const ends = fault.pins.map(
        (pin) => chip?.pins.get(pin) ?? part?.pins.find((one) => one.name === pin)?.net,
      );
      if (!ends.includes(board.ground)) return null;
      return toGround(
        ends.find((net) => net !== board.ground),
        fault.ohms,
      );
    }
    default:
      return null;
  }
}

/** Whether a lead on the healthy board would read otherwise with the fault; a rough test, on the safe side. */
type Touches = (mode: (typeof modes)[number], touch: ColdTouch, testVolts: number) => boolean;

/**
 * By reciprocity a reading moves, as a part of itself, by about the power that goes through what the
 * fault changes over the test power. Null for faults that no unpowered reading shows.
 */
export function touchedBy(
  board: Board,
  bench: ColdBench,
  ownOhms: (mode: (typeof modes)[number], node: number) => number,
  fault: Fault,
): Touches | null {
  const part: Part | undefined = 'part' in fault ? findPart(board, fault.part) : undefined;
  const chip: Chip | undefined = 'part' in fault ? findChip(board, fault.part) : undefined;
  const ground = bench.nodeOf(board.ground);
  const nodeAt = (pin: string): number => {
    const net = chip?.pins.get(pin) ?? part?.pins.find((one) => one.name === pin)?.net;
    return net ? bench.nodeOf(net) : ground;
  };
  // Between two points the current of a bridge is bounded by what stands behind them.
  const bridge =
    (a: number, b: number, ohms: number): Touches =>
    (mode, { volts, amps }, testVolts) => {
      const across = volts[a]! - volts[b]!;
      const behind = ownOhms(mode, a) + ownOhms(mode, b);
      return across ** 2 / (ohms + behind) > leastPart * amps * testVolts;
    };
  switch (fault.kind) {
    case 'pins-short':
      return bridge(nodeAt(fault.pins[0]), nodeAt(fault.pins[1]), fault.ohms);
    case 'pin-short':
      return bridge(nodeAt(fault.pin), ground, fault.ohms);
    case 'short':
      return bridge(bench.nodeOf(fault.net), ground, fault.ohms);
    case 'nets-joined':
      return bridge(bench.nodeOf(fault.nets[0]), bench.nodeOf(fault.nets[1]), fault.ohms);
    case 'all-short': {
      const nodes = part?.pins.map((pin) => bench.nodeOf(pin.net)) ?? [];
      const bridges = nodes.flatMap((a, index) =>
        nodes.slice(index + 1).map((b) => bridge(a, b, fault.ohms)),
      );
      return (...at) => bridges.some((one) => one(...at));
    }
    case 'open':
    case 'high':
    case 'drift':
      return part ? throughPart(part, bench) : null;
    case 'reversed': {
      const ends = part?.pins.filter((pin) => pin.name !== 'G').map((pin) => bench.nodeOf(pin.net));
      const [a, b] = ends ?? [];
      return a === undefined || b === undefined
        ? null
        : (_mode, { volts }) => Math.abs(volts[a]! - volts[b]!) > 0.05;
    }
    case 'break': {
      const node = bench.nodeOf(fault.net);
      return (_mode, { volts }) => Math.abs(volts[node]! - volts[ground]!) > 0.0005;
    }
    case 'trace-open': {
      if (part) return throughPart(part, bench);
      // A chip's pin: its protection diodes go with it.
      const node = nodeAt(fault.pin);
      const isClamped = chip?.clamped.includes(fault.pin) || chip?.clamp === fault.pin;
      return isClamped ? (_mode, { volts }) => Math.abs(volts[node]! - volts[ground]!) > 0.2 : null;
    }
    case 'dead':
    case 'output-dead':
    case 'weak':
    case 'off-value':
    case 'corrupt':
    case 'stops':
    case 'blank':
    case 'stuck':
    case 'source':
    case 'warm':
      return null;
  }
}

/** Touched where a fair part of the test current goes through the part. */
function throughPart(part: Part, bench: ColdBench): Touches | null {
  const own = bench.devices.filter(
    (one) => one.name === part.ref || one.name.startsWith(`${part.ref} `),
  );
  if (own.length === 0) return null;
  return (_mode, { volts, amps }) =>
    own.some((one) => {
      switch (one.kind) {
        case 'resistor':
          return Math.abs(volts[one.a]! - volts[one.b]!) * one.siemens > leastPart * amps;
        // Whether a junction conducts is for the solver to say.
        case 'diode': {
          const across = volts[one.anode]! - volts[one.cathode]!;
          return across > 0.05 || (one.breakdownVolts !== null && -across > one.breakdownVolts / 5);
        }
        case 'fet':
          return Math.abs(volts[one.drain]! - volts[one.source]!) > 0.05;
        case 'bipolar':
          return (
            Math.abs(volts[one.base]! - volts[one.emitter]!) > 0.05 ||
            Math.abs(volts[one.base]! - volts[one.collector]!) > 0.05
          );
        default:
          return false;
      }
    });
}
