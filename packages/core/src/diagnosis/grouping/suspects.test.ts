import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import wren from '../../../../../sheets/wren-5.yaml?raw';
import type { GoalId, NetId } from '../../board/index.ts';
import { faultPlace } from '../../faults/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { usualSetup } from '../../play/index.ts';
import { plainBoard, plainReading, sharedDictionary } from '@jiko/testing';
import type { Mode, Phase } from '../../readings/index.ts';
import { cautionText } from '../../safety/index.ts';
import { makeDiagnoser, noEvidence, type Diagnosis } from '../index.ts';
import { shortGoneWith } from '../../trace/index.ts';
import { goneTest } from './suspects.ts';

// What is shown of a group agrees with itself, whatever was read: shares, order, depth, title, voices.

const board = plainBoard(wren);
const setup = usualSetup(board);
const { stages } = studyHealthyBoard(board);
const diagnoser = makeDiagnoser(board, stages, sharedDictionary(board, setup), setup);
type Read = [net: string, mode: Mode, phase: Phase, value: number];
const diagnose = (...reads: Read[]): Diagnosis =>
  diagnoser.diagnose(
    {
      ...noEvidence,
      goal: 'boots' as GoalId,
      readings: reads.map(([net, mode, phase, value], at) => ({
        id: `r${at}`,
        reading: plainReading(net, mode, phase, { kind: 'number', value, trend: 'steady' }),
      })),
    },
    { phase: 'standby', side: '' },
  );

const states: [string, Read[]][] = [
  ['nothing read', []],
  ['a rail missing', [['1V8', 'volts', 'trying', 0.004]]],
  [
    'a rail missing and shorted',
    [
      ['1V8', 'volts', 'trying', 0.004],
      ['1V8', 'ohms', 'cold', 0.3],
    ],
  ],
  [
    'a reset held',
    [
      ['RESET#', 'volts', 'trying', 0.01],
      ['PG09', 'volts', 'trying', 3.3],
      ['3V3', 'volts', 'trying', 3.31],
    ],
  ],
  [
    'all good',
    [
      ['3V3', 'volts', 'trying', 3.31],
      ['RESET#', 'volts', 'trying', 3.29],
      ['ALIVE', 'volts', 'trying', 3.3],
    ],
  ],
];

describe.each(states)('with %s', (_, reads) => {
  const found = diagnose(...reads);

  it('suspects come likeliest first and share what is left of one', () => {
    const shares = found.suspects.map((one) => one.probability);
    expect(shares).toEqual([...shares].sort((a, b) => b - a));
    expect(shares.reduce((all, one) => all + one, found.none)).toBeLessThanOrEqual(1 + 1e-6);
    expect(shares.length).toBeGreaterThan(0);
  });

  it('the faults of each come likeliest first and are all of it', () => {
    for (const { faults, title, probability } of found.suspects) {
      const shares = faults.map((one) => one.probability);
      expect([title, shares]).toEqual([title, [...shares].sort((a, b) => b - a)]);
      const sum = shares.reduce((all, one) => all + one, 0);
      if (faults.length > 0) expect([title, sum]).toEqual([title, expect.closeTo(probability, 6)]);
    }
  });

  it('one part is left, or a group; called by one of its faults it is called by the likeliest', () => {
    for (const { depth, faults, title } of found.suspects) {
      const places = new Set(faults.map(({ fault }) => faultPlace(fault)));
      expect([title, depth]).toEqual([title, places.size === 1 ? 'part' : 'group']);
      if (faults.some((one) => one.name === title)) expect(faults[0]!.name).toBe(title);
    }
  });

  it('says what spoke for it and against it, strongest first, each of a reading or a sign', () => {
    const ids = new Set<string | null>([null, ...reads.map((__, at) => `r${at}`)]);
    for (const { speaksFor, speaksAgainst } of found.suspects) {
      for (const voices of [speaksFor, speaksAgainst]) {
        const bits = voices.map((one) => Math.abs(one.bits));
        expect(bits).toEqual([...bits].sort((a, b) => b - a));
        for (const { id } of voices) expect(ids.has(id)).toBe(true);
      }
      for (const { bits } of speaksFor) expect(bits).toBeGreaterThan(0);
      for (const { bits } of speaksAgainst) expect(bits).toBeLessThan(0);
    }
  });

  it('stops the board at the stage that gives the first net it misses', () => {
    for (const { firstMissing, missingNets, title } of found.suspects) {
      if (firstMissing === null) continue;
      const stage = board.stages.find((one) => one.id === firstMissing)!;
      expect([title, stage.gives.some((net) => missingNets.includes(net))]).toEqual([title, true]);
    }
  });
});

it('a short read cold leads, and is told apart by its own test', () => {
  const [first] = diagnose(...states[2]![1]).suspects;
  expect(first!.title).toBe('Low resistance on 1V8');
  expect(first!.probability).toBeGreaterThan(0.9);
  expect(first!.missingNets[0]).toBe('1V8' as NetId);
  expect(first!.separate.text).toContain('nject 1 V with a small current limit on 1V8');
});

it('a link that was read from end to end is not to be measured as if it never was', () => {
  const across = (reference: string | null): string => {
    const readings = [
      ['5V_SYS', null, 'volts', 'standby', 0.02],
      [reference ? '5V_IN' : '5V_SYS', reference, 'ohms', 'cold', reference ? 2100 : 3000],
    ] as const;
    const { suspects } = diagnoser.diagnose(
      {
        ...noEvidence,
        goal: 'boots' as GoalId,
        readings: readings.map(([net, against, mode, phase, value], at) => ({
          id: `r${at}`,
          reading: plainReading(
            net,
            mode,
            phase,
            { kind: 'number', value, trend: 'steady' },
            { against: against as NetId | null },
          ),
        })),
      },
      { phase: 'cold', side: '' },
    );
    return suspects.find((one) => one.title.startsWith('JP1'))!.separate.text;
  };
  expect(across('5V_SYS')).toMatch(/^JP1 was measured in its place/);
  expect(across(null)).toMatch(/^Measure JP1 from end to end/);
});

describe('what went with something that is off', () => {
  const ohms = (value: number, more: object) => ({
    id: String(value),
    reading: {
      ...plainReading('3V3_LCD', 'ohms', 'cold', { kind: 'number', value, trend: 'steady' }),
      ...more,
    },
  });
  const cairnBoard = plainBoard(cairn);

  it('is proven by its ohms: a good one comes before any source', () => {
    const readings = [ohms(0.5, { attached: ['panel'] }), ohms(900, {})];
    expect(goneTest(shortGoneWith(cairnBoard, readings, []))).toEqual({
      text: 'The short went with the panel: the fault is in it. 3V3_LCD read 0.5 Ω with the panel plugged in and 900 Ω without it. Put a good one in its place and read 3V3_LCD again, source off, before anything is powered.',
      caution: cautionText('plug'),
    });
    const net = cairnBoard.parts.find(({ ref }) => ref === 'C64')!.pins[0]!.net;
    const at = { at: { net, part: null, pin: null } };
    const lifted = [ohms(0.4, at), ohms(480, { ...at, lifted: ['C64'] })];
    const { text, caution } = goneTest(shortGoneWith(cairnBoard, lifted, ['C64']));
    expect(text).toMatch(
      /^The short went with C64: it is the part\. .* source off, before anything is powered\.$/,
    );
    expect(caution).toBe(cautionText('lift'));
  });

  it('is else proven by what comes back with it', () => {
    const { text, caution } = goneTest(shortGoneWith(cairnBoard, [], ['C64']));
    expect(text).toMatch(
      /^Plug it in again, or put the part back, and read the same point: it must go wrong again\./,
    );
    expect(caution).toBe(cautionText('put-back'));
  });
});
