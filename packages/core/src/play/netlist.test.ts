import { describe, expect, it } from 'vitest';
import type { Board, NetId } from '../board/index.ts';
import { listFaults, faultName, parseFault } from '../faults/index.ts';
import { plainBoard } from '@jiko/testing';
import { usualMeter } from '../readings/index.ts';
import { playBoard, usualSetup, type Play } from './index.ts';
import { readCold } from '../cold/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { wholeDictionary } from '../dictionary/index.ts';

// What a sheet becomes as a circuit and in what order its stages stand, held against sums by hand. 40 ohms of an output and 15 of an open
// drain are what the models say of themselves (part-models.ts), common practice, no source.

const small = (nets: string[], parts: string[], chips: string[], stages: string[] = []): Board =>
  plainBoard(
    [
      'format: jiko-board/1\nid: small\ntitle: Small\ndepth: full\nnets:\n  GND: { kind: ground }',
      '  VIN: { kind: rail, volts: 5 }',
      ...nets.map((line) => `  ${line}`),
      'parts:',
      ...parts.map((line) => `  ${line}`),
      ...(chips.length > 0 ? ['chips:', ...chips.map((line) => `  ${line}`)] : []),
      'stages:\n  in: { title: Input, gives: [VIN] }',
      ...stages.map((line) => `  ${line}`),
      'sources:\n  adapter: { kind: adapter, title: Adapter, net: VIN, volts: 5, limit: 3 }',
      'goals: {}',
    ].join('\n'),
  );
const volts = (play: Play, net: string): number =>
  play.phases.get('standby')?.volts.get(net as NetId) ?? NaN;

/** An output of a chip at 5 V that is high or low, and what hangs on it. */
const output = (how: string, hangs: string[]): number =>
  volts(
    playBoard(
      ...((board: Board) => [board, usualSetup(board)] as const)(
        small(['OUT: {}', 'OK: {}'], hangs, [
          `U1:\n    kind: generic\n    pins: { VCC: VIN, OUT: OUT, OK: OK, GND: GND }\n    does:\n      - { do: follower, out: OUT, supply: [VCC > 2], ${how} }`,
        ]),
      ),
    ),
    'OUT',
  );
const down = 'R1: { kind: resistor, pins: [OUT, GND], value: 160 }';
const up = 'R1: { kind: resistor, pins: [VIN, OUT], value: 160 }';
const untrue = 'needs: [VCC > 9]';

describe('an output of a chip', () => {
  it('pushes through 40 ohms and pulls through as many', () => {
    // 5 V x 160 / 200, and 5 V x 40 / 200.
    expect(output('drive: push-pull, high: VCC', [down])).toBeCloseTo(4, 2);
    expect(output(`drive: push-pull, high: VCC, ${untrue}`, [up])).toBeCloseTo(1, 2);
  });

  it('with an open drain pulls through 15 ohms and pushes nothing, whatever it could push from', () => {
    // 5 V x 15 / 175.
    expect(output(`drive: open-drain, high: VCC, ${untrue}`, [up])).toBeCloseTo(0.4286, 2);
    expect(output('drive: open-drain, high: VCC', [down])).toBeCloseTo(0, 3);
    expect(output('drive: open-drain, high: VCC', [up])).toBeCloseTo(5, 2);
  });
});

describe('stages that come at the same moment', () => {
  it('stand in the order of the current, by the nearest net each gives', () => {
    const chain = [
      'F1: { kind: fuse, pins: [VIN, A] }',
      'F2: { kind: fuse, pins: [A, B] }',
      'F3: { kind: fuse, pins: [B, C] }',
    ];
    const nets = ['A', 'B', 'C'].map((name) => `${name}: { kind: rail, volts: 5 }`);
    const order = (...stages: string[]): string[] =>
      studyHealthyBoard(small(nets, chain, [], stages)).stages.map(({ stage }) => stage.id);
    const one = 'one: { title: One, gives: [C, A] }';
    const two = 'two: { title: Two, gives: [B] }';
    expect(order(two, one)).toEqual(['in', 'one', 'two']);
    expect(order(one, two)).toEqual(['in', 'one', 'two']);
  });
});

describe('a transistor on the way', () => {
  const board = small(
    ['BASE: { kind: analog }', 'COLL: { kind: analog }'],
    [
      'R1: { kind: resistor, pins: [VIN, BASE], value: 4k7 }',
      'R4: { kind: resistor, pins: [BASE, GND], value: 4k7 }',
      'R2: { kind: resistor, pins: [VIN, COLL], value: 1k }',
      'R3: { kind: resistor, pins: [COLL, GND], value: 10k }',
      'Q1: { kind: npn, pins: { B: BASE, C: COLL, E: GND } }',
    ],
    [],
  );

  it('conducts with its base fed, and not with it held low', () => {
    expect(volts(playBoard(board, usualSetup(board)), 'COLL')).toBeLessThan(0.3);
    expect(volts(playBoard(board, usualSetup(board)), 'BASE')).toBeCloseTo(0.7, 1);
    const held = parseFault(board, 'BASE:short');
    if (!held.ok) throw new Error('no such fault');
    const dictionary = wholeDictionary(board, usualSetup(board));
    const row =
      dictionary.rowOf[
        dictionary.faults.findIndex((one) => faultName(one) === faultName(held.value))
      ]!;
    const at = row * 4 * dictionary.nets.length + dictionary.nets.indexOf('COLL' as NetId);
    // 5 V through 1k over 10k.
    expect(dictionary.volts[at]).toBeCloseTo(4.545, 2);
  });

  it('reads cold under each of its faults as on the board built with it', () => {
    const setup = usualSetup(board);
    const dictionary = wholeDictionary(board, setup);
    const width = dictionary.nets.length;
    const own = listFaults(board).filter((one) => 'part' in one && one.part === 'Q1');
    expect(own.length).toBeGreaterThan(3);
    for (const fault of own) {
      const row =
        dictionary.rowOf[
          dictionary.faults.findIndex((one) => faultName(one) === faultName(fault))
        ]!;
      const { ohms, diode } = readCold(board, setup, [fault], usualMeter);
      dictionary.nets.forEach((net, place) => {
        // Close to the meter's own volts a leak that moves a net by a twentieth goes unseen.
        const near = (quick: number, slow: number): boolean =>
          quick === slow || Math.abs(quick - slow) <= 0.004 + 0.06 * Math.abs(slow);
        const read = [
          dictionary.ohms[row * width + place]!,
          dictionary.diode[row * width + place]!,
        ];
        expect([faultName(fault), net, near(read[0]!, ohms[place]!)]).toEqual([
          faultName(fault),
          net,
          true,
        ]);
        expect([faultName(fault), net, near(read[1]!, diode[place]!)]).toEqual([
          faultName(fault),
          net,
          true,
        ]);
      });
    }
    // Black on the collector: up R4, and through the junction from base to collector.
    const [healthy, open] = [null, 'Q1 open'].map((name) => {
      const at = dictionary.faults.findIndex((one) => faultName(one) === name);
      const row = name === null ? 0 : dictionary.rowOf[at]!;
      return dictionary.diode[row * width + dictionary.nets.indexOf('COLL' as NetId)]!;
    });
    expect(healthy).toBeLessThan(1.9);
    expect(open).toBe(Infinity);
  });
});
