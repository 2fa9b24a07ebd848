import { describe, expect, it } from 'vitest';
import { plainJob, plainIntake, plainReading } from '@jiko/testing';
import type { Job } from './job.ts';
import { knownGoodOf } from './known-good.ts';
import { taughtOf } from './taught.ts';

const ohms = (net: string, value: number, more: object = {}) => ({
  type: 'reading',
  reading: {
    ...plainReading(net, 'ohms', 'cold', { kind: 'number', value, trend: 'steady' }),
    ...more,
  },
  supersedes: [],
});
const fixed = (...bodies: unknown[]): Job =>
  plainJob(plainIntake(), ...bodies, {
    type: 'close',
    outcome: 'fixed',
    cause: '',
    proof: 'proven',
  });

describe('what good boards read', () => {
  it('the median of the jobs, one each, with half their spread', () => {
    const jobs = [400, 500, 420].map((value) => fixed(ohms('5V', 9999), ohms('5V', value)));
    expect(knownGoodOf(taughtOf(jobs))).toEqual([
      expect.objectContaining({
        net: '5V',
        mode: 'ohms',
        phase: 'cold',
        count: 3,
        median: 420,
        spread: 20,
      }),
    ]);
  });

  it('nothing from before the repair, from lifted parts, from swinging or dead points', () => {
    const job = fixed(
      ohms('A', 1),
      { type: 'repair', action: 'replaced', parts: ['R1'], text: '' },
      ohms('B', 2, { lifted: ['R1'] }),
      {
        type: 'reading',
        reading: plainReading('C', 'volts', 'standby', { kind: 'swinging', low: 0, high: 3 }),
        supersedes: [],
      },
      {
        type: 'reading',
        reading: plainReading('D', 'volts', 'standby', {
          kind: 'number',
          value: 0.01,
          trend: 'steady',
        }),
        supersedes: [],
      },
      ohms('E', 5),
    );
    expect(knownGoodOf(taughtOf([job])).map((one) => one.net)).toEqual(['E']);
  });

  it('nothing from jobs that were not fixed, are open, or were taken out', () => {
    const open = plainJob(plainIntake(), ohms('A', 1));
    const given = plainJob(plainIntake(), ohms('A', 1), {
      type: 'close',
      outcome: 'declined',
      cause: '',
      proof: 'not-found',
      reason: 'no',
    });
    const out = plainJob(
      plainIntake(),
      ohms('A', 1),
      { type: 'close', outcome: 'fixed', cause: '', proof: 'proven' },
      { type: 'lesson', counts: false, reason: 'came back' },
    );
    expect(knownGoodOf(taughtOf([open, given, out]))).toEqual([]);
  });
});
