import { describe, expect, it } from 'vitest';
import { commandOf, traceKeys, type Press } from './keys.ts';

const press = (key: string, held: 'ctrl' | 'alt' | 'meta' | null = null) => ({
  key,
  ctrlKey: held === 'ctrl',
  metaKey: held === 'meta',
  altKey: held === 'alt',
});
const presses = traceKeys.flatMap((one) => one.presses ?? []);

describe('keys of the entry line', () => {
  it('a letter works on the empty line and is typed into one that holds something', () => {
    expect(commandOf(press('m'), '')).toBe('tells-most');
    expect(commandOf(press('m'), '2')).toBeNull();
    // 2m is a reading: two millivolts or milliohms.
    expect(commandOf(press('k'), '')).toBeNull();
    expect(commandOf(press('/'), '0.2')).toBeNull();
    expect(commandOf(press('+'), '3.1')).toBeNull();
    expect(commandOf(press('-'), '')).toBe('mode');
  });
  it('one question mark is a reading, the second one opens the list', () => {
    expect(commandOf(press('?'), '')).toBeNull();
    expect(commandOf(press('?'), '?')).toBe('list');
    expect(commandOf(press('F1'), '3.2')).toBe('list');
  });
  it('Enter, Esc and the stages work whatever stands there', () => {
    for (const line of ['', '3.29'])
      expect(
        ['Enter', 'Escape', 'ArrowDown', 'ArrowUp'].map((key) => commandOf(press(key), line)),
      ).toEqual(['record', 'back', 'stage-after', 'stage-before']);
    expect(commandOf(press('ArrowLeft'), '3.29')).toBeNull();
    expect(commandOf(press('ArrowLeft'), '')).toBe('left');
  });
  it('a browser command is none of these, but Ctrl Z on the empty line and Alt with arrows', () => {
    expect(commandOf(press('c', 'ctrl'), '')).toBeNull();
    expect(commandOf(press('a', 'meta'), '')).toBeNull();
    expect(commandOf(press('z', 'ctrl'), '')).toBe('undo');
    expect(commandOf(press('z', 'meta'), '')).toBe('undo');
    // In a line that holds something it takes back what was typed.
    expect(commandOf(press('z', 'ctrl'), '3.2')).toBeNull();
    expect(commandOf(press('z'), '')).toBeNull();
    expect(commandOf(press('ArrowUp', 'alt'), '')).toBe('up');
  });
  it('no key asks for two things, and each thing has a key that is in the list', () => {
    const name = ({ key, with: held, line }: Press): string => [held, key, line].join(' ');
    expect(new Set(presses.map(name)).size).toBe(presses.length);
    expect(new Set(traceKeys.map((one) => one.does)).size).toBe(traceKeys.length);
    for (const { key, with: held, line = '', command } of presses)
      expect(commandOf(press(key, held ?? null), line === 'any' ? '1' : line)).toBe(command);
  });
});
