import { describe, expect, it } from 'vitest';
import { loadSheet, type GoalId, type NetId } from '@jiko/core/board';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { plainJob, plainReading } from '@jiko/testing';
import type { Mode, Phase, ProbePlace } from '@jiko/core/readings';
import type { CheckStep, PinRow } from '@jiko/core/taking-apart';
import { traceJob, type Trace } from '@jiko/core/trace';
import beckText from '../../../../../sheets/beck-mini.yaml?raw';
import { againTarget, netTarget, pinTarget, readAt, stepTarget, type Target } from './target.ts';

// A reading belongs to just the leads it was taken with: the pin, the lead it was read against, the
// mode, the phase, which way round, and what was off the board.

const loaded = loadSheet(beckText);
if (!loaded.ok) throw new Error('the sheet does not load');
const board = loaded.value;
const healthy = studyHealthyBoard(board);
const place = (net: string, part: string | null = null, pin: string | null = null): ProbePlace => ({
  net,
  part,
  pin,
});
interface Taken {
  at?: ProbePlace;
  reference?: ProbePlace | null;
  mode?: Mode;
  phase?: Phase;
  lifted?: string[];
  polarity?: 'red-on-point' | 'black-on-point';
  value?: number;
}
const taken = ({ at = place('SB_PG'), value = 1, mode = 'volts', phase, ...more }: Taken) => ({
  type: 'reading',
  reading: {
    ...plainReading(
      at.net as NetId,
      mode as 'volts',
      phase ?? (mode === 'volts' ? 'standby' : 'cold'),
      { kind: 'number', value, trend: 'steady' },
    ),
    at,
    ...more,
  },
  supersedes: [],
});
const traceOf = (...all: Taken[]): Trace =>
  traceJob(healthy, plainJob(...all.map(taken)), 'boots' as GoalId);
const sbPg = netTarget(healthy, [], { net: 'SB_PG' as NetId, mode: 'volts', phase: 'standby' });
const pin = (mode: Mode, phase: Phase): Target =>
  pinTarget(
    board,
    'U1',
    { pin: 'PG', net: 'SB_PG', role: 'input', expected: '3.3 V' } as PinRow,
    mode,
    phase,
  );
const step = (polarity: 'red-on-point' | 'black-on-point'): Target =>
  stepTarget('D1', {
    text: 'forward',
    at: place('5V_SB', 'D1', 'A'),
    reference: place('3V3_SB', 'D1', 'K'),
    mode: 'diode',
    phase: 'cold',
    polarity,
    good: '0.2 to 0.4',
  } as CheckStep);

describe('what a target says', () => {
  it('a net, what it is to read there, and where', () => {
    expect(sbPg).toMatchObject({ title: 'SB_PG', reference: null, mode: 'volts' });
    expect(sbPg.expected).toContain('3.3 V');
    expect(sbPg.where).not.toBe('');
  });
  it('a pin by its chip, on the pin itself', () => {
    expect(pin('volts', 'standby').title).toMatch(/^U1 pin PG/);
    expect(pin('volts', 'standby').where).toContain('on the pin itself');
  });
  it('a step of a check by both its nets', () => {
    expect(step('red-on-point')).toMatchObject({
      title: 'D1: forward',
      where: '5V_SB against 3V3_SB',
      expected: '0.2 to 0.4',
    });
  });
  it('has a name of its own for each way to read', () => {
    const keys = [
      sbPg,
      netTarget(healthy, [], { net: 'SB_PG' as NetId, mode: 'ohms', phase: 'cold' }),
      netTarget(healthy, [], { net: 'SB_PG' as NetId, mode: 'volts', phase: 'run' }),
      pin('volts', 'standby'),
      step('red-on-point'),
      step('black-on-point'),
    ].map((one) => one.key);
    expect(new Set(keys).size).toBe(keys.length);
  });
});

describe('the reading of just this target', () => {
  const here = pin('ohms', 'cold');
  const at = place('SB_PG', 'U1', 'PG');
  const found = (target: Target, lifted: string[], ...all: Taken[]): number | null => {
    const reading = readAt(traceOf(...all), target, lifted)?.reading;
    return reading?.value.kind === 'number' ? reading.value.value : null;
  };

  it('is the last that stands', () => {
    expect(found(here, [], { at, mode: 'ohms', value: 5 }, { at, mode: 'ohms', value: 7 })).toBe(7);
  });

  it.each<[string, Taken]>([
    ['another pin', { at: place('SB_PG', 'U1', 'VCC'), mode: 'ohms' }],
    ['the net, at another place', { at: place('SB_PG'), mode: 'ohms' }],
    ['another mode', { at, mode: 'diode' }],
    ['another lead', { at, mode: 'ohms', reference: place('3V3_SB') }],
    ['something off the board', { at, mode: 'ohms', lifted: ['R2'] }],
  ])('is not one taken otherwise: %s', (_, reading) => {
    expect(found(here, [], reading)).toBeNull();
  });

  it('counts with the same parts off, in any order', () => {
    const off = { at, mode: 'ohms' as const, value: 9, lifted: ['R2', 'R1'] };
    expect(found(here, ['R1', 'R2'], off)).toBe(9);
    expect(found(here, ['R1'], off)).toBeNull();
  });

  it('in diode-mode goes by which way round, where the check says so', () => {
    const read: Taken = {
      at: place('5V_SB', 'D1', 'A'),
      reference: place('3V3_SB', 'D1', 'K'),
      mode: 'diode',
      polarity: 'red-on-point',
      value: 0.3,
    };
    expect(found(step('red-on-point'), [], read)).toBe(0.3);
    expect(found(step('black-on-point'), [], read)).toBeNull();
  });
});

describe('the same leads again', () => {
  it('are where they were, and expect what the part itself reads where one lay between', () => {
    const [first] = traceOf({ at: place('SB_PG', 'R2', '2'), value: 3.2 }).readings;
    const again = againTarget(healthy, first!);
    expect(again).toMatchObject({ title: 'SB_PG', where: 'R2 pin 2', mode: 'volts' });
    expect(again.expected).toContain('3.3 V');
    const [across] = traceOf({ mode: 'ohms', reference: place('3V3_SB'), value: 1e4 }).readings;
    expect(againTarget(healthy, across!)).toMatchObject({
      title: 'SB_PG against 3V3_SB',
      expected: 'what the part itself reads',
    });
  });
});
