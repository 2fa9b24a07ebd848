import { describe, expect, it } from 'vitest';
import type { NetId } from '../board/index.ts';
import { plainBoard } from '@jiko/testing';
import { mapUpstream } from './index.ts';

// The way back from a net that is wrong: what feeds it, what supplies and enables the chip that
// makes it, what says that it is good. Each answer can be read off the sheet.

const board = plainBoard(`format: jiko-board/1
id: way-back
title: Way back
depth: full
nets:
  GND: { kind: ground }
  JACK: { kind: rail, volts: 19 }
  FUSED: { kind: rail, volts: 19 }
  GATE: { kind: analog }
  VMAIN: { kind: rail, volts: 19 }
  AUX: { kind: rail, volts: 19 }
  OUTER: { kind: rail, volts: 19 }
  3V3_A: { kind: rail, volts: 3.3 }
  5V_A: { kind: rail, volts: 5 }
  SW5: { kind: switch }
  EN5: { kind: signal }
  PG5: { kind: signal }
  KEY#: { kind: signal }
  ASK: { kind: signal }
  GO: { kind: signal }
  HELD: { kind: signal }
  BASE: { kind: signal }
  TAP: { kind: analog }
  SPARE: { kind: rail, volts: 3.3 }
parts:
  F1: { kind: fuse, pins: [JACK, FUSED] }
  Q1: { kind: pfet, pins: { S: FUSED, G: GATE, D: VMAIN } }
  RG: { kind: resistor, pins: [GATE, GND], value: 100k }
  D1: { kind: schottky, pins: { A: VMAIN, K: AUX } }
  D2: { kind: schottky, pins: { A: OUTER, K: VMAIN } }
  L1: { kind: coil, pins: [SW5, 5V_A] }
  RPG: { kind: resistor, pins: [3V3_A, PG5], value: 10k }
  RK: { kind: resistor, pins: [3V3_A, "KEY#"], value: 10k }
  RT1: { kind: resistor, pins: [VMAIN, TAP], value: 100k }
  RT2: { kind: resistor, pins: [TAP, GND], value: 10k }
  RE: { kind: resistor, pins: [VMAIN, EN5], value: 100k }
  RH: { kind: resistor, pins: [3V3_A, HELD], value: 10k }
  Q2: { kind: nfet, pins: { S: GND, G: GO, D: HELD } }
  Q3: { kind: npn, pins: { C: EN5, B: BASE, E: GND } }
  R99: { kind: resistor, pins: [VMAIN, SPARE], value: 0, fitted: false }
chips:
  U1: { kind: ldo, volts: 3.3, limit: 0.2, pins: { VIN: AUX, OUT: 3V3_A, GND: GND } }
  U2: { kind: buck, volts: 5, limit: 6, pins: { VIN: VMAIN, EN: EN5, VCC: 3V3_A, SW: SW5, SENSE: 5V_A, PG: PG5, GND: GND } }
  U3:
    kind: controller
    pins: { VCC: 3V3_A, SW: "KEY#", PG: PG5, ASK: ASK, GO: GO, GND: GND }
    does:
      - do: sequence
        supply: [VCC > 2.8]
        high: VCC
        idle: { ASK: low, GO: low }
        steps:
          - wait: [SW < 0.8]
          - drive: { ASK: high }
          - wait: [PG > 2]
          - drive: { GO: high }
stages:
  in: { title: Input, gives: [VMAIN] }
  always: { title: Always, gives: [3V3_A] }
  five: { title: Five, gives: [5V_A] }
sources:
  adapter: { kind: adapter, title: Adapter, net: JACK, volts: 19, limit: 3 }
button: { net: "KEY#", hold: 0.5, title: Button }
goals:
  powers: { title: powers, reached: [5V_A > 4.5] }
`);
const map = mapUpstream(board, ['JACK' as NetId]);
const told = (net: string): string[] =>
  map
    .of(net as NetId)
    .map(({ net: from, role, via, threshold }) =>
      [role, from, `by ${via}`, threshold ? `${threshold.side} ${threshold.volts}` : '']
        .join(' ')
        .trim(),
    );

describe('what a net needs', () => {
  it.each([
    ['FUSED', ['feed JACK by F1']],
    // Through a FET: what feeds it, and its gate.
    ['VMAIN', ['feed FUSED by Q1', 'gate GATE by Q1']],
    ['AUX', ['feed VMAIN by D1']],
    // A diode gives nothing back to its anode.
    ['OUTER', []],
    ['3V3_A', ['feed AUX by U1']],
    // Behind the coil the regulator is asked: feed, the supply of the chip, its enable.
    [
      '5V_A',
      [
        'feed VMAIN by U2',
        expect.stringMatching(/^supply 3V3_A by U2 above /),
        expect.stringMatching(/^enable EN5 by U2 above /),
      ],
    ],
    // What says that it is good watches it, and needs something to pull it up.
    ['PG5', ['watched 5V_A by U2', 'pull-up 3V3_A by RPG']],
    // A sequence drives a pin after what it waits for until then, and no more.
    ['ASK', ['supply 3V3_A by U3 above 2.8', 'trigger KEY# by U3']],
    ['GO', ['supply 3V3_A by U3 above 2.8', 'power-good PG5 by U3 above 2', 'trigger KEY# by U3']],
    // Nobody drives it: what pulls it up feeds it. A transistor that pulls it down decides by its gate.
    ['EN5', ['feed VMAIN by RE', 'gate BASE by Q3']],
    ['HELD', ['feed 3V3_A by RH', 'gate GO by Q2']],
    ['KEY#', ['feed 3V3_A by RK']],
    ['TAP', ['feed VMAIN by RT1']],
    // Nothing needs the source, and what is not fitted leads nowhere.
    ['JACK', []],
    ['SPARE', []],
  ])('%s', (net, expected) => {
    expect(told(net)).toEqual(expected);
  });

  it('a rail is not fed back through the pull-ups that hang on it', () => {
    expect(told('3V3_A').some((one) => one.includes('RPG') || one.includes('RK'))).toBe(false);
  });
});

describe('steps from the source', () => {
  it.each([
    ['JACK', 0],
    ['FUSED', 1],
    ['VMAIN', 2],
    ['AUX', 3],
    ['3V3_A', 4],
    ['SPARE', Infinity],
    ['GND', Infinity],
  ])('%s: %f', (net, steps) => {
    expect(map.distance(net as NetId)).toBe(steps);
  });

  it('without a source nothing leads anywhere', () => {
    expect(mapUpstream(board, []).distance('VMAIN' as NetId)).toBe(Infinity);
  });
});
