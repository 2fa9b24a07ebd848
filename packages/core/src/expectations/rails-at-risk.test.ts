import { describe, expect, it } from 'vitest';
import { type Board, type GoalId, type NetId, type PartRef, joinedTo } from '../board/index.ts';
import { plainBoard } from '@jiko/testing';
import { chargeAt } from './across-part.ts';
import { feedsBackwards, playBoard, usualSetup } from '../play/index.ts';
import { codeRails, goalNets, riskyStages } from './goal-nets.ts';

// Which rails the processor hangs on, which stages could burn them, what a rail fed from outside
// drives: they decide whether a source may be connected. On boards small enough to see at a glance.

interface Sizes {
  /** Volts of the feed of the memory converter. */
  feed?: string;
  memory?: string;
  /** Title and volts of one more rail. */
  rail?: [name: string, volts: string];
  /** How the memory rail is made. */
  kind?: string;
}

const boardOf = ({
  feed = '12',
  memory = '1.2',
  rail = ['5V_USB', '5'],
  kind = 'buck',
}: Sizes = {}): Board =>
  plainBoard(`format: jiko-board/1
id: risk
title: Risk
depth: full
nets:
  GND: { kind: ground }
  JACK: { kind: rail, volts: ${feed} }
  MAIN: { kind: rail, volts: ${feed} }
  SW_M: { kind: switch }
  1V2_MEM: { kind: rail, volts: ${memory} }
  ${rail[0]}: { kind: rail, volts: ${rail[1]} }
  EN: { kind: signal }
  OUT: { kind: signal }
parts:
  F1: { kind: fuse, pins: [JACK, MAIN] }
  L1: { kind: coil, pins: [SW_M, 1V2_MEM] }
  R1: { kind: resistor, pins: [MAIN, EN], value: 100k }
  R2: { kind: resistor, pins: [MAIN, OUT], value: 10k }
chips:
  U1: { kind: ${kind}, volts: ${memory}, limit: 6, pins: { VIN: MAIN, EN: EN, ${kind === 'buck' ? 'SW: SW_M, SENSE: 1V2_MEM' : 'OUT: 1V2_MEM'}, GND: GND } }
stages:
  in: { title: Input, gives: [MAIN] }
  mem: { title: Memory, gives: [1V2_MEM], feed: MAIN, enable: EN > 1.2 }
sources:
  adapter: { kind: adapter, title: Adapter, net: JACK, volts: ${feed}, limit: 3 }
goals:
  powers: { title: powers, reached: [1V2_MEM > 1] }
`);
const ids = (nets: Iterable<NetId>): string[] => [...nets].map(String).sort();

describe('rails without which no code runs', () => {
  it.each([
    ['VCORE', '0.9', true],
    ['CPU_GT', '0.9', true],
    ['VCCSA', '1.05', true],
    ['VCC_IO', '1.05', true],
    ['VDDQ', '1.5', true],
    ['0V6_VTT', '0.6', true],
    ['2V5_VPP', '2.5', true],
    // The name alone is not enough: what is above 2.6 V feeds something else.
    ['MEM_3V3', '2.59', true],
    ['MEM_3V3', '2.6', false],
    ['VCC_IO', '3.3', false],
    // And a rail is known by the end of a word, not by letters within one.
    ['CORELESS', '1', false],
    ['1V8_RUN', '1.8', false],
  ])('%s at %s V: %s', (name, volts, isOne) => {
    const rails = ids(codeRails(boardOf({ rail: [name, volts] })));
    expect(rails).toEqual(isOne ? ['1V2_MEM', name].sort() : ['1V2_MEM']);
  });
});

describe('stages that could put their feed on such a rail', () => {
  it('are named with all that is read through them', () => {
    expect(riskyStages(boardOf())).toEqual([
      { chip: 'U1', feed: 'MAIN', output: 'SW_M', rail: '1V2_MEM', feedVolts: 12 },
    ]);
  });

  it.each([
    // One and a half times the rail's own volts is the edge.
    ['1.81', 1],
    ['1.79', 0],
    ['1.2', 0],
  ])('fed from %s V: %i', (feed, count) => {
    expect(riskyStages(boardOf({ feed }))).toHaveLength(count);
  });

  it('a linear regulator is none, and neither is a rail no code hangs on', () => {
    expect(riskyStages(boardOf({ kind: 'ldo' }))).toEqual([]);
    const renamed = boardOf();
    const nets = renamed.nets.map((net) =>
      net.id === '1V2_MEM' ? { ...net, volts: 2.7, rangeVolts: null } : net,
    );
    expect(riskyStages({ ...renamed, nets })).toEqual([]);
    // Nor a chip that is drawn but not fitted.
    const chips = renamed.chips.map((chip) => ({ ...chip, fitted: false }));
    expect(riskyStages({ ...renamed, chips })).toEqual([]);
  });
});

describe('what one wire joins', () => {
  const board = boardOf();
  it('goes over fuses and coils, not over resistors, and stops at the part left out', () => {
    expect(ids(joinedTo(board, ['JACK' as NetId]))).toEqual(['JACK', 'MAIN']);
    expect(ids(joinedTo(board, ['MAIN' as NetId], 'F1'))).toEqual(['MAIN']);
    expect(ids(joinedTo(board, ['SW_M' as NetId, undefined]))).toEqual(['1V2_MEM', 'SW_M']);
  });
});

describe('what a goal needs', () => {
  it('is what stages on its way give, as far as the healthy board has it', () => {
    const board = boardOf();
    const needs = goalNets(board, playBoard(board, usualSetup(board)));
    expect(ids(needs['powers' as GoalId]!)).toEqual(['1V2_MEM', 'MAIN']);
  });
});

describe('a rail fed from outside', () => {
  const switched = (extra: string): Board =>
    plainBoard(`format: jiko-board/1
id: back
title: Back
depth: full
nets:
  GND: { kind: ground }
  JACK: { kind: rail, volts: 5 }
  5V: { kind: rail, volts: 5 }
  3V3: { kind: rail, volts: 3.3 }
  EN: { kind: signal }
parts:
  F1: { kind: fuse, pins: [JACK, 5V] }
  R1: { kind: resistor, pins: [5V, EN], value: 10k }
  R2: { kind: resistor, pins: [5V, GND], value: 1k }
${extra}
chips:
  U1: { kind: ldo, volts: 3.3, limit: 1, pins: { VIN: 5V, EN: EN, OUT: 3V3, GND: GND } }
stages:
  in: { title: Input, gives: [5V] }
  main: { title: Main, gives: [3V3] }
sources:
  adapter: { kind: adapter, title: Adapter, net: JACK, volts: 5, limit: 3 }
goals:
  powers: { title: powers, reached: [3V3 > 3] }
`);
  const drives = (board: Board): boolean =>
    feedsBackwards(board, usualSetup(board), '3V3' as NetId, {
      kind: 'dead',
      part: 'U1' as PartRef,
    });

  it('drives nothing where only a regulator lies between', () => {
    expect(drives(switched(''))).toBe(false);
  });

  it('drives what feeds it where a diode leads back', () => {
    expect(drives(switched('  D1: { kind: diode, pins: { A: 3V3, K: 5V } }'))).toBe(true);
  });

  it.each([
    // Over 1k at 5V from 3.3 V: 0.5 V is the edge, with 5.6k.
    ['5k', true],
    ['6k2', false],
  ])('through %s: %s', (value, isDriven) => {
    const leak = `  R9: { kind: resistor, pins: [3V3, 5V], value: ${value} }`;
    expect(drives(switched(leak))).toBe(isDriven);
  });

  it('a rail whose volts nobody knows is not said to be harmless', () => {
    const board = switched('');
    const nets = board.nets.map((net) => (net.id === '3V3' ? { ...net, volts: null } : net));
    expect(drives({ ...board, nets })).toBe(true);
  });
});

describe('what a charger is set to', () => {
  const charged = plainBoard(`format: jiko-board/1
id: charge
title: Charge
depth: full
nets:
  GND: { kind: ground }
  BUS: { kind: rail, volts: 12 }
  CH: { kind: switch }
  CH_OUT: { kind: rail, volts: 8 }
  BATT: { kind: rail, volts: 7.4 }
  OTHER: { kind: rail, volts: 5 }
  EN: { kind: signal }
parts:
  L1: { kind: coil, pins: [CH, CH_OUT] }
  RS1: { kind: resistor, pins: [CH_OUT, BATT], value: 0.01 }
  R1: { kind: resistor, pins: [BUS, EN], value: 10k }
chips:
  U1:
    kind: charger
    pins: { VIN: BUS, EN: EN, SW: CH, SRN: BATT, GND: GND }
    does:
      - { do: regulator, in: VIN, out: SW, sense: SRN, pass: switching, volts: 8.4, limit: 3, needs: [EN > 1] }
  U2: { kind: buck, volts: 5, limit: 2, pins: { VIN: BUS, EN: EN, OUT: OTHER, GND: GND } }
stages:
  in: { title: Input, gives: [BUS] }
sources:
  adapter: { kind: adapter, title: Adapter, net: BUS, volts: 12, limit: 3 }
  pack: { kind: battery, title: Battery, net: BATT, volts: 7.4, limit: 5 }
goals:
  powers: { title: powers, reached: [BUS > 10] }
`);
  it('holds on the whole line to the battery, and nowhere else', () => {
    const amps = (net: string): number | undefined => chargeAt(charged, net as NetId)?.amps;
    expect([amps('BATT'), amps('CH_OUT'), amps('CH')]).toEqual([3, 3, 3]);
    expect([amps('OTHER'), amps('BUS')]).toEqual([undefined, undefined]);
  });
});
