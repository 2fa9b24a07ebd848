import type { Device, Node } from '../device.ts';
import { makeBipolars } from './bipolars.ts';
import { makeDiodes } from './diodes.ts';
import { makeFets } from './fets.ts';
import type { Group, KneeGroup, Placed, SlotOf, Stamping } from './group.ts';
import { makeLoads, type LoadGroup } from './loads.ts';
import { makeRegulators } from './regulators.ts';
import { makeResistors } from './resistors.ts';
import { makeSources } from './sources.ts';

export type { Group, KneeGroup, Stamping };

/** A circuit's devices, sorted by kind into groups. */
export interface Groups {
  /** Stamped once per solve. */
  resistors: Group;
  /** Stamped in every iteration. */
  curved: readonly Group[];
  knees: readonly KneeGroup[];
  loads: LoadGroup;
  all: readonly Group[];
}

export function groupDevices(devices: readonly Device[], slot: SlotOf): Groups {
  const placed: { [K in Device['kind']]: Placed<Extract<Device, { kind: K }>>[] } = {
    resistor: [],
    source: [],
    load: [],
    diode: [],
    fet: [],
    bipolar: [],
    regulator: [],
  };
  for (let index = 0; index < devices.length; index++) {
    const device = devices[index]!;
    (placed[device.kind] as Placed<Device>[]).push({ device, index });
  }
  const resistors = makeResistors(placed.resistor, slot);
  const sources = makeSources(placed.source, slot);
  const regulators = makeRegulators(placed.regulator, slot);
  const loads = makeLoads(placed.load, slot);
  const curved = [
    sources,
    loads,
    makeDiodes(placed.diode, slot),
    makeFets(placed.fet, slot),
    makeBipolars(placed.bipolar, slot),
    regulators,
  ];
  return { resistors, curved, knees: [sources, regulators], loads, all: [resistors, ...curved] };
}

export function nodesOf(device: Device): Node[] {
  switch (device.kind) {
    case 'resistor':
      return [device.a, device.b];
    case 'source':
      return [device.node, device.base];
    case 'load':
      return [device.node];
    case 'diode':
      return [device.anode, device.cathode];
    case 'fet':
      return [device.gate, device.drain, device.source];
    case 'bipolar':
      return [device.base, device.collector, device.emitter];
    case 'regulator':
      return [device.in, device.out, device.sense];
  }
}
