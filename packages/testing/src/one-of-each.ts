import { plainBoard } from './plain-board.ts';

/** A board small enough to be worked out by hand, with a part of nearly every kind. */
export const oneOfEach = plainBoard(`format: jiko-board/1
id: one-of-each
title: One of each
depth: full
nets:
  GND: { kind: ground }
  JACK: { kind: rail, volts: 12 }
  FUSED: { kind: rail, volts: 12 }
  SWITCHED: { kind: rail, volts: 12 }
  GATE: { kind: analog }
  3V3: { kind: rail, volts: 3.3 }
  PG: { kind: signal }
  EN: { kind: signal }
  TAP: { kind: analog }
  LAMP: { kind: analog }
  ONE_WAY: { kind: analog }
  OUT2: { kind: rail, volts: 3.3 }
parts:
  F1: { kind: fuse, pins: [JACK, FUSED] }
  Q1: { kind: pfet, pins: { S: FUSED, G: GATE, D: SWITCHED } }
  RG1: { kind: resistor, pins: [FUSED, GATE], value: 100k }
  RG2: { kind: resistor, pins: [GATE, GND], value: 100k }
  RL: { kind: resistor, pins: [SWITCHED, GND], value: 1k2 }
  C1: { kind: capacitor, pins: [SWITCHED, GND], value: 10u }
  R1: { kind: resistor, pins: [FUSED, TAP], value: 10k }
  R2: { kind: resistor, pins: [TAP, GND], value: 2k }
  RPG: { kind: resistor, pins: [3V3, PG], value: 10k }
  REN: { kind: resistor, pins: [FUSED, EN], value: 10k }
  REN2: { kind: resistor, pins: [EN, GND], value: 3k3 }
  D1: { kind: schottky, pins: { A: 3V3, K: ONE_WAY } }
  RD: { kind: resistor, pins: [ONE_WAY, GND], value: 1k }
  LED1: { kind: led, pins: { A: LAMP, K: GND } }
  RLED: { kind: resistor, pins: [3V3, LAMP], value: 1k }
  FB1: { kind: ferrite, pins: [3V3, OUT2] }
  RL2: { kind: resistor, pins: [OUT2, GND], value: 33 }
chips:
  U1: { kind: buck, volts: 3.3, limit: 2, pins: { VIN: FUSED, EN: EN, OUT: 3V3, PG: PG, GND: GND } }
stages:
  in: { title: Input, gives: [FUSED] }
  main: { title: Main, gives: [3V3], enable: EN > 1.2 }
sources:
  adapter: { kind: adapter, title: Adapter, net: JACK, volts: 12, limit: 3 }
goals:
  boots: { title: boots, reached: [3V3 > 3] }
`);
