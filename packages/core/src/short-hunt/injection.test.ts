import { describe, expect, it } from 'vitest';
import type { NetId } from '../board/index.ts';
import { usualSetup } from '../play/index.ts';
import { plainBoard } from '@jiko/testing';
import { planInjection, planLiveFeed, splitSense } from './index.ts';
import { mostPartWatts } from '../safety/index.ts';

// Every number and word that decides about current into a rail, at both sides of its edge, on a board small
// enough to reckon by hand. Wanted settings were worked out by Ohm's law before they were run.

const sheet = (change: (text: string) => string = (text) => text) => {
  const board = plainBoard(
    change(`format: jiko-board/1
id: bench-board
title: Bench board
revision: A
depth: full
nets:
  GND: { kind: ground }
  IN: { kind: rail, volts: 12 }
  A: { kind: rail, volts: 3.3 }
  AJ: { kind: rail, volts: 3.2 }
  PH_A: { kind: switch }
  B: { kind: rail, volts: 3, tolerance: 0.1 % }
  C: { kind: rail, volts: 5, tolerance: 0.1 % }
  L: { kind: rail, volts: 2.5 }
  N: { kind: rail }
  S: { kind: signal }
  P: { kind: rail, range: [0.7, 1.2] }
  PH_P: { kind: switch }
  Q: { kind: rail, volts: 0.9 }
  R: { kind: rail, range: [3, 3.6] }
parts:
  F1: { kind: fuse, pins: [A, AJ] }
  PL1: { kind: coil, pins: [PH_A, A] }
  PL2: { kind: coil, pins: [PH_P, P] }
  RB: { kind: resistor, pins: [A, B], value: 1k }
  RC: { kind: resistor, pins: [A, C], value: 1k }
  RS: { kind: resistor, pins: [S, GND], value: 10k }
  RQ: { kind: resistor, pins: [Q, GND], value: 1k }
  RR: { kind: resistor, pins: [R, GND], value: 1k }
  RN: { kind: resistor, pins: [N, GND], value: 10k }
chips:
  U1: { kind: buck, volts: 3.3, limit: 4, pins: { VIN: IN, SW: PH_A, SENSE: A, GND: GND } }
  U2: { kind: ldo, volts: 2.5, limit: 0.3, pins: { VIN: IN, OUT: L, GND: GND } }
  U4: { kind: ldo, volts: 2.5, limit: 2, pins: { VIN: IN, OUT: L, GND: GND } }
  U3: { kind: cpu-regulator, limit: 30, volts: 0.9, pins: { VIN: IN, SW: PH_P, SENSE: P, GND: GND } }
stages:
  input: { title: Input, gives: [IN] }
sources:
  adapter: { kind: adapter, title: "12 V", net: IN, volts: 12, limit: 3 }
goals:
  up: { title: "is up", phase: standby, reached: ["IN > 10"] }
`),
  );
  return { board, setup: usualSetup(board) };
};
const { board, setup } = sheet();
const net = (id: string): NetId => id as NetId;
const plan = (at: string, ohms: number, asked?: { volts: number; limitAmps: number }) =>
  planInjection(board, setup, net(at), ohms, asked);

describe('the gentlest injection a camera would show', () => {
  // Clearly from 0.096 W on (four times a camera's floor of half a kelvin, 30 K a watt); A is held to 3.2 V
  // by what a fuse joins to it, and to the 4 A of what makes it.
  it.each([
    // 1 A makes 0.5 W.
    [0.5, 1, 1],
    // 1 A makes 0.05 W, 2 A 0.2 W.
    [0.05, 1, 2],
    // 3 A make 0.09 W, 4 A 0.16 W: the most there is.
    [0.01, 1, 4],
    // 1 V makes 0.05 W, 1.5 V 0.1125 W.
    [20, 1.5, 1],
    // 3 V make 0.09 W, 3.2 V 0.1024 W.
    [100, 3.2, 1],
    // 2 V make 0.08 W, 3 V 0.18 W.
    [50, 3, 1],
    // Nothing shows it: the most current there is.
    [1000, 3.2, 1],
  ])('%f Ω: %f V, %f A', (ohms, volts, limitAmps) => {
    const found = plan('A', ohms);
    expect([found.volts, found.limitAmps]).toEqual([volts, limitAmps]);
    expect(found.harms).toEqual([]);
  });

  it('shows what the supply will show, and the heat there', () => {
    // The limit decides: 2 A into 50 mΩ are 0.1 V and 0.2 W.
    expect(plan('A', 0.05)).toMatchObject({ shownAmps: 2, mostVolts: 3.2, mostAmps: 4 });
    expect(plan('A', 0.05).shownVolts).toBeCloseTo(0.1, 9);
    expect(plan('A', 0.05).watts).toBeCloseTo(0.2, 9);
    // The volts decide.
    const leak = plan('A', 20, { volts: 1, limitAmps: 2 });
    expect(leak.shownAmps).toBeCloseTo(0.05, 9);
    expect(leak.shownVolts).toBeCloseTo(1, 9);
    // Leads are never nothing.
    expect(plan('A', 0, { volts: 1, limitAmps: 1 }).watts).toBeCloseTo(0.01, 9);
  });

  it.each([
    ['IN', 3],
    ['A', 4],
    ['L', 1],
    ['N', 5],
  ])('%s bears %f A: what makes it, never less than one nor more than five', (at, amps) => {
    expect(plan(at, 1).mostAmps).toBe(amps);
  });

  it.each([
    ['IN', 12],
    ['A', 3.2],
    ['AJ', 3.2],
    ['P', 0.7],
    // Nobody knows them: what wakes nothing.
    ['N', 1],
  ])('%s bears %f V: the least of what joins it', (at, volts) => {
    expect(plan(at, 1).mostVolts).toBe(volts);
  });
});

describe('what an injection would hurt', () => {
  const harms = (at: string, ohms: number, volts: number, limitAmps: number): string[] =>
    plan(at, ohms, { volts, limitAmps }).harms;

  it('volts above the rail’s own', () => {
    expect(harms('A', 20, 3.2, 1)).toEqual([]);
    expect(harms('A', 20, 3.21, 1)).toEqual([
      '3.21 V is more than A ever has (3.2 V): should the short burn open, all that hangs on it gets them.',
    ]);
  });

  it('amps above what makes it', () => {
    expect(harms('A', 0.1, 1, 4)).toEqual([]);
    expect(harms('A', 0.1, 1, 4.01)).toEqual(['4.01 A is more than what makes A may carry (4 A).']);
  });

  it('more than five watts in one part', () => {
    expect(mostPartWatts).toBe(5);
    // 2.5 V on 1.25 Ω are 5 W; a tenth of a volt more is 5.4 W.
    expect(harms('A', 1.25, 2.5, 4)).toEqual([]);
    expect(harms('A', 1.25, 2.6, 4)).toEqual([
      '5.4 W in one part: it burns, and the board below it.',
    ]);
  });

  it('a signal; a switch node is the rail before its coil', () => {
    expect(harms('S', 20, 1, 1)[0]).toBe('S is a signal: no current is to be driven into it.');
    expect(harms('PH_A', 20, 1, 1)).toEqual([]);
  });

  it('another rail lifted by 0.3 V above what it ever has', () => {
    const lifted = (volts: number): string[] => {
      const other = sheet((text) =>
        text.replace('B: { kind: rail, volts: 3,', `B: { kind: rail, volts: ${volts},`),
      );
      return planInjection(other.board, other.setup, net('A'), 100, { volts: 3.2, limitAmps: 1 })
        .harms;
    };
    // Through a resistor nothing draws from, B comes to the 3.2 V of the supply.
    expect(lifted(2.92)).toEqual([]);
    expect(lifted(2.88)).toEqual(['It lifts B to 3.2 V, which never has more than 2.883 V.']);
  });

  it('a tolerance of a twentieth is taken where none is stated', () => {
    const of = (volts: number): string[] => {
      const other = sheet((text) =>
        text.replace(
          'B: { kind: rail, volts: 3, tolerance: 0.1 % }',
          `B: { kind: rail, volts: ${volts} }`,
        ),
      );
      return planInjection(other.board, other.setup, net('A'), 100, { volts: 3.2, limitAmps: 1 })
        .harms;
    };
    // 2.9 V of 2.762 and a twentieth.
    expect(of(2.78)).toEqual([]);
    expect(of(2.74)).toHaveLength(1);
  });

  it('says what else is reached from three tenths of a volt on, the highest first', () => {
    const reached = (volts: number) => plan('A', 20, { volts, limitAmps: 1 });
    expect(reached(0.29).backwards).toEqual([]);
    expect(
      reached(0.31)
        .backwards.map((one) => one.net)
        .sort(),
    ).toEqual(['B', 'C']);
    expect(reached(1).says.at(-1)).toMatch(
      /^Without the short it would also reach [BC] \(1 V\), [BC] \(1 V\)\.$/,
    );
  });
});

describe('what is said of an injection', () => {
  it.each([
    [0.5, '1 A into 500 mΩ is 500 mW and shows under a camera.'],
    [1, '1 A into 1 Ω is 1 W and shows under a camera.'],
    [
      0.05,
      '1 A into 50 mΩ is 50 mW and may show under a camera; more amps within the limits, or millivolts, tell more.',
    ],
    [
      0.01,
      '1 A into 10 mΩ is 10 mW and is probably not seen: more amps within the limits, or millivolts along the rail.',
    ],
  ])('%f Ω', (ohms, words) => {
    expect(plan('A', ohms, { volts: 1, limitAmps: 1 }).says[0]).toBe(words);
  });

  it('a leak from 200 Ω on is none', () => {
    const leak = '200 Ω is a leak, no short: so little current flows that nothing gets warm.';
    expect(plan('A', 200).says[0]).toBe(leak);
    expect(plan('A', 199).says[0]).not.toMatch(/leak/);
  });

  it('a processor’s rail draws amps when it is whole', () => {
    const words =
      'P feeds a processor: a good one takes amps at these volts and gets warm by itself.';
    expect(plan('P', 0.5).says).toContain(words);
    // By its low volts alone, and by a range alone.
    expect(plan('Q', 0.5).says).toContain(words.replace('P', 'Q'));
    expect(plan('R', 0.5).says).toContain(words.replace('P', 'R'));
    expect(plan('A', 0.5).says.join()).not.toContain('processor');
  });
});

describe('a feed while the board is on', () => {
  it.each([
    [
      'P',
      [
        'P is a rail of the processor: its volts are set while it runs, and nothing else is to feed it.',
      ],
    ],
    [
      'PH_P',
      [
        'PH_P is a rail of the processor: its volts are set while it runs, and nothing else is to feed it.',
      ],
    ],
    [
      'Q',
      [
        'Q is a rail of the processor: its volts are set while it runs, and nothing else is to feed it.',
      ],
    ],
    [
      'R',
      [
        'R is a rail of the processor: its volts are set while it runs, and nothing else is to feed it.',
      ],
    ],
    ['N', ['N is no rail whose volts are known.']],
    ['S', ['S is no rail whose volts are known.']],
    ['L', []],
  ])('%s', (at, harms) => {
    expect(planLiveFeed(board, setup, net(at), { volts: 0, ohms: 1000 }).harms).toEqual(harms);
  });

  it('is none where it lifts another rail, with what makes the fed one off', () => {
    const fed = (volts: number) => {
      const other = sheet((text) =>
        text.replace('B: { kind: rail, volts: 3,', `B: { kind: rail, volts: ${volts},`),
      );
      return planLiveFeed(other.board, other.setup, net('A'), { volts: 0, ohms: 1000 }).harms;
    };
    // A is fed at its own 3.3 V, and B behind the resistor comes to them.
    expect(fed(3.02)).toEqual([]);
    expect(fed(2.98)).toEqual(['It lifts B to 3.3 V.']);
  });
});

describe('a coil that is out', () => {
  it('leaves its regulator without feedback; any other part is no such coil', () => {
    expect(splitSense(board, 'PL1')).toBe(
      'With PL1 out, U1 does not see A any more and drives as hard as it can: do not power the board with PL1 out.',
    );
    for (const ref of ['F1', 'RB', 'U1', 'nowhere']) expect(splitSense(board, ref)).toBeNull();
  });
});
