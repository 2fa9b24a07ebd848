import { expect, it } from 'vitest';
import { fieldAfter } from './form-line.tsx';

it('Enter goes from field to field, and nowhere from the last one', () => {
  expect(fieldAfter(['a', 'b', 'c'], 'a')).toBe('b');
  expect(fieldAfter(['a', 'b', 'c'], 'b')).toBe('c');
  expect(fieldAfter(['a', 'b', 'c'], 'c')).toBeNull();
});
