import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { keepEditDraft, keptEditDraft } from './edit-draft.ts';

const items = new Map<string, string>();
beforeEach(() => {
  items.clear();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => items.get(key) ?? null,
    setItem: (key: string, value: string) => void items.set(key, value),
    removeItem: (key: string) => void items.delete(key),
  });
});
afterEach(() => void vi.unstubAllGlobals());

it('a draft carries the version it was begun on', () => {
  keepEditDraft('cairn-14', { base: '0123456789abcdef', text: 'format: ...' });
  expect(keptEditDraft('cairn-14')).toEqual({ base: '0123456789abcdef', text: 'format: ...' });
  expect(keptEditDraft('fell-13')).toBeNull();
  keepEditDraft('cairn-14', null);
  expect(keptEditDraft('cairn-14')).toBeNull();
});

it('one of an earlier version is there still, of a version nobody knows', () => {
  items.set('jiko-edit-cairn-14', 'format: jiko-board/1\n');
  expect(keptEditDraft('cairn-14')).toEqual({ base: null, text: 'format: jiko-board/1\n' });
  keepEditDraft('cairn-14', null);
  expect(items.size).toBe(0);
});
