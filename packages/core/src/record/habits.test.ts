import { describe, expect, it } from 'vitest';
import {
  deriveJob,
  habitsElsewhere,
  habitsOf,
  taughtOf,
  type EventBody,
  type Job,
} from './index.ts';

const job = (...bodies: EventBody[]): Job =>
  deriveJob(
    bodies.map((body, index) => ({
      id: `00000000-0000-4000-8000-00000000000${index}`,
      who: 'Bench 1',
      at: `2026-01-01T10:0${index}:00Z`,
      body,
    })),
  );
const repair = (action: 'replaced' | 'reflowed' | 'removed', ...parts: string[]): EventBody => ({
  type: 'repair',
  action,
  parts,
  text: '',
});
const close = (
  proof: 'proven' | 'supported' | 'by-elimination',
  outcome: 'repaired' | 'returned' = 'repaired',
): EventBody => ({ type: 'close', outcome, cause: '', proof, reason: '' });

describe('what closed jobs teach of a board', () => {
  it('counts the parts proven or supported jobs were mended at, once a job', () => {
    const jobs = [
      job(repair('replaced', 'C5'), repair('replaced', 'C5'), close('proven')),
      job(repair('reflowed', 'C5', 'R1'), close('supported')),
    ];
    expect(habitsOf(taughtOf(jobs))).toEqual([
      { part: 'C5', times: 2 },
      { part: 'R1', times: 1 },
    ]);
  });

  it('learns nothing from open jobs, from guesses, from boards returned, from parts only lifted', () => {
    const jobs = [
      job(repair('replaced', 'C5')),
      job(repair('replaced', 'C5'), close('by-elimination')),
      job(repair('replaced', 'C5'), close('proven', 'returned')),
      job(repair('removed', 'C5'), close('proven')),
    ];
    expect(habitsOf(taughtOf(jobs))).toEqual([]);
  });

  it('keeps ways of failing apart, and counts places on boards of the scheme alone', () => {
    const ended = (how: 'short' | 'joint', scheme: string, teaches = true): Job =>
      job(
        {
          type: 'close',
          outcome: 'fixed',
          cause: '',
          proof: 'proven',
          reason: '',
          parts: ['C5'],
          how,
          scheme,
          roles: ['capacitor at main'],
        },
        ...(teaches ? [] : [{ type: 'lesson', counts: false, reason: '' } as const]),
      );
    const jobs = [
      ended('short', 'a'),
      ended('short', 'a'),
      ended('joint', 'a'),
      ended('short', 'b'),
    ];
    expect(habitsOf(taughtOf(jobs))).toEqual([
      { part: 'C5', times: 3, how: 'short' },
      { part: 'C5', times: 1, how: 'joint' },
    ]);
    expect(habitsElsewhere(taughtOf([...jobs, ended('short', 'a', false)]), 'a')).toEqual([
      { role: 'capacitor at main', times: 2, how: 'short' },
      { role: 'capacitor at main', times: 1, how: 'joint' },
    ]);
    expect(habitsElsewhere(taughtOf(jobs), 'c')).toEqual([]);
  });
});
