import { describe, expect, it } from 'vitest';
import { plainEvents, plainIntake } from '@jiko/testing';
import { deriveJob, graceLeft, type KeptEvent } from './index.ts';

/** Entries so many minutes after the first, in their order. */
const at = (...all: [number, unknown][]): KeptEvent[] =>
  plainEvents(...all.map(([, body]) => body)).map((event, index) => ({
    ...event,
    at: `2026-01-05T10:${String(all[index]![0]).padStart(2, '0')}:00.000Z`,
  }));
const sign = {
  type: 'sign',
  phase: 'run',
  drawAmps: 0.2,
  drawShape: 'steady',
  seen: { restarts: true },
  text: '',
};
const settings = { type: 'tried', thing: 'settings', result: 'no-change' };

describe('after all power was gone', () => {
  it.each([
    ['settings cleared', settings, 'settings were cleared'],
    ['a coin cell changed', { action: 'beside', beside: 'coin-cell' }, 'the coin cell was out'],
    ['a battery out', { action: 'beside', beside: 'battery' }, 'the battery was out'],
    ['a flash written', { action: 'reprogrammed' }, 'the flash was written'],
  ])('%s begins it', (_, body, why) => {
    const event = 'type' in body ? body : { type: 'repair', parts: [], text: 'x', ...body };
    expect(deriveJob(at([0, plainIntake()], [1, event])).powerLoss?.why).toBe(why);
  });

  it.each([
    { type: 'tried', thing: 'settings', result: 'cannot' },
    { type: 'tried', thing: 'memory', result: 'no-change' },
    { type: 'repair', action: 'replaced', parts: ['C1'], text: '' },
    { type: 'repair', action: 'beside', beside: 'cable', parts: [], text: '' },
  ])('%j does not', (body) => {
    expect(deriveJob(at([0, plainIntake()], [1, body])).powerLoss).toBeNull();
  });

  // Ten minutes, to the minute.
  it('what is seen in the minutes after it weighs nothing, what is seen later does', () => {
    const job = deriveJob(
      at([0, sign], [1, settings], [2, sign], [10, sign], [11, sign], [12, sign]),
    );
    expect(job.signs.map((one) => one.inGrace)).toEqual([false, true, true, false, false]);
  });

  it('what was written before it is not of it, whatever a clock says', () => {
    const job = deriveJob(at([5, sign], [5, settings]));
    expect(job.signs[0]?.inGrace).toBe(false);
  });

  it('a struck entry begins nothing', () => {
    const events = at([0, settings], [1, sign]);
    const [first] = events;
    const [strike] = plainEvents({ type: 'strike', event: first!.id, reason: 'not done' });
    expect(deriveJob([...events, strike!]).powerLoss).toBeNull();
  });

  it('counts down to nothing', () => {
    const loss = deriveJob(at([0, settings])).powerLoss!;
    const left = (iso: string): number => graceLeft(loss, iso);
    expect(left('2026-01-05T10:00:00.000Z')).toBe(600_000);
    expect(left('2026-01-05T10:09:59.000Z')).toBe(1000);
    expect(left('2026-01-05T10:10:00.000Z')).toBe(0);
    // Another bench's clock is a minute behind, or a day.
    expect(left('2026-01-05T09:59:00.000Z')).toBe(540_000);
    expect(left('2026-01-04T10:00:00.000Z')).toBe(0);
  });
});
