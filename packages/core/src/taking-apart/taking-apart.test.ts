import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import type { GoalId, NetId } from '../board/index.ts';
import { withFault, type Fault } from '../faults/index.ts';
import { benchSetup, playBoard, shownVolts } from '../play/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainIntake, plainJob, plainReading } from '@jiko/testing';
import type { Phase } from '../readings/index.ts';
import { traceJob } from '../trace/index.ts';
import {
  checkPart,
  explainLowNet,
  settledBy,
  findPin,
  fourQuestions,
  nearPads,
  partsAround,
  pinCountTrouble,
  pinTable,
  proposeJumper,
  rowName,
  wayBack,
  worstSlip,
} from './index.ts';

const board = plainBoard(cairnText);
const setup = benchSetup(board, { source: 'adapter', attached: [] });
const healthy = studyHealthyBoard(board, setup);
const net = (id: string): NetId => id as NetId;

/** Volts at some nets of the board with a fault, and what else was read. */
function traced(
  fault: Fault,
  nets: readonly string[],
  more: unknown[] = [],
  phase: Phase = 'standby',
) {
  const play = playBoard(withFault(board, fault), setup);
  const at = play.phases.get(phase === 'run' ? 'run' : 'standby')!;
  const job = plainJob(
    plainIntake(),
    ...nets.map((id) => ({
      type: 'reading',
      reading: plainReading(id, 'volts', phase, {
        kind: 'number',
        value: Number(shownVolts(at, net(id)).toPrecision(4)),
        trend: 'steady',
      }),
      supersedes: [],
    })),
    ...more,
  );
  return { job, trace: traceJob(healthy, job, 'boots' as GoalId) };
}

const cold = (id: string, value: number) => ({
  type: 'reading',
  reading: plainReading(id, 'ohms', 'cold', { kind: 'number', value, trend: 'steady' }),
  supersedes: [],
});

describe('the four questions', () => {
  const dead: Fault = { kind: 'output-dead', part: 'PU2' as never, pin: 'SW2' };

  it('all unread at first, each with the reading that answers it', () => {
    const { trace } = traced(dead, ['3V3_ALW']);
    const { questions, verdict } = fourQuestions(healthy, trace.readings, net('3V3_ALW'));
    expect(questions.map((one) => one.kind)).toEqual(['feed', 'supply', 'enable', 'output']);
    expect(questions.find((one) => one.kind === 'output')?.nets[0]?.ask).toEqual({
      net: '3V3_ALW',
      mode: 'ohms',
      phase: 'cold',
    });
    expect(verdict).toMatch(/Not decided yet/);
  });

  it('all there and the output free: the stage itself, its pins before heat', () => {
    const { trace } = traced(
      dead,
      ['3V3_ALW', 'VIN', 'VA_MID', 'VA_SNS', 'VMAIN', '5V_LDO', 'EN_3V3'],
      [cold('3V3_ALW', 900)],
    );
    const { questions, verdict, back } = fourQuestions(healthy, trace.readings, net('3V3_ALW'));
    expect(questions.filter((one) => one.answer === 'no')).toEqual([]);
    expect(back).toEqual([]);
    expect(questions.map((one) => [one.kind, one.answer])).toEqual([
      ['feed', 'yes'],
      ['supply', 'yes'],
      ['enable', 'yes'],
      ['output', 'yes'],
    ]);
    expect(verdict).toMatch(/the stage itself.*PU2.*before it is heated/);
  });

  it('an output pulled down comes before all else', () => {
    const { trace } = traced(dead, ['3V3_ALW', 'VMAIN'], [cold('3V3_ALW', 0.4)]);
    const { questions, verdict } = fourQuestions(healthy, trace.readings, net('3V3_ALW'));
    expect(questions.at(-1)).toMatchObject({ kind: 'output', answer: 'no' });
    expect(verdict).toMatch(/pulled down: the short comes first/);
  });

  it('a missing enable sends back up its path, and the way is kept', () => {
    const broken: Fault = { kind: 'output-dead', part: 'PU2' as never, pin: 'LDO5' };
    const { trace } = traced(broken, ['3V3_ALW', 'EN_3V3', '5V_LDO', 'VMAIN']);
    const { back } = fourQuestions(healthy, trace.readings, net('3V3_ALW'));
    expect(back.length).toBeGreaterThan(0);
    const way = wayBack(healthy, trace.readings, net('3V3_ALW')).map((one) => one.net);
    expect(way[0]).toBe('3V3_ALW');
    expect(way.at(-1)).toBe('5V_LDO');
    expect(way).not.toContain('VMAIN');
  });
});

describe('an output of which nothing is known', () => {
  const beckBoard = plainBoard(beckText);
  const beck = studyHealthyBoard(
    beckBoard,
    benchSetup(beckBoard, { source: 'adapter', attached: [] }),
  );
  // What makes it gives 8 A at 1.2 V: below 0.15 Ω it cannot hold it.
  it.each([
    [5000, 'yes'],
    [16, 'yes'],
    [14, 'open'],
    [0.1, 'no'],
  ])('at %d Ω is free: %s', (ohms, answer) => {
    const job = plainJob(plainIntake({ board: 'beck-mini' }), cold('1V2_MEM', ohms));
    const { readings } = traceJob(beck, job, 'boots' as GoalId);
    expect(fourQuestions(beck, readings, net('1V2_MEM')).questions.at(-1)?.answer).toBe(answer);
  });
});

describe('a low divider or gate', () => {
  const gate = plainBoard(`format: jiko-board/1
id: gate
title: A gate through 100k
depth: full
nets:
  GND: { kind: ground }
  V12: { kind: rail, volts: 12 }
  G: { kind: analog }
parts:
  R1: { kind: resistor, pins: [V12, G], value: 100k }
  Q1: { kind: nfet, pins: { G: G, D: V12, S: GND } }
sources:
  bench: { kind: bench, title: Bench, net: V12, volts: 12, limit: 1 }
stages: {}
goals: {}
`);

  it('4.2 V at a gate fed through 100k from 12 V: 78 µA flow, or the 100k has gone to megohms', () => {
    const found = explainLowNet(gate, net('G'), 4.2, () => 12, 10e6)!;
    // (12 - 4.2) / 100k = 78 µA, of which 0.42 µA go into the meter's own 10 MΩ.
    expect(found.expected).toBeCloseTo((12 * 10e6) / 10.1e6, 3);
    const drawn = found.explains.find((one) => one.ref === null)!;
    expect(drawn.text).toMatch(/what hangs on G draws 78 .A/);
    const high = found.explains.find((one) => one.ref === 'R1')!;
    // 7.8 V at 0.42 µA.
    expect(high.ohms! / 1e6).toBeCloseTo(7.8 / 0.42, 1);
    expect(high.test).toMatch(/Source off/);
  });

  it('cold ohms settle it: a leak that draws just that, none, and a resistor that is whole', () => {
    const low = explainLowNet(gate, net('G'), 4.2, () => 12, 10e6)!;
    const texts = (toGround: number | null, across: number | null = null): string[] =>
      settledBy(low, { toGround, across: () => across }).explains.map((one) => one.text);
    // 4.2 V at 78 µA: 54 kΩ would draw it.
    expect(texts(54_000)[0]).toBe('54 kΩ to ground explains 4.2 V: something on G leaks');
    expect(texts(54_000 * 1.5)[0]).toContain('explains');
    expect(texts(54_000 * 1.7).join()).not.toContain('explains');
    expect(texts(54_000 * 1.7).join()).toContain('draws');
    expect(texts(54_000 / 1.7).join()).not.toContain('explains');
    expect(texts(54_000 * 3.2).join()).not.toContain('draws');
    expect(texts(Infinity).join()).not.toContain('draws');
    // R1 read from end to end: whole, it has not gone to megohms.
    expect(texts(null, 41_000).join()).not.toContain('R1 (');
    expect(texts(null, 5_000_000).join()).toContain('R1 (');
    expect(texts(null)).toEqual(low.explains.map((one) => one.text));
  });

  it('a divider: either leg alone is solved for (Ohm’s law, by hand)', () => {
    // Without a meter: 12 V over 100k and 100k is 6 V; 4 V needs 200k above or 50k below.
    const divided = plainBoard(
      `format: jiko-board/1
id: divider
title: Divider
depth: full
nets:
  GND: { kind: ground }
  V12: { kind: rail, volts: 12 }
  M: { kind: analog }
parts:
  R1: { kind: resistor, pins: [V12, M], value: 100k }
  R2: { kind: resistor, pins: [M, GND], value: 100k }
sources:
  bench: { kind: bench, title: Bench, net: V12, volts: 12, limit: 1 }
stages: {}
goals: {}
`,
    );
    const { explains, expected } = explainLowNet(divided, net('M'), 4, () => 12, 1e15)!;
    expect(expected).toBeCloseTo(6, 6);
    expect(explains.find((one) => one.ref === 'R1')!.ohms).toBeCloseTo(200e3, -1);
    expect(explains.find((one) => one.ref === 'R2')!.ohms).toBeCloseTo(50e3, -1);
    expect(explains.some((one) => /V12 behind R1 has only 8 V/.test(one.text))).toBe(true);
    // Too high: the lower leg open, or something feeds it.
    const high = explainLowNet(divided, net('M'), 12, () => 12, 1e15)!;
    expect(high.explains.find((one) => one.ref === 'R2')!.ohms).toBe(Infinity);
    expect(high.explains.some((one) => /gives M/.test(one.text))).toBe(true);
  });

  it('a net no resistor sets is not explained', () => {
    expect(explainLowNet(board, net('PH_3V3'), 0, () => null, 10e6)).toBeNull();
  });
});

describe('pins', () => {
  it('each has what it is for', () => {
    const rows = pinTable(healthy, [], 'PU2', 'volts', 'standby');
    const role = (pin: string) => rows.find((one) => one.pin === pin)?.role;
    expect(role('VIN')).toBe('feed');
    expect(role('EN2')).toBe('enable');
    expect(role('SW2')).toBe('switch node');
    expect(role('VO2')).toBe('feedback');
    expect(role('PG1')).toBe('power-good');
    expect(role('GND')).toBe('ground');
    expect(role('LDO5')).toBe('output');
    const charger = pinTable(healthy, [], 'PU1', 'volts', 'standby');
    expect(charger.find((one) => one.pin === 'ACDRV')?.role).toBe('gate drive');
    expect(charger.find((one) => one.pin === 'SCL')?.role).toBe('communication');
  });

  it('cold, a ground pin is to read short and a supply pin is not', () => {
    const rows = pinTable(healthy, [], 'PU2', 'ohms', 'cold');
    expect(rows.find((one) => one.pin === 'GND')?.expected).toBe('joined to ground');
    const supply = rows.find((one) => one.pin === 'VIN')!.expectation;
    expect(supply.kind === 'value' && supply.low > 100).toBe(true);
  });

  it('a pin that differs from its net is said to', () => {
    const at = (part: string | null, pin: string | null, value: number) => ({
      type: 'reading',
      reading: {
        ...plainReading('EN_3V3', 'volts', 'standby', { kind: 'number', value, trend: 'steady' }),
        at: { net: 'EN_3V3', part, pin },
      },
      supersedes: [],
    });
    const job = plainJob(plainIntake(), at('R1', '1', 3.3), at('PU2', 'EN2', 0.1));
    const { readings } = traceJob(healthy, job, 'boots' as GoalId);
    const row = pinTable(healthy, readings, 'PU2', 'volts', 'standby').find(
      (one) => one.pin === 'EN2',
    )!;
    expect(row.atPin?.reading.value).toMatchObject({ value: 0.1 });
    expect(row.atNet?.reading.value).toMatchObject({ value: 3.3 });
    expect(row.differs).toMatch(/joint or the trace/);
  });
});

describe('finding a pin', () => {
  const words = (...all: Parameters<typeof findPin>): string => {
    const one = findPin(...all);
    return 'found' in one ? one.found.words : one.trouble;
  };

  // JEDEC MS-012 and MS-026: pin 1 at the top left, counted against the clock, seen from above.
  it.each([
    ['SOIC', 8, '1', 0, 'left side, 1st from the top'],
    ['SOIC', 8, '4', 0, 'left side, 1st from the bottom'],
    ['SOIC', 8, '5', 0, 'right side, 1st from the bottom'],
    ['SOIC', 8, '8', 0, 'right side, 1st from the top'],
    ['SOIC', 8, '1', 90, 'top side, 1st from the right'],
    ['SOIC', 8, '1', 180, 'right side, 1st from the bottom'],
    ['QFP', 48, '1', 0, 'left side, 1st from the top'],
    ['QFP', 48, '13', 0, 'bottom side, 1st from the left'],
    ['QFP', 48, '25', 0, 'right side, 1st from the bottom'],
    ['QFP', 48, '37', 0, 'top side, 1st from the right'],
    ['QFP', 48, '48', 0, 'top side, 1st from the left'],
    ['QFN', 16, '7', 0, 'bottom side, 2nd from the right'],
    ['QFN', 16, '3', 270, 'bottom side, 2nd from the right'],
  ] as const)('%s with %d pins, pin %s, turned %d: %s', (pack, pins, pin, turn, said) => {
    expect(words(pack, pins, pin, turn)).toBe(said);
  });

  it('names the pins a slip would touch', () => {
    const one = findPin('SOIC', 8, '1', 0);
    expect('found' in one && one.found.beside).toEqual(['8', '2']);
  });

  it('rows of a ball grid leave out I, O, Q, S, X and Z (JESD95-1)', () => {
    expect([0, 7, 8, 13, 14, 15, 19, 20].map(rowName)).toEqual([
      'A',
      'H',
      'J',
      'P',
      'R',
      'T',
      'Y',
      'AA',
    ]);
    expect(words('BGA', 100, 'B3', 0)).toMatch(/^B3: 3 from the left, 2 from the top/);
    expect(words('BGA', 100, 'I3', 0)).toMatch(/No ball/);
  });

  it('says what a package cannot have', () => {
    expect(pinCountTrouble('SOIC', 7)).toMatch(/even/);
    expect(pinCountTrouble('QFN', 18)).toMatch(/four sides/);
    expect(pinCountTrouble('BGA', 99)).toMatch(/square/);
    expect(words('QFP', 48, '49', 0)).toBe('No pin 49: 1 to 48.');
  });
});

describe('probing beside a chip', () => {
  const volts = (id: NetId): number =>
    ({ VMAIN: 19.5, '3V3_ALW': 3.3 } as Record<string, number>)[id] ?? 0;

  it('the nearest large pad of the net comes first, gone ones never', () => {
    const pads = nearPads(board, 'PU2', net('3V3_ALW'), volts);
    expect(['PL1', 'C13']).toContain(pads[0]?.ref);
    expect(
      nearPads(board, 'PU2', net('3V3_ALW'), volts, ['PL1', 'C13']).map((one) => one.ref),
    ).not.toContain('PL1');
  });

  it.each([
    ['3V3_ALW', 'VMAIN', true],
    ['VMAIN', 'GND', false],
  ])('a slip from %s to %s', (a, b, isHarmful) => {
    expect(worstSlip(board, net(a), [net(b)], volts)?.isHarmful).toBe(isHarmful);
  });
});

describe('checks of parts', () => {
  it('a fuse from end to end; a resistor with what lies beside it; a FET both ways', () => {
    expect(checkPart(healthy, 'F1')?.steps[0]?.good).toBe('below 2 Ω with the leads');
    const pull = checkPart(healthy, 'R2')!;
    expect(pull.steps[0]).toMatchObject({ mode: 'ohms', at: { part: 'R2' } });
    expect(pull.notes.join(' ')).toMatch(/beside it/);
    const fet = checkPart(healthy, 'PQ1')!;
    expect(fet.notes.join(' ')).toMatch(/P-channel: on with its gate well below its source/);
    expect(fet.steps.map((one) => one.mode)).toEqual(['ohms', 'diode', 'diode', 'ohms']);
    expect(fet.caution).toMatch(/Source off, battery unplugged/);
    expect(checkPart(healthy, 'nobody')).toBeNull();
  });

  it('a jumper carries what the rail carries with five times room', () => {
    const wire = proposeJumper(board, net('3V3_ALW'), 'PL1', 'C13');
    expect(wire.amps).toBe(8);
    // Preece: 80 d^1.5 melts; a fifth of it is 8 A at 0.63 mm, and the next gauge is 22 (0.644 mm).
    expect(wire.gauge).toBe(22);
    expect(proposeJumper(board, net('EN_3V3'), 'R1', 'PU2').gauge).toBe(40);
  });

  it('the parts around a stage are ticked off, and a missing one is a finding', () => {
    const before = partsAround(healthy, plainJob(plainIntake()), net('3V3_ALW'));
    expect(before.map((one) => one.ref)).toEqual(
      expect.arrayContaining(['PU2', 'PL1', 'C13', 'C12']),
    );
    expect(before.every((one) => one.state === 'unseen')).toBe(true);
    const job = plainJob(
      plainIntake(),
      { type: 'part-seen', part: 'PL1', state: 'there' },
      { type: 'finding', kind: 'missing', part: 'C12', text: '' },
    );
    const after = partsAround(healthy, job, net('3V3_ALW'));
    expect(after.find((one) => one.ref === 'PL1')?.state).toBe('there');
    expect(after.find((one) => one.ref === 'C12')?.state).toBe('missing');
  });
});
