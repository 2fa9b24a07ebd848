import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { GoalId } from '../board/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainJob, plainReading, walkJob } from '@jiko/testing';
import { jobNow } from './index.ts';

const healthy = studyHealthyBoard(plainBoard(cairnText));
const volts = (net: string, value: number, phase = 'run') => ({
  type: 'reading',
  reading: plainReading(net, 'volts', phase as never, { kind: 'number', value, trend: 'steady' }),
  supersedes: [],
});
const ohms = (net: string, value: number) => ({
  type: 'reading',
  reading: plainReading(net, 'ohms', 'cold', { kind: 'number', value, trend: 'steady' }),
  supersedes: [],
});
const repair = (action: string, parts: string[], more: object = {}) => ({
  type: 'repair',
  action,
  parts,
  text: '',
  ...more,
});
/** Where each reading stands, in the order of the record. */
const standing = (...events: object[]): string[] =>
  jobNow(healthy, plainJob(...events)).readings.map(({ standing: one }) =>
    one.kind === 'stands' ? (one.wasBefore ? 'stays' : 'stands') : one.kind,
  );

// C64 stands on 3V3_RUN, which PU? makes from 3V3_ALW, that from VMAIN.
const before = [
  volts('VMAIN', 18.95, 'standby'),
  volts('5V_ALW', 5.02, 'standby'),
  volts('3V3_RUN', 0.05),
  ohms('3V3_RUN', 0.4),
  ohms('VMAIN', 45_000),
];

describe('what a repair makes old', () => {
  it('only what hangs on what was touched; the rest stays, marked', () => {
    expect(standing(...before, repair('replaced', ['C64']))).toEqual([
      'stays',
      'stays',
      'before-repair',
      'before-repair',
      'stays',
    ]);
  });

  it('what is wrong upstream may have been dragged down from there', () => {
    expect(standing(volts('3V3_ALW', 1.2, 'standby'), repair('replaced', ['C64']))).toEqual([
      'before-repair',
    ]);
  });

  it('what hangs on it is old, however good it was', () => {
    expect(standing(volts('PLTRST#', 3.3), repair('replaced', ['C64']))).toEqual(['before-repair']);
  });

  it.each([
    ['a new cell', repair('beside', [], { beside: 'coin-cell' }), 'stands'],
    ['a part lifted to see', repair('removed', ['C64']), 'stands'],
    ['cleaned, nobody said where', repair('cleaned', []), 'before-repair'],
    ['a part this sheet does not draw', repair('replaced', ['X99']), 'before-repair'],
  ])('%s: all else %s', (_, event, state) => {
    expect(new Set(standing(...before, event))).toEqual(new Set([state]));
  });

  it('amps are of the whole board', () => {
    const draw = {
      type: 'reading',
      reading: plainReading('VIN_JACK', 'amps', 'standby', {
        kind: 'number',
        value: 0.4,
        trend: 'steady',
      }),
      supersedes: [],
    };
    expect(standing(draw, repair('replaced', ['C64']))).toEqual(['before-repair']);
  });
});

describe('after a short was repaired', () => {
  const next = (...events: object[]) =>
    walkJob(healthy, jobNow(healthy, plainJob(...events)), 'boots' as GoalId).next;

  it('its ohms come before any source', () => {
    expect(next(...before, repair('replaced', ['C64']))).toMatchObject({
      net: '3V3_RUN',
      mode: 'ohms',
      phase: 'cold',
      beforePower: true,
    });
  });

  it('once they were read, or its volts were, they are not asked again', () => {
    for (const again of [ohms('3V3_RUN', 480), volts('3V3_RUN', 3.3)])
      expect(next(...before, repair('replaced', ['C64']), again)?.beforePower).toBeUndefined();
  });

  it('nothing is asked first where nothing was shorted', () => {
    expect(
      next(volts('3V3_RUN', 0.05), ohms('3V3_RUN', 480), repair('replaced', ['C64']))?.beforePower,
    ).toBeUndefined();
  });
});
