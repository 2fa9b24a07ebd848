import type { Board, NetId, Part, PartKind } from '../board/index.ts';
import type { Device } from '../circuit/index.ts';
import type { BoardCircuit } from './netlist.ts';

/** What can be seen and measured at one moment of a play. */
export interface Snapshot {
  /** By node of the board's circuit: ground, then the nets in their order. */
  nodeVolts: Float64Array;
  volts: ReadonlyMap<NetId, number>;
  /** Nets that a meter's own resistance lowers, with the volts it shows there. */
  lowered: ReadonlyMap<NetId, number>;
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
/** The volts a meter shows at a net: of what swings, the mean. */
export const shownVolts = ({ volts, lowered }: Snapshot, net: NetId): number =>
  lowered.get(net) ?? volts.get(net) ?? 0;

/** Less through a protection diode is leakage. */
const phantomAmps = 1e-5;

/**
 * A snapshot of node volts, of the amps through every device and out of the connected source. What is seldom asked for is worked
 * out when it is: most snapshots are looked at by volts only.
 */
export function takeSnapshot(
  board: Board,
  built: BoardCircuit,
  nodeVolts: Float64Array,
  amps: Float64Array,
  sourceAmps: number,
  swinging: Snapshot['swinging'],
  lowered: ReadonlyMap<number, number>,
): Snapshot {
  const { devices } = built.circuit;
  let volts: Snapshot['volts'] | undefined;
  let watts: Snapshot['watts'] | undefined;
  const fitted = (kind: PartKind): Part[] =>
    board.parts.filter((part) => part.fitted && part.kind === kind);
  const diodesAbove = (least: number): string[] =>
    devices.flatMap((one, index) =>
      one.kind === 'diode' && amps[index]! > least ? [one.name] : [],
    );
  const across = ({ pins: [a, b] }: Part): number =>
    a && b ? Math.abs(nodeVolts[built.nodeOf(a.net)]! - nodeVolts[built.nodeOf(b.net)]!) : 0;
  return {
    nodeVolts,
    lowered: new Map(
      [...lowered].flatMap(([node, shown]) => {
        const net = built.nets[node - 1];
        return net ? [[net, shown] as const] : [];
      }),
    ),
    sourceAmps: Math.max(0, sourceAmps),
    swinging,
    get volts() {
      return (volts ??= new Map<NetId, number>([
        [board.ground, 0],
        ...built.nets.map((net, index) => [net, nodeVolts[index + 1]!] as const),
      ]));
    },
    get watts() {
      return (watts ??= heatByPart(devices, amps, nodeVolts));
    },
    get lit() {
      const lights = new Set(diodesAbove(litAmps));
      return fitted('led').flatMap((part) => (lights.has(part.ref) ? [part.ref] : []));
    },
    get turning() {
      return fitted('fan').flatMap((part) => (across(part) > turningVolts ? [part.ref] : []));
    },
    get phantom() {
      const clamps = diodesAbove(phantomAmps).filter((name) => name.endsWith(' clamp'));
      return [...new Set(clamps.map(ownerOf))];
    },
  };
}

function heatByPart(
  devices: readonly Device[],
  amps: Float64Array,
  volts: Float64Array,
): Map<string, number> {
  const watts = new Map<string, number>();
  devices.forEach((device, index) => {
    const heat = heatOf(device, amps[index]!, volts);
    if (heat < 1e-5) return;
    const owner = ownerOf(device.name);
    watts.set(owner, (watts.get(owner) ?? 0) + heat);
  });
  for (const [owner, heat] of watts) if (heat < 0.001) watts.delete(owner);
  return watts;
}

/** The part or chip a device belongs to: its name begins with it. */
function ownerOf(name: string): string {
  const end = name.indexOf(' ');
  return end < 0 ? name : name.slice(0, end);
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
