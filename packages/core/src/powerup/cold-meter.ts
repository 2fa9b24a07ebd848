import { isSeriesPart, type Board, type NetId } from '../board/index.ts';
import {
  makeSolver,
  thermalVolts,
  type Device,
  type JunctionModel,
  type SourceDevice,
} from '../circuit/index.ts';
import type { Meter } from '../readings/index.ts';
import { buildCircuit } from './netlist.ts';

export type ColdReading =
  { kind: 'value'; value: number } | { kind: 'over' } | { kind: 'unsettled'; because: string };

/** Readings on the unpowered board, as the meter in hand takes them. */
export interface ColdMeter {
  /** Ohms to ground at a test voltage too low for junctions. */
  ohms(net: NetId): ColdReading;
  /**
   * Volts in diode-mode. black-on-point is the usual habit: red on ground, so that current leaves
   * the point and body, protection and substrate diodes show.
   */
  diode(net: NetId, polarity: 'red-on-point' | 'black-on-point'): ColdReading;
}

// A meter's test levels: data-sheet habits of hand-held meters, from memory.
const testAmps = 0.001;
const ohmsVolts = 0.2;
const ohmsSeries = 10_000;
/** Below this at the point the low range measures better. */
const lowRangeVolts = 0.02;

interface Leads {
  high: SourceDevice;
  low: SourceDevice;
  red: SourceDevice;
  black: SourceDevice;
}

export function makeColdMeter(board: Board, meter: Meter): ColdMeter {
  const bare = probe(board, meter, []);
  const groups = joinedGroups(board);
  const dies = groups.flatMap((nets) => dieOf(board, nets, bare));
  return dies.length === 0 ? bare : probe(board, meter, dies);
}

/** What the chips on a group of joined nets are, seen from outside and unpowered. */
interface Die {
  net: NetId;
  siemens: number;
  junction: JunctionModel | null;
}

function probe(board: Board, meter: Meter, dies: readonly Die[]): ColdMeter {
  const { circuit, nets, nodeOf } = buildCircuit(board);
  const devices: Device[] = circuit.devices.filter((device) => device.kind !== 'load');
  for (const { net, siemens, junction } of dies) {
    const node = nodeOf(net);
    devices.push({ kind: 'resistor', name: `chips on ${net}`, a: node, b: 0, siemens });
    if (junction) {
      devices.push({
        kind: 'diode',
        name: `chips on ${net}`,
        anode: 0,
        cathode: node,
        model: junction,
        breakdownVolts: null,
      });
    }
  }
  const leads = new Map<NetId, Leads>();
  for (const net of nets) {
    const node = nodeOf(net);
    const lead = (on: number, base: number, volts: number, ohms: number): SourceDevice => {
      const device: SourceDevice = {
        kind: 'source',
        name: `meter at ${net}`,
        node: on,
        base,
        volts,
        ohms,
        maxAmps: testAmps,
        minAmps: 0,
        on: false,
      };
      devices.push(device);
      return device;
    };
    leads.set(net, {
      high: lead(node, 0, ohmsVolts, ohmsSeries),
      low: lead(node, 0, meter.mostDiodeVolts, 1),
      red: lead(node, 0, meter.mostDiodeVolts, 1),
      black: lead(0, node, meter.mostDiodeVolts, 1),
    });
  }
  const solver = makeSolver({ nodes: circuit.nodes, devices }, { groundSiemens: 1e-12 });

  /** Volts at the net with one lead connected. */
  const withLead = (net: NetId, which: keyof Leads): number | string => {
    const lead = leads.get(net)?.[which];
    if (!lead) return `${net} is not on this board`;
    lead.on = true;
    const point = solver.solve();
    lead.on = false;
    return point.status === 'settled'
      ? (point.volts[nodeOf(net)] as number)
      : `the circuit did not settle (${point.worstDevice})`;
  };

  return {
    ohms(net) {
      const high = withLead(net, 'high');
      if (typeof high === 'string') return { kind: 'unsettled', because: high };
      let ohms = (high * ohmsSeries) / Math.max(ohmsVolts - high, 1e-12);
      if (high < lowRangeVolts) {
        const low = withLead(net, 'low');
        if (typeof low === 'string') return { kind: 'unsettled', because: low };
        ohms = low / testAmps;
      }
      return ohms > meter.mostOhms ? { kind: 'over' } : { kind: 'value', value: Math.max(0, ohms) };
    },
    diode(net, polarity) {
      const volts = withLead(net, polarity === 'red-on-point' ? 'red' : 'black');
      if (typeof volts === 'string') return { kind: 'unsettled', because: volts };
      const shown = polarity === 'red-on-point' ? volts : -volts;
      return shown > meter.mostDiodeVolts * 0.98
        ? { kind: 'over' }
        : { kind: 'value', value: Math.max(0, shown) };
    },
  };
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
 * of its nets, less what the drawn parts conduct already.
 */
function dieOf(board: Board, nets: readonly NetId[], bare: ColdMeter): Die[] {
  const stated = board.nets.filter((net) => nets.includes(net.id));
  const least = (values: (number | null)[]): number | null => {
    const known = values.filter((value) => value !== null);
    return known.length > 0 ? Math.min(...known) : null;
  };
  const ohms = least(stated.map((net) => net.coldOhms));
  const volts = least(stated.map((net) => net.coldDiodeVolts));
  const first = stated.find((net) => net.id !== board.ground);
  if (!first || (ohms === null && volts === null)) return [];
  const drawn = bare.ohms(first.id);
  const drawnSiemens = drawn.kind === 'value' ? 1 / Math.max(drawn.value, 1e-6) : 0;
  const siemens = ohms === null ? 0 : Math.max(0, 1 / ohms - drawnSiemens);
  if (volts === null) return [{ net: first.id, siemens, junction: null }];
  const left = testAmps - volts * (siemens + drawnSiemens);
  if (left <= 0) return [{ net: first.id, siemens, junction: null }];
  const emission = 1.1;
  const seriesOhms = 0.5;
  const across = volts - left * seriesOhms;
  const saturationAmps = left / (Math.exp(across / (emission * thermalVolts)) - 1);
  return [{ net: first.id, siemens, junction: { saturationAmps, emission, seriesOhms } }];
}
