import { describe, expect, it } from 'vitest';
import type { NetId } from '../board/index.ts';
import { plainBoard } from '@jiko/testing';
import { type PoweredPhase, usualMeter } from '../readings/index.ts';
import { settlingTimes } from '../play/course.ts';
import { compareCold, readCold } from '../cold/index.ts';
import { comparePlays, usualSetup, type Play } from '../play/index.ts';
import { studyHealthyBoard } from './index.ts';

// What a healthy board is expected to read, and what counts as different from it, on a board small
// enough to be worked out by hand.

const text = (more = ''): string => `format: jiko-board/1
id: small
title: Small
depth: full
nets:
  GND: { kind: ground }
  JACK: { kind: rail, volts: 12 }
  FUSED: { kind: rail, volts: 12 }
  3V3: { kind: rail, volts: 3.3, cold: { ohms: 600, diode: 0.45 } ${more} }
  3V3_F: { kind: rail, volts: 3.3 }
  TAP: { kind: analog }
parts:
  F1: { kind: fuse, pins: [JACK, FUSED] }
  FB1: { kind: ferrite, pins: [3V3, 3V3_F] }
  R1: { kind: resistor, pins: [FUSED, TAP], value: 10k }
  R2: { kind: resistor, pins: [TAP, GND], value: 2k }
chips:
  U1: { kind: buck, volts: 3.3, limit: 4, pins: { VIN: FUSED, OUT: 3V3, GND: GND } }
stages:
  in: { title: Input, gives: [FUSED] }
  main: { title: Main, gives: [3V3] }
sources:
  adapter: { kind: adapter, title: Adapter, net: JACK, volts: 12, limit: 3 }
goals:
  boots: { title: boots, reached: [3V3 > 3] }
`;
const board = plainBoard(text());
const healthy = studyHealthyBoard(board);
const net = (name: string): NetId => name as NetId;

describe('cold readings', () => {
  const cold = (mode: 'ohms' | 'diode', name: string, on = healthy) =>
    on.expect(net(name), mode, 'cold');

  const range = (low: number, high: number) => ({
    low: expect.closeTo(low, 2) as number,
    high: expect.closeTo(high, 2) as number,
  });

  it('differ by a factor of three between boards, by two of one that is known as good', () => {
    expect(cold('ohms', '3V3')).toMatchObject(range(200, 1800));
    const good = studyHealthyBoard(plainBoard(text(', origin: known-good')));
    expect(cold('ohms', '3V3', good)).toMatchObject(range(300, 1200));
  });

  it('come from the sheet where it states that very mode, else from the play or from nowhere', () => {
    const only = (stated: string) => {
      const changed = text().replace('cold: { ohms: 600, diode: 0.45 }', `cold: { ${stated} }`);
      expect(changed).not.toBe(text());
      const on = studyHealthyBoard(
        plainBoard(
          `${changed}`.replace(
            '{ kind: rail, volts: 3.3, cold',
            '{ kind: rail, origin: datasheet, volts: 3.3, cold',
          ),
        ),
      );
      return [cold('ohms', '3V3', on), cold('diode', '3V3', on)];
    };
    const unknown = { kind: 'unknown', because: 'the sheet gives no diode for 3V3' };
    expect(only('ohms: 600')).toMatchObject([{ kind: 'value', origin: 'datasheet' }, unknown]);
    const unplayed = { kind: 'unknown', because: 'the cold play gives no ohms for 3V3' };
    expect(only('diode: 0.45')).toMatchObject([unplayed, { origin: 'datasheet' }]);
    // A net with no word of its own: what is drawn there tells ohms, nothing tells a junction.
    expect(cold('ohms', 'TAP')).toMatchObject({ origin: 'play', ...range(2000 / 3, 6000) });
    expect(cold('diode', 'TAP')).toMatchObject({ kind: 'unknown' });
  });

  it('a junction by 80 mV', () => {
    expect(cold('diode', '3V3')).toMatchObject(range(0.45 - 0.08, 0.45 + 0.08));
  });

  it('of drawn resistors are known without a word about the chips, a junction is not', () => {
    // 2k to ground, beside 10k into what hangs on the input.
    const tap = cold('ohms', 'TAP');
    if (tap.kind !== 'value') throw new Error('unknown');
    expect(tap.origin).toBe('play');
    expect(tap.value).toBeGreaterThan(1600);
    expect(tap.value).toBeLessThanOrEqual(2005);
    expect(cold('diode', 'TAP').kind).toBe('unknown');
  });

  it('between two points, either way round', () => {
    const { across } = readCold(board, usualSetup(board), [], usualMeter);
    expect(across(net('TAP'), net('FUSED'), 'ohms')).toBeCloseTo(10_000, -2);
    expect(across(net('3V3'), net('3V3_F'), 'ohms')).toBeLessThan(1);
    // The meter's own volts fall on open resistors of kilohms: OL in diode-mode, both ways.
    expect(across(net('TAP'), net('FUSED'), 'diode')).toBe(
      across(net('TAP'), net('FUSED'), 'black-on-point'),
    );
  });
});

describe('what is to be off', () => {
  const bare = studyHealthyBoard(
    plainBoard(
      text()
        .replace(
          'TAP: { kind: analog }',
          'TAP: { kind: analog }\n  PG: { kind: signal }\n  LONE: { kind: signal }\n  OFF: { kind: rail }',
        )
        .replace('parts:', 'parts:\n  R90: { kind: resistor, pins: [PG, GND], value: 10k }'),
    ),
  );
  const off = (name: string): unknown => bare.expect(net(name), 'volts', 'standby');
  it('a line is low up to the 0.4 V that an output leaves, a rail up to 0.25 V', () => {
    expect(off('PG')).toMatchObject({ off: true, low: -0.25, high: 0.4 });
    expect(off('OFF')).toMatchObject({ off: true, low: -0.25, high: 0.25 });
    // What nothing drives is not expected off.
    expect(off('LONE')).toMatchObject({ kind: 'unknown' });
  });
});

describe('the most a rail can be given', () => {
  it.each([
    ['JACK', 12, 3],
    ['FUSED', 12, 3],
    ['3V3', 3.3, 4],
    ['3V3_F', 3.3, 4],
  ])('%s: %f V, %f A, through fuse and ferrite', (name, volts, amps) => {
    const drive = healthy.drive(net(name));
    expect(drive?.amps).toBe(amps);
    expect(drive?.volts).toBeCloseTo(volts, 1);
  });
  it('nobody gives a divider anything', () => {
    expect(healthy.drive(net('TAP'))).toBeNull();
  });
});

describe('what differs between two plays', () => {
  const play = (volts: Record<string, number>, swinging: string[] = []): Play =>
    ({
      phases: new Map<PoweredPhase, unknown>([
        [
          'standby',
          { volts: new Map(Object.entries(volts)), swinging: new Set(swinging), hot: [] },
        ],
      ]),
    }) as never;
  const differ = (a: Play, b: Play): string[] =>
    [...comparePlays(a, b)].map(([name, phases]) => `${name} ${[...phases].join()}`);

  it('2 % and 30 mV, or a swing in one of them', () => {
    expect(differ(play({ A: 10 }), play({ A: 10.23 }))).toEqual([]);
    expect(differ(play({ A: 10 }), play({ A: 10.24 }))).toEqual(['A standby']);
    expect(differ(play({ A: 0 }), play({ A: 0.03 }))).toEqual([]);
    expect(differ(play({ A: 0 }), play({ A: -0.031 }))).toEqual(['A standby']);
    expect(differ(play({ A: 5 }, ['A']), play({ A: 5 }))).toEqual(['A standby']);
    expect(differ(play({ A: 5 }, ['A']), play({ A: 5 }, ['A']))).toEqual([]);
    // A net of one play only has nothing to be held against.
    expect(differ(play({ A: 5, B: 1 }), play({ A: 5 }))).toEqual([]);
  });

  it('cold: a tenth in ohms, 20 mV in diode-mode, OL in one only', () => {
    const names = board.nets.filter((one) => one.id !== board.ground).map((one) => one.id);
    const cold = (ohms: number, diode: number) => ({
      ohms: Float32Array.from(names, (name) => (name === '3V3' ? ohms : 100)),
      diode: Float32Array.from(names, (name) => (name === '3V3' ? diode : 0.5)),
    });
    const against = (ohms: number, diode: number) => {
      const found = compareCold(board, cold(600, 0.45), cold(ohms, diode));
      return [[...found.ohms], [...found.diode]];
    };
    expect(against(659, 0.469)).toEqual([[], []]);
    expect(against(661, 0.471)).toEqual([['3V3'], ['3V3']]);
    expect(against(541, 0.431)).toEqual([[], []]);
    expect(against(539, 0.429)).toEqual([['3V3'], ['3V3']]);
    expect(against(Infinity, Infinity)).toEqual([['3V3'], ['3V3']]);
  });
});

describe('when a net came', () => {
  // Node 0 is ground; the press is at 10 s.
  const moments = (...list: [at: number, volts: number][]) =>
    list.map(([at, volts]) => ({ at, volts: Float64Array.of(0, volts) })) as never;
  const settled = (...list: [number, number][]): number | undefined =>
    settlingTimes([net('A')], moments(...list), 10).get(net('A'));

  it('is the last time it came within a tenth of where it ended', () => {
    expect(settled([0, 0], [1, 2], [2, 4.6], [3, 5])).toBe(2);
    expect(settled([0, 0], [1, 4.6], [2, 4.4], [3, 4.8], [4, 5])).toBe(3);
    // What ends at nothing counts within 50 mV.
    expect(settled([0, 1], [1, 0.06], [2, 0.05], [3, 0])).toBe(2);
  });

  it('what was there before the press counts from before: a button line dips while it is held', () => {
    expect(settled([0, 0], [1, 3.3], [11, 0], [12, 3.3])).toBe(1);
    expect(settled([0, 0], [1, 0], [11, 2], [12, 3.3])).toBe(12);
  });
});
