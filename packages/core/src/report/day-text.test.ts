import { expect, it } from 'vitest';
import { dayText } from './day-text.ts';

it('a day is written with the name of its month, wherever it is read', () => {
  expect(dayText('2026-12-01')).toBe('1 December 2026');
  expect(dayText('2026-12-01T12:00:00.000Z')).toBe('1 December 2026');
  expect(dayText('next week')).toBe('next week');
});
