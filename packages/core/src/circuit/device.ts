import type { JunctionModel } from './junction.ts';

/** A node of a circuit; 0 is ground. */
export type Node = number;

/**
 * What a circuit is made of. Fields that a play changes (siemens, on, volts) are written over in
 * place between solves; nodes never change.
 */
export type Device =
  | ResistorDevice
  | SourceDevice
  | LoadDevice
  | DiodeDevice
  | FetDevice
  | BipolarDevice
  | RegulatorDevice;

interface Named {
  /** Said back when the device did not settle. */
  name: string;
}

/**
 * Any ohmic path: resistors, coils, fuses, closed switches, driven pins. 0 siemens is open. One that
 * stands against ground may be moved to another node between solves.
 */
export interface ResistorDevice extends Named {
  kind: 'resistor';
  a: Node;
  b: Node;
  siemens: number;
}

/**
 * Volts behind a series resistance, with the most it gives and takes (adapter, battery, supply). One
 * that stands against ground may be moved to another node between solves: a meter's lead.
 */
export interface SourceDevice extends Named {
  kind: 'source';
  node: Node;
  /** The node its volts stand on; 0 for most, a supply for a charge pump. */
  base: Node;
  /**
   * Its amps come from ground, not out of `base`: a driver's pump lifts its gate above a node, and has
   * a supply of its own.
   */
  ownFeed?: boolean;
  volts: number;
  ohms: number;
  /** Most amps out; the least is negative for what can be charged. */
  maxAmps: number;
  minAmps: number;
  on: boolean;
}

/** A current sink that lets go at low volts: amps above `letGoVolts`, ohmic below. */
export interface LoadDevice extends Named {
  kind: 'load';
  node: Node;
  amps: number;
  letGoVolts: number;
}

/** Junction from anode to cathode; with breakdown volts it is a zener or TVS. */
export interface DiodeDevice extends Named {
  kind: 'diode';
  anode: Node;
  cathode: Node;
  model: JunctionModel;
  breakdownVolts: number | null;
}

/** Level 1 MOSFET channel (Shichman-Hodges), symmetric; its body diode is a device of its own. */
export interface FetDevice extends Named {
  kind: 'fet';
  polarity: 'n' | 'p';
  gate: Node;
  drain: Node;
  source: Node;
  thresholdVolts: number;
  /** KP W / L in amps per volt squared. */
  beta: number;
}

/** Bipolar transistor, Ebers-Moll. */
export interface BipolarDevice extends Named {
  kind: 'bipolar';
  polarity: 'npn' | 'pnp';
  base: Node;
  collector: Node;
  emitter: Node;
  saturationAmps: number;
  forwardBeta: number;
  reverseBeta: number;
}

/** A regulator's pass element: gives current from `in` to `out` to hold `sense` at `volts`. */
export interface RegulatorDevice extends Named {
  kind: 'regulator';
  in: Node;
  out: Node;
  sense: Node;
  volts: number;
  ohms: number;
  limitAmps: number;
  pass: 'switching' | 'linear' | 'boost';
  efficiency: number;
  dropoutVolts: number;
  on: boolean;
}

export interface Circuit {
  /** Ground included: nodes run from 0 to nodes - 1. */
  nodes: number;
  devices: Device[];
}
