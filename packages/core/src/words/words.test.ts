import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { loadSheet } from '../board/index.ts';
import { findWords, hintsFor, words } from './index.ts';

describe('words', () => {
  it('each has a source, and none stands twice', () => {
    for (const one of words)
      expect(one.source).toMatch(/from memory$|^common practice, no source$/);
    expect(new Set(words.map((one) => one.term)).size).toBe(words.length);
  });

  // Names as schematics write them, and what a technician would read in them.
  it.each([
    ['+3V3_ALW', ['3.3 V by its name.', 'Always on']],
    ['1V05_S5', ['1.05 V by its name.', 'Suspend rails']],
    ['1V2_MEM', ['1.2 V by its name.', 'memory has to keep']],
    ['PLTRST#', ['Active low', 'Platform reset']],
    ['SLP_S3#', ['Active low', 'asks for memory']],
    ['VBUS', ['5 V until more is agreed']],
    ['S5_EN', ['Enable']],
    ['VR_PG', ['Power-good']],
  ])('%s', (net, said) => {
    const hints = hintsFor(net).join(' ');
    for (const one of said) expect(hints).toContain(one);
  });

  it('a plain name says nothing', () => {
    expect(hintsFor('N00123')).toEqual([]);
  });

  it('most rails of a full sheet have a hint', () => {
    const loaded = loadSheet(cairnText);
    if (!loaded.ok) throw new Error('does not load');
    const rails = loaded.value.nets.filter((net) => net.kind === 'rail');
    const told = rails.filter((net) => hintsFor(net.id).length > 0);
    expect(told.length / rails.length).toBeGreaterThan(0.6);
  });

  it('all that is typed must be there', () => {
    expect(findWords('coin cell').map((one) => one.term)).toContain('coin cell');
    expect(findWords('memory ddr4').length).toBeGreaterThan(0);
    expect(findWords('zzz')).toEqual([]);
    expect(findWords('')).toHaveLength(words.length);
  });
});
