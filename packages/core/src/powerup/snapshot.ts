import type { Board, NetId } from '../board/index.ts';
import type { Device, Solver } from '../circuit/index.ts';
import type { BoardCircuit } from './netlist.ts';

/** What can be seen and measured at one moment of a play. */
export interface Snapshot {
  volts: ReadonlyMap<NetId, number>;
  /** Amps out of the connected source. */
  sourceAmps: number;
  /** Nets that swing between two values in this phase. */
  swinging: ReadonlyMap<NetId, { low: number; high: number }>;
  /** Heat in each part and chip, in watts; those under a milliwatt are left out. */
  watts: ReadonlyMap<string, number>;
  /** Lights that are on and fans that turn. */
  lit: readonly string[];
  turning: readonly string[];
  /** Chips fed through their signal pins: what they give is not to be trusted. */
  phantom: readonly string[];
}

/** A light is seen from about this many amps on; a fan starts at about this many volts (common practice, no source). */
const litAmps = 0.0002;
const turningVolts = 2;
/** Less through a protection diode is leakage. */
const phantomAmps = 1e-5;

export function takeSnapshot(
  board: Board,
  built: BoardCircuit,
  solver: Solver,
  volts: Float64Array,
  connected: Device,
  swinging: Snapshot['swinging'],
): Snapshot {
  const { devices } = built.circuit;
  const amps = solver.currents(volts);
  const watts = new Map<string, number>();
  const phantom = new Set<string>();
  const lights = new Set<string>();
  let sourceAmps = 0;
  devices.forEach((device, index) => {
    const through = amps[index]!;
    if (device === connected) sourceAmps = Math.max(0, through);
    if (device.kind === 'source' || through === 0) return;
    if (device.kind === 'diode') {
      if (through > litAmps) lights.add(device.name);
      if (through > phantomAmps && device.name.endsWith(' clamp')) phantom.add(ownerOf(device));
    }
    const heat = heatOf(device, through, volts);
    if (heat < 1e-5) return;
    const owner = ownerOf(device);
    watts.set(owner, (watts.get(owner) ?? 0) + heat);
  });
  for (const [owner, heat] of watts) if (heat < 0.001) watts.delete(owner);

  const across = (pins: readonly { net: NetId }[]): number =>
    pins[0] && pins[1]
      ? Math.abs(volts[built.nodeOf(pins[0].net)]! - volts[built.nodeOf(pins[1].net)]!)
      : 0;
  const fitted = board.parts.filter((part) => part.fitted);
  return {
    volts: new Map<NetId, number>([
      [board.ground, 0],
      ...built.nets.map((net, index) => [net, volts[index + 1]!] as const),
    ]),
    sourceAmps,
    swinging,
    watts,
    lit: fitted
      .filter((part) => part.kind === 'led' && lights.has(part.ref))
      .map((part) => part.ref),
    turning: fitted
      .filter((part) => part.kind === 'fan' && across(part.pins) > turningVolts)
      .map((part) => part.ref),
    phantom: [...phantom],
  };
}

/** The part or chip a device belongs to: its name begins with it. */
function ownerOf(device: Device): string {
  const end = device.name.indexOf(' ');
  return end < 0 ? device.name : device.name.slice(0, end);
}

/** Watts turned to heat in a device with `amps` through it. */
function heatOf(device: Device, amps: number, volts: Float64Array): number {
  const at = (node: number): number => volts[node]!;
  switch (device.kind) {
    case 'resistor':
      return (at(device.a) - at(device.b)) * amps;
    case 'load':
      return at(device.node) * amps;
    case 'diode':
      return (at(device.anode) - at(device.cathode)) * amps;
    case 'fet':
      return (at(device.drain) - at(device.source)) * amps;
    case 'bipolar':
      return (at(device.collector) - at(device.emitter)) * amps;
    case 'regulator':
      return device.pass === 'linear'
        ? (at(device.in) - at(device.out)) * amps
        : at(device.out) * amps * (1 / device.efficiency - 1);
    case 'source':
      return 0;
  }
}
