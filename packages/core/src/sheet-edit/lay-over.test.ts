import { describe, expect, it } from 'vitest';
import { layOver } from './index.ts';

const base = 'nets:\n  A: { volts: 5 }\n  B: { volts: 3.3 }\nparts:\n  R1: { ohms: 1k }\n';

describe('a text laid over one that was changed meanwhile', () => {
  it('keeps what each of the two changed', () => {
    const newest = base.replace('1k', '2k2');
    const mine = base.replace('volts: 5', 'volts: 5.1');
    expect(layOver(base, newest, mine)).toEqual({
      text: base.replace('1k', '2k2').replace('volts: 5', 'volts: 5.1'),
      clashes: 0,
    });
  });
  it('adds what both added at one place, once where it is the same', () => {
    const more = (...lines: string[]): string => `${base}${lines.join('\n')}\n`;
    const { text, clashes } = layOver(
      base,
      more('  P1: {}', '  P2: {}'),
      more('  P1: {}', '  P3: {}'),
    );
    expect(clashes).toBe(0);
    for (const name of ['P1', 'P2', 'P3'])
      expect(text.match(new RegExp(name, 'g'))).toHaveLength(1);
  });
  it('lets mine stand where both changed the same, and counts it', () => {
    const newest = base.replace('1k', '2k2');
    const mine = base.replace('1k', '4k7');
    expect(layOver(base, newest, mine)).toEqual({ text: mine, clashes: 1 });
  });
  it('is mine as a whole where nobody knows what it was made from', () => {
    expect(layOver(null, base, `${base}# mine\n`)).toEqual({ text: `${base}# mine\n`, clashes: 1 });
    expect(layOver(null, base, base).clashes).toBe(0);
  });
  it('changes nothing where nothing was changed', () => {
    expect(layOver(base, base, base)).toEqual({ text: base, clashes: 0 });
    expect(layOver(base, `${base}# theirs\n`, base).text).toBe(`${base}# theirs\n`);
  });
});
