import { describe, expect, it } from 'vitest';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import { loadSheet } from '../board/index.ts';
import { dictionaryBytes, dictionaryFrom, wholeDictionary } from './index.ts';
import { usualSetup } from '../play/index.ts';

const loaded = loadSheet(beck);
if (!loaded.ok) throw new Error('the sheet does not load');
const dictionary = wholeDictionary(loaded.value, usualSetup(loaded.value));

describe('a dictionary as bytes', () => {
  it('comes back as it was, every list and every swing', () => {
    const bytes = dictionaryBytes(dictionary);
    expect(dictionaryFrom(bytes, dictionary.key)).toEqual(dictionary);
    // Also from the middle of a larger piece of memory, as a network gives it.
    const larger = new Uint8Array(bytes.length + 7);
    larger.set(bytes, 3);
    expect(dictionaryFrom(larger.subarray(3, 3 + bytes.length), dictionary.key)).toEqual(
      dictionary,
    );
  });

  it('is refused under another key, cut short, or where it is something else', () => {
    const bytes = dictionaryBytes(dictionary);
    expect(dictionaryFrom(bytes, 'another sheet')).toBeNull();
    expect(dictionaryFrom(bytes.slice(0, bytes.length - 5), dictionary.key)).toBeNull();
    expect(dictionaryFrom(new Uint8Array([1, 2]), dictionary.key)).toBeNull();
    expect(dictionaryFrom(new TextEncoder().encode('not at all'), dictionary.key)).toBeNull();
  });
});
