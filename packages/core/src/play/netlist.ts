import type {
  Board,
  Chip,
  Follower,
  NetId,
  Part,
  Regulator,
  Sequence,
  Source,
} from '../board/index.ts';
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
  inputLeakOhms,
  openDrainOhms,
  outputOhms,
  protectionDiode,
  wireOhms,
  signalTransistor,
} from './part-models.ts';
import { Switchboard, type Switch } from './switches.ts';

/** A chip's output pin: what the play switches. */
export interface PinDriver {
  high: Switch | null;
  low: Switch;
  /** What `high` and `low` are set to when the pin is driven that way. */
  highValue: number;
  lowValue: number;
}

/** What the play switches of a source. */
export interface SourceSwitches {
  device: SourceDevice;
  on: Switch;
  volts: Switch;
  limit: Switch;
}

export interface RegulatorSwitches {
  device: RegulatorDevice;
  on: Switch;
  limit: Switch;
}

export interface BoardCircuit {
  circuit: Circuit;
  nodeOf(net: NetId): number;
  nets: readonly NetId[];
  switchboard: Switchboard;
  sources: ReadonlyMap<string, SourceSwitches>;
  button: Switch | null;
  regulators: ReadonlyMap<Regulator, RegulatorSwitches>;
  /** By `ref pin`. */
  drivers: ReadonlyMap<string, PinDriver>;
}

/**
 * Builds the circuit of a board with everything switched off. Names of devices begin with the part
 * or chip they belong to. With `cold`, chips' protection diodes to ground are drawn too: they
 * conduct under a meter's lead only. `reference` is the net of node 0: the one a meter's other lead
 * stands on, where that is not ground; for the unpowered board only.
 */
export function buildCircuit(
  board: Board,
  { cold = false, reference = board.ground }: { cold?: boolean; reference?: NetId } = {},
): BoardCircuit {
  const nets = board.nets.filter((net) => net.id !== reference).map((net) => net.id);
  const nodes = new Map<NetId, number>(nets.map((net, index) => [net, index + 1]));
  nodes.set(reference, 0);
  const ground = nodes.get(board.ground) as number;
  const nodeOf = (net: NetId): number => nodes.get(net) as number;
  const devices: Device[] = [];
  const switchboard = new Switchboard();

  const resistor = (name: string, a: number, b: number, siemens: number): ResistorDevice => {
    const device: ResistorDevice = { kind: 'resistor', name, a, b, siemens };
    devices.push(device);
    return device;
  };

  const on = (part: Part, pin: number | string): number => {
    for (let index = 0; index < part.pins.length; index++) {
      const one = part.pins[index]!;
      if (index === pin || one.name === pin) return nodeOf(one.net);
    }
    throw new Error(`${part.ref} has no pin ${pin}`);
  };
  for (const part of board.parts) {
    if (!part.fitted) continue;
    switch (part.kind) {
      case 'resistor':
        resistor(
          part.ref,
          on(part, 0),
          on(part, 1),
          1 / Math.max(part.value as number, wireOhms.jumper),
        );
        break;
      case 'coil':
      case 'ferrite':
      case 'fuse':
      case 'jumper':
        resistor(part.ref, on(part, 0), on(part, 1), 1 / wireOhms[part.kind]);
        break;
      case 'diode':
      case 'schottky':
      case 'led':
      case 'zener':
      case 'tvs':
        devices.push({
          kind: 'diode',
          name: part.ref,
          anode: on(part, 'A'),
          cathode: on(part, 'K'),
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
          gate: on(part, 'G'),
          drain: on(part, 'D'),
          source: on(part, 'S'),
          ...fetModel(part),
        });
        devices.push({
          kind: 'diode',
          name: `${part.ref} body diode`,
          anode: polarity === 'n' ? on(part, 'S') : on(part, 'D'),
          cathode: polarity === 'n' ? on(part, 'D') : on(part, 'S'),
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
          base: on(part, 'B'),
          collector: on(part, 'C'),
          emitter: on(part, 'E'),
          ...signalTransistor,
        });
        break;
      case 'fan':
        resistor(part.ref, on(part, 0), on(part, 1), 1 / (part.value as number));
        break;
      case 'capacitor':
      case 'crystal':
      case 'connector':
      case 'button':
        break; // open at DC; the button is pressed by the play
    }
  }

  const netById = new Map(board.nets.map((net) => [net.id, net]));
  const regulators = new Map<Regulator, RegulatorSwitches>();
  const drivers = new Map<string, PinDriver>();
  for (const chip of board.chips) {
    if (!chip.fitted) continue;
    const pin = (name: string): number => nodeOf(chip.pins.get(name) as NetId);
    const drive = (out: string, high: string | null): void => {
      if (drivers.has(driverKey(chip, out))) return;
      const name = `${chip.ref} ${out}`;
      const up = high === null ? null : resistor(`${name} high`, pin(high), pin(out), 0);
      const down = resistor(`${name} low`, pin(out), 0, 0);
      drivers.set(driverKey(chip, out), {
        high: up && switchboard.add(`${name} high`, up, 'siemens'),
        low: switchboard.add(`${name} low`, down, 'siemens'),
        highValue: 1 / outputOhms,
        lowValue: 1 / (high === null ? openDrainOhms : outputOhms),
      });
    };
    for (const name of chip.clamped) {
      const clamp = { kind: 'diode', model: protectionDiode, breakdownVolts: null } as const;
      const supply = pin(chip.clamp as string);
      devices.push({ ...clamp, name: clampName(chip, name), anode: pin(name), cathode: supply });
      if (cold)
        devices.push({
          ...clamp,
          name: `${chip.ref} ${name} to ground`,
          anode: ground,
          cathode: pin(name),
        });
    }
    for (const behaviour of chip.behaviours) {
      switch (behaviour.do) {
        case 'regulator':
          regulators.set(behaviour, addRegulator(chip, behaviour, pin, devices, switchboard));
          if (!cold)
            resistor(`${chip.ref} ${behaviour.in} leak`, pin(behaviour.in), 0, 1 / inputLeakOhms);
          if (behaviour.powerGood) drive(behaviour.powerGood, null);
          break;
        case 'follower':
          if (behaviour.liftVolts > 0 && behaviour.high) {
            const pump: SourceDevice = {
              kind: 'source',
              name: `${chip.ref} ${behaviour.out} charge pump`,
              node: pin(behaviour.out),
              base: pin(behaviour.high),
              ownFeed: true,
              volts: behaviour.liftVolts,
              ohms: 20000,
              maxAmps: 0.0002,
              minAmps: 0,
              on: false,
            };
            devices.push(pump);
            const name = `${chip.ref} ${behaviour.out}`;
            const low = resistor(name, pin(behaviour.out), 0, 0);
            drivers.set(driverKey(chip, behaviour.out), {
              high: switchboard.add(pump.name, pump, 'on'),
              low: switchboard.add(name, low, 'siemens'),
              highValue: 1,
              lowValue: 1 / outputOhms,
            });
          } else drive(behaviour.out, highPin(behaviour));
          break;
        case 'sequence':
          for (const out of outputPins(behaviour)) drive(out, highPin(behaviour));
          break;
      }
    }
    for (const draw of chip.draws) {
      const node = pin(draw.pin);
      const nominal = netById.get(chip.pins.get(draw.pin) as NetId)?.volts ?? 2;
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
        name: `${net.id} load`,
        node: nodeOf(net.id),
        amps: net.loadAmps,
        letGoVolts,
      });
    }
  }

  const sources = new Map<string, SourceSwitches>();
  for (const source of board.sources) {
    const device = addSource(source, nodeOf);
    devices.push(device);
    sources.set(source.id, {
      device,
      on: switchboard.add(`${source.id} on`, device, 'on'),
      volts: switchboard.add(`${source.id} volts`, device, 'volts'),
      limit: switchboard.add(`${source.id} limit`, device, 'maxAmps'),
    });
  }
  const pressed = board.button ? resistor('button', nodeOf(board.button.net), 0, 0) : null;

  return {
    circuit: { nodes: nets.length + 1, devices },
    nodeOf,
    nets,
    switchboard,
    sources,
    button: pressed && switchboard.add('button', pressed, 'siemens'),
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
  switchboard: Switchboard,
): RegulatorSwitches {
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
  return {
    device,
    on: switchboard.add(`${name} on`, device, 'on'),
    limit: switchboard.add(`${name} limit`, device, 'limitAmps'),
  };
}

export const clampName = (chip: Chip, pin: string): string => `${chip.ref} ${pin} clamp`;

/** Sets a pin to a level; without a high side, high means released. */
export function setPin(driver: PinDriver, level: 'high' | 'low' | 'release'): void {
  driver.low.set(level === 'low' ? driver.lowValue : 0);
  driver.high?.set(level === 'high' ? driver.highValue : 0);
}

function addSource(source: Source, nodeOf: (net: NetId) => number): SourceDevice {
  return {
    kind: 'source',
    name: source.title,
    node: nodeOf(source.net),
    base: 0,
    volts: source.kind === 'usb-c' ? 5 : (source.idleVolts ?? source.volts),
    ohms: source.seriesOhms,
    maxAmps: source.limitAmps,
    // Only cells take current back.
    minAmps: source.kind === 'battery' || source.kind === 'coin-cell' ? -source.limitAmps : 0,
    on: false,
  };
}
