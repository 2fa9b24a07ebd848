import type { Board, Chip, Follower, NetId, Regulator, Sequence, Source } from '../board/index.ts';
import { outputPins } from '../board/index.ts';
import type {
  Circuit,
  Device,
  RegulatorDevice,
  ResistorDevice,
  SourceDevice,
} from '../circuit/index.ts';
import {
  bodyDiode,
  diodeModel,
  fetModel,
  openDrainOhms,
  outputOhms,
  wireOhms,
  signalTransistor,
} from './part-models.ts';

/** A chip's output pin: what the play switches. */
export interface PinDriver {
  high: ResistorDevice | SourceDevice | null;
  low: ResistorDevice;
}

export interface BoardCircuit {
  circuit: Circuit;
  nodeOf(net: NetId): number;
  nets: readonly NetId[];
  sources: ReadonlyMap<string, SourceDevice>;
  button: ResistorDevice | null;
  regulators: ReadonlyMap<Regulator, RegulatorDevice>;
  /** By `ref pin`. */
  drivers: ReadonlyMap<string, PinDriver>;
}

/** Builds the circuit of a board with everything switched off. */
export function buildCircuit(board: Board): BoardCircuit {
  const nets = board.nets.filter((net) => net.id !== board.ground).map((net) => net.id);
  const nodes = new Map<NetId, number>(nets.map((net, index) => [net, index + 1]));
  nodes.set(board.ground, 0);
  const nodeOf = (net: NetId): number => nodes.get(net) as number;
  const devices: Device[] = [];

  const resistor = (name: string, a: number, b: number, siemens: number): ResistorDevice => {
    const device: ResistorDevice = { kind: 'resistor', name, a, b, siemens };
    devices.push(device);
    return device;
  };

  for (const part of board.parts) {
    if (!part.fitted) continue;
    const on = (pin: number | string): number =>
      nodeOf(
        (typeof pin === 'number' ? part.pins[pin] : part.pins.find((one) => one.name === pin))
          ?.net as NetId,
      );
    switch (part.kind) {
      case 'resistor':
        resistor(part.ref, on(0), on(1), 1 / Math.max(part.value as number, wireOhms.jumper));
        break;
      case 'coil':
      case 'ferrite':
      case 'fuse':
      case 'jumper':
        resistor(part.ref, on(0), on(1), 1 / wireOhms[part.kind]);
        break;
      case 'diode':
      case 'schottky':
      case 'led':
      case 'zener':
      case 'tvs':
        devices.push({
          kind: 'diode',
          name: part.ref,
          anode: on('A'),
          cathode: on('K'),
          model: diodeModel(part.kind),
          breakdownVolts: part.kind === 'zener' || part.kind === 'tvs' ? part.value : null,
        });
        break;
      case 'pfet':
      case 'nfet': {
        const polarity = part.kind === 'nfet' ? 'n' : 'p';
        devices.push({
          kind: 'fet',
          name: part.ref,
          polarity,
          gate: on('G'),
          drain: on('D'),
          source: on('S'),
          ...fetModel(part),
        });
        devices.push({
          kind: 'diode',
          name: `${part.ref} body diode`,
          anode: polarity === 'n' ? on('S') : on('D'),
          cathode: polarity === 'n' ? on('D') : on('S'),
          model: bodyDiode,
          breakdownVolts: null,
        });
        break;
      }
      case 'npn':
      case 'pnp':
        devices.push({
          kind: 'bipolar',
          name: part.ref,
          polarity: part.kind,
          base: on('B'),
          collector: on('C'),
          emitter: on('E'),
          ...signalTransistor,
        });
        break;
      case 'capacitor':
      case 'crystal':
      case 'connector':
      case 'button':
        break; // open at DC; the button is pressed by the play
    }
  }

  const regulators = new Map<Regulator, RegulatorDevice>();
  const drivers = new Map<string, PinDriver>();
  for (const chip of board.chips) {
    if (!chip.fitted) continue;
    const pin = (name: string): number => nodeOf(chip.pins.get(name) as NetId);
    for (const behaviour of chip.behaviours) {
      switch (behaviour.do) {
        case 'regulator':
          regulators.set(behaviour, addRegulator(chip, behaviour, pin, devices));
          if (behaviour.powerGood)
            addDriver(chip, behaviour.powerGood, null, pin, drivers, resistor);
          break;
        case 'follower':
          if (behaviour.liftVolts > 0 && behaviour.high) {
            const pump: SourceDevice = {
              kind: 'source',
              name: `${chip.ref} ${behaviour.out} charge pump`,
              node: pin(behaviour.out),
              base: pin(behaviour.high),
              volts: behaviour.liftVolts,
              ohms: 20000,
              maxAmps: 0.0002,
              minAmps: 0,
              on: false,
            };
            devices.push(pump);
            drivers.set(driverKey(chip, behaviour.out), {
              high: pump,
              low: resistor(`${chip.ref} ${behaviour.out}`, pin(behaviour.out), 0, 0),
            });
          } else addDriver(chip, behaviour.out, highPin(behaviour), pin, drivers, resistor);
          break;
        case 'sequence':
          for (const out of outputPins(behaviour)) {
            addDriver(chip, out, highPin(behaviour), pin, drivers, resistor);
          }
          break;
      }
    }
    for (const draw of chip.draws) {
      const node = pin(draw.pin);
      const nominal = board.nets.find((net) => net.id === chip.pins.get(draw.pin))?.volts ?? 2;
      devices.push({
        kind: 'load',
        name: `${chip.ref} supply`,
        node,
        amps: draw.amps,
        letGoVolts: nominal * 0.6,
      });
    }
  }
  for (const net of board.nets) {
    if (net.loadAmps > 0) {
      const letGoVolts = (net.volts ?? net.rangeVolts?.[0] ?? 2) * 0.6;
      devices.push({
        kind: 'load',
        name: `load on ${net.id}`,
        node: nodeOf(net.id),
        amps: net.loadAmps,
        letGoVolts,
      });
    }
  }

  const sources = new Map<string, SourceDevice>();
  for (const source of board.sources) sources.set(source.id, addSource(source, nodeOf, devices));
  const button = board.button ? resistor('button', nodeOf(board.button.net), 0, 0) : null;

  return {
    circuit: { nodes: nets.length + 1, devices },
    nodeOf,
    nets,
    sources,
    button,
    regulators,
    drivers,
  };
}

export const driverKey = (chip: Chip, pin: string): string => `${chip.ref} ${pin}`;

function highPin(behaviour: Follower | Sequence): string | null {
  if (behaviour.drive === 'open-drain') return null;
  return behaviour.high;
}

function addRegulator(
  chip: Chip,
  behaviour: Regulator,
  pin: (name: string) => number,
  devices: Device[],
): RegulatorDevice {
  const name = `${chip.ref} ${behaviour.name}`;
  // A load switch is its resistance up to its current limit: it regulates to nothing less than its
  // input.
  const isSwitch = behaviour.pass === 'switch';
  const device: RegulatorDevice = {
    kind: 'regulator',
    name,
    in: pin(behaviour.in),
    out: pin(behaviour.out),
    sense: pin(isSwitch ? behaviour.out : behaviour.sense),
    volts: isSwitch ? 1000 : behaviour.volts,
    ohms: isSwitch ? Math.max(behaviour.outOhms, 0.01) : behaviour.outOhms,
    limitAmps: behaviour.limitAmps,
    pass: behaviour.pass === 'switch' ? 'linear' : behaviour.pass,
    efficiency: behaviour.efficiency,
    dropoutVolts: isSwitch ? 0 : behaviour.dropoutVolts,
    on: false,
  };
  devices.push(device);
  return device;
}

function addDriver(
  chip: Chip,
  out: string,
  high: string | null,
  pin: (name: string) => number,
  drivers: Map<string, PinDriver>,
  resistor: (name: string, a: number, b: number, siemens: number) => ResistorDevice,
): void {
  if (drivers.has(driverKey(chip, out))) return;
  const name = `${chip.ref} ${out}`;
  drivers.set(driverKey(chip, out), {
    high: high === null ? null : resistor(`${name} high`, pin(high), pin(out), 0),
    low: resistor(`${name} low`, pin(out), 0, 0),
  });
}

/** Sets a pin to a level; without a high side, high means released. */
export function setPin(driver: PinDriver, level: 'high' | 'low' | 'release'): void {
  const { high, low } = driver;
  low.siemens = level === 'low' ? 1 / (high === null ? openDrainOhms : outputOhms) : 0;
  if (high?.kind === 'resistor') high.siemens = level === 'high' ? 1 / outputOhms : 0;
  if (high?.kind === 'source') high.on = level === 'high';
}

function addSource(
  source: Source,
  nodeOf: (net: NetId) => number,
  devices: Device[],
): SourceDevice {
  const device: SourceDevice = {
    kind: 'source',
    name: source.title,
    node: nodeOf(source.net),
    base: 0,
    volts: source.kind === 'usb-c' ? 5 : source.volts,
    ohms: source.seriesOhms,
    maxAmps: source.limitAmps,
    // Only cells take current back.
    minAmps: source.kind === 'battery' || source.kind === 'coin-cell' ? -source.limitAmps : 0,
    on: false,
  };
  devices.push(device);
  return device;
}
