import { describe, expect, it } from 'vitest';
import { isLoopback } from './loopback.ts';

describe('where the app may listen', () => {
  it.each(['127.0.0.1', '127.5.0.1', 'localhost', '::1'])('%s is this machine', (host) => {
    expect(isLoopback(host)).toBe(true);
  });
  it.each([
    '0.0.0.0',
    '::',
    '',
    '192.168.1.5',
    '127.0.0.1.evil.example',
    'localhost.evil.example',
    '1270.0.1',
  ])('%s is not', (host) => {
    expect(isLoopback(host)).toBe(false);
  });
});
