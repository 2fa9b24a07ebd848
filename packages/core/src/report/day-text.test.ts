import { expect, it } from 'vitest';
import { dayText } from './day-text.ts';

it('a day is written with the name of its month; what is no day stays', () => {
  expect(dayText('2026-12-01')).toBe('1 December 2026');
  expect(dayText('2026-01-31')).toBe('31 January 2026');
  expect(dayText('2026-13-01')).toBe('2026-13-01');
  expect(dayText('next week')).toBe('next week');
});
