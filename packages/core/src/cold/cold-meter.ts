import { isSeriesPart, type Board, type Net, type NetId } from '../board/index.ts';
import {
  makeSolver,
  thermalVolts,
  type Device,
  type OrderCache,
  type JunctionModel,
  type ResistorDevice,
  type SourceDevice,
} from '../circuit/index.ts';
import type { Meter } from '../readings/index.ts';
import { buildCircuit } from '../play/index.ts';

export type ColdReading =
  | { kind: 'value'; value: number }
  | { kind: 'over' }
  | { kind: 'unsettled'; because: string };

/** Readings on the unpowered board, as the meter in hand takes them. */
export interface ColdMeter {
  /** Ohms to ground at a test voltage too low for junctions. */
  ohms(net: NetId): ColdReading;
  /**
   * Volts in diode-mode. black-on-point is the usual habit: red on ground, so that current leaves
   * the point and body, protection and substrate diodes show.
   */
  diode(net: NetId, polarity: 'red-on-point' | 'black-on-point'): ColdReading;
  /** From net to net: across a FET, a fuse, a resistor. */
  across(net: NetId, against: NetId, mode: ColdMode): ColdReading;
}

// A meter's test levels: data-sheet habits of hand-held meters, from memory.
const testAmps = 0.001;
const ohmsVolts = 0.2;
const ohmsSeries = 10_000;
/** Below this at the point the low range measures better. */
const lowRangeVolts = 0.02;

/**
 * The meter on a board, drawn with the chips' dies as its sheet states them. For a board with a
 * fault in it, `healthy` is the board it was made from: its dies are the same.
 */
export function makeColdMeter(board: Board, meter: Meter, healthy: Board = board): ColdMeter {
  const dies = diesOf(healthy, meter);
  const benches = new Map<NetId, ColdBench>();
  const on = (reference: NetId): ColdBench => {
    let bench = benches.get(reference);
    if (!bench) {
      bench = makeColdBench(board, dies, new Map(), meter.mostDiodeVolts, reference);
      benches.set(reference, bench);
    }
    return bench;
  };
  return {
    ohms: (net) => readingOf(on(board.ground), meter, net, 'ohms'),
    diode: (net, polarity) => readingOf(on(board.ground), meter, net, polarity),
    across: (net, against, mode) => readingOf(on(against), meter, net, mode),
  };
}

/** What the chips on a group of joined nets are, seen from outside and unpowered. */
export interface Die {
  net: NetId;
  siemens: number;
  junction: JunctionModel | null;
}

export function diesOf(board: Board, meter: Meter): Die[] {
  const bench = makeColdBench(board, [], new Map(), meter.mostDiodeVolts);
  return joinedGroups(board).flatMap((nets) => dieOf(board, nets, bench, meter));
}

export type ColdMode = 'ohms' | 'red-on-point' | 'black-on-point';

/** The unpowered board with a meter's leads that can be put to any of its nets. */
export interface ColdBench {
  nodeOf(net: NetId): number;
  devices: readonly Device[];
  /** Does something with faults drawn in that leave the circuit's shape alone, three at most. */
  withEdits(edits: readonly ColdEdit[], action: () => void): void;
  /** Node volts with the lead at the net, the other at the bench's reference, and the amps of the lead; a text where nothing settled. */
  touch(net: NetId, lead: Lead, warm?: Float64Array): Touched | string;
  /** The same with the lead left on during `action`: the devices stand as they were solved. */
  withLead(net: NetId, lead: Lead, action: (touched: Touched | string) => void): void;
}

export interface Touched {
  volts: Float64Array;
  amps: number;
}

/** A change that leaves the circuit's shape alone. */
export type ColdEdit =
  | { kind: 'to ground'; node: number; ohms: number }
  /** A resistance, coil, fuse or link at so many times its siemens, or at so many ohms. */
  | ({ kind: 'part'; ref: string } & ({ times: number } | { ohms: number }));

type Lead = 'high range' | 'low range' | 'red' | 'black';

export function makeColdBench(
  board: Board,
  dies: readonly Die[],
  orders: OrderCache,
  mostDiodeVolts: number,
  /** The net the other lead stands on. */
  reference: NetId = board.ground,
): ColdBench {
  const { circuit, nodeOf } = buildCircuit(board, { cold: true, reference });
  const ground = nodeOf(board.ground);
  const devices: Device[] = circuit.devices.filter((device) => device.kind !== 'load');
  for (const { net, siemens, junction } of dies) {
    const cathode = nodeOf(net);
    const name = `chips on ${net}`;
    devices.push({ kind: 'resistor', name, a: cathode, b: ground, siemens });
    if (junction)
      devices.push({
        kind: 'diode',
        name,
        anode: ground,
        cathode,
        model: junction,
        breakdownVolts: null,
      });
  }
  const lead = (volts: number, ohms: number): SourceDevice => {
    const device: SourceDevice = {
      kind: 'source',
      name: 'meter',
      node: 0,
      base: 0,
      volts,
      ohms,
      maxAmps: testAmps,
      minAmps: 0,
      on: false,
    };
    devices.push(device);
    return device;
  };
  const leads: Record<Lead, SourceDevice> = {
    'high range': lead(ohmsVolts, ohmsSeries),
    'low range': lead(mostDiodeVolts, 1),
    red: lead(mostDiodeVolts, 1),
    black: lead(mostDiodeVolts, 1),
  };
  const spares = [0, 1, 2].map((): ResistorDevice => ({
    kind: 'resistor',
    name: 'short',
    a: ground,
    b: ground,
    siemens: 0,
  }));
  devices.push(...spares);
  const editable = new Map(
    devices.flatMap((one) => (one.kind === 'resistor' ? [[one.name, one] as const] : [])),
  );
  const solver = makeSolver({ nodes: circuit.nodes, devices }, { groundSiemens: 1e-10, orders });
  return {
    nodeOf,
    devices,
    withEdits(edits, action) {
      const before = edits.map((edit, index) => {
        const device = edit.kind === 'part' ? editable.get(edit.ref) : spares[index];
        if (!device) throw new Error(`${edit.kind === 'part' ? edit.ref : index} is no resistance`);
        const { siemens } = device;
        device.siemens = 'times' in edit ? siemens * edit.times : 1 / edit.ohms;
        if (edit.kind === 'to ground') device.a = edit.node;
        return { device, siemens };
      });
      action();
      for (const { device, siemens } of before.reverse()) device.siemens = siemens;
    },
    touch,
    withLead(net, lead, action) {
      const touched = touch(net, lead);
      leads[lead].on = true;
      action(touched);
      leads[lead].on = false;
    },
  };

  function touch(net: NetId, which: Lead, warm?: Float64Array): Touched | string {
    const device = leads[which];
    // Black on the point draws current out of it; the other leads push it in.
    device.node = which === 'black' ? 0 : nodeOf(net);
    device.base = which === 'black' ? nodeOf(net) : 0;
    device.on = true;
    const point = solver.solve(warm);
    device.on = false;
    if (point.status === 'stalled') return `the circuit did not settle (${point.worstDevice})`;
    const { volts } = point;
    const short = device.volts + volts[device.base]! - volts[device.node]!;
    return { volts, amps: Math.min(testAmps, Math.max(0, short / device.ohms)) };
  }
}

/** What the meter shows at a net, against the bench's reference. */
export function readingOf(
  bench: ColdBench,
  meter: Meter,
  net: NetId,
  mode: ColdMode,
  warm?: ColdTouch,
  keep?: (touch: ColdTouch) => void,
): ColdReading {
  const node = bench.nodeOf(net);
  const touch = (lead: Lead): number | string => {
    const start = warm?.lead === lead ? warm.volts : undefined;
    const touched = bench.touch(net, lead, start);
    if (typeof touched === 'string') return touched;
    keep?.({ lead, ...touched });
    return touched.volts[node]!;
  };
  if (mode === 'ohms') {
    const high = touch('high range');
    if (typeof high === 'string') return { kind: 'unsettled', because: high };
    let ohms = (high * ohmsSeries) / Math.max(ohmsVolts - high, 1e-12);
    if (high < lowRangeVolts) {
      const low = touch('low range');
      if (typeof low === 'string') return { kind: 'unsettled', because: low };
      ohms = low / testAmps;
    }
    return ohms > meter.mostOhms ? { kind: 'over' } : { kind: 'value', value: Math.max(0, ohms) };
  }
  const volts = touch(mode === 'red-on-point' ? 'red' : 'black');
  if (typeof volts === 'string') return { kind: 'unsettled', because: volts };
  const shown = mode === 'red-on-point' ? volts : -volts;
  return shown > meter.mostDiodeVolts * 0.98
    ? { kind: 'over' }
    : { kind: 'value', value: Math.max(0, shown) };
}

/** The solved board under a lead. */
export interface ColdTouch {
  lead: Lead;
  volts: Float64Array;
  amps: number;
}

/** Nets joined by milliohms: the chips on them are seen together. */
function joinedGroups(board: Board): NetId[][] {
  const group = new Map<NetId, Set<NetId>>(board.nets.map((net) => [net.id, new Set([net.id])]));
  for (const part of board.parts) {
    if (!isSeriesPart(part)) continue;
    const [a, b] = part.pins.map((pin) => group.get(pin.net));
    if (!a || !b || a === b) continue;
    for (const net of b) {
      a.add(net);
      group.set(net, a);
    }
  }
  return [...new Set(group.values())].map((nets) => [...nets]);
}

/**
 * Makes the group read what its sheet states: the lowest ohms and the lowest junction stated on any
 * of its nets, each on the net where it was stated, less what the drawn parts conduct already.
 */
function dieOf(board: Board, nets: readonly NetId[], bare: ColdBench, meter: Meter): Die[] {
  const stated = board.nets.filter((net) => net.id !== board.ground && nets.includes(net.id));
  const least = (of: (net: Net) => number | null): Net | null =>
    stated.reduce<Net | null>((low, net) => {
      const value = of(net);
      return value !== null && value < ((low && of(low)) ?? Infinity) ? net : low;
    }, null);
  const lowOhms = least((net) => net.coldOhms);
  const lowVolts = least((net) => net.coldDiodeVolts);
  const seen = lowVolts ?? lowOhms;
  if (!seen) return [];
  const drawn = readingOf(bare, meter, seen.id, 'ohms');
  const drawnSiemens = drawn.kind === 'value' ? 1 / Math.max(drawn.value, 1e-6) : 0;
  const siemens = lowOhms?.coldOhms ? Math.max(0, 1 / lowOhms.coldOhms - drawnSiemens) : 0;
  const resistance: Die[] =
    lowOhms && lowOhms !== lowVolts ? [{ net: lowOhms.id, siemens, junction: null }] : [];
  if (!lowVolts) return resistance;
  const volts = lowVolts.coldDiodeVolts as number;
  const beside = lowOhms === lowVolts ? siemens : 0;
  const left = testAmps - volts * (siemens + drawnSiemens);
  if (left <= 0) return [...resistance, { net: lowVolts.id, siemens: beside, junction: null }];
  const emission = 1.1;
  const seriesOhms = 0.5;
  const across = volts - left * seriesOhms;
  const saturationAmps = left / (Math.exp(across / (emission * thermalVolts)) - 1);
  return [
    ...resistance,
    { net: lowVolts.id, siemens: beside, junction: { saturationAmps, emission, seriesOhms } },
  ];
}
