import { describe, expect, it } from 'vitest';
import { dateText } from './dates.ts';

// What the regions write is read from Intl's own data (Unicode CLDR).

describe('a day in words', () => {
  const day = '2026-12-01';
  it('is written in the way that was chosen', () => {
    expect(dateText(day, 'day', 'day-first')).toBe('1 Dec 2026');
    expect(dateText(day, 'day', 'month-first')).toBe('Dec 1, 2026');
    expect(dateText(day, 'day', 'iso')).toBe('2026-12-01');
    expect(dateText(day, 'promised', 'day-first')).toMatch(/^Tuesday,? 1 December$/);
  });

  it('is that day in every place of the world, not the midnight of Greenwich', () => {
    for (const date of ['2026-01-01', '2026-06-30', '2026-12-31'])
      expect(dateText(date, 'day', 'iso')).toBe(date);
  });

  it('of a moment has its hours to 24 but where the month comes first', () => {
    const at = new Date(2026, 11, 1, 14, 5).toISOString();
    expect(dateText(at, 'entry', 'day-first')).toMatch(/^1 Dec,? 14:05$/);
    expect(dateText(at, 'entry', 'month-first')).toMatch(/^Dec 1, 0?2:05\sPM$/);
    expect(dateText(at, 'time', 'day-first')).toBe('Tue 14:05');
  });

  it('that is none stands as it was written', () => {
    expect(dateText('next week', 'day', 'day-first')).toBe('next week');
  });
});
