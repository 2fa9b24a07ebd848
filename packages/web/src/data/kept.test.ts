import { afterEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { keep, kept, keptText } from './kept.ts';

function storage(room = 1000) {
  const items = new Map<string, string>();
  const used = (): number => [...items].reduce((sum, [k, v]) => sum + k.length + v.length, 0);
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => items.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (used() + key.length + value.length > room) throw new Error('QuotaExceededError');
      items.set(key, value);
    },
    removeItem: (key: string) => void items.delete(key),
  });
  return items;
}
afterEach(() => {
  for (const key of ['a', 'b', 'long']) keep(key, null);
  vi.unstubAllGlobals();
});

const words = z.enum(['walk', 'looks']);

describe('what the browser keeps', () => {
  it('is read back as it was, and let go of', () => {
    storage();
    keep('a', { n: 1 });
    expect(kept('a', z.object({ n: z.number() }), { n: 0 })).toEqual({ n: 1 });
    keep('a', null);
    expect(kept('a', z.object({ n: z.number() }), { n: 0 })).toEqual({ n: 0 });
  });
  it.each(['{', '3', '"run"', 'null', ''])('%j is not what is wanted: the usual stands', (text) => {
    storage().set('a', text);
    expect(kept('a', words, 'walk')).toBe('walk');
  });
  it('of earlier versions, plain words and numbers, is read too', () => {
    const items = storage();
    items.set('a', 'looks');
    expect(kept('a', words, 'walk')).toBe('looks');
    items.set('a', '19.5');
    expect(kept('a', keptText, '')).toBe('19.5');
    expect(kept('a', z.number(), 0)).toBe(19.5);
  });
  it('where there is no room or no storage, stands until the page is gone', () => {
    const items = storage(30);
    keep('long', 'x'.repeat(100));
    expect(items.size).toBe(0);
    expect(kept('long', keptText, '')).toHaveLength(100);
    keep('long', 'short');
    expect(items.get('long')).toBe('"short"');
    vi.stubGlobal('localStorage', undefined);
    keep('b', 'kept');
    expect(kept('b', keptText, '')).toBe('kept');
  });
});
