import { describe, expect, it } from 'vitest';
import { pointWords, toneOf } from './sounds.ts';

describe('what is heard', () => {
  it('tells good, not good and not decided apart by pitch and number', () => {
    const [good, bad, open] = [toneOf('good'), toneOf('low'), toneOf('undecided')];
    expect(good.hertz).toBeGreaterThan(3 * bad.hertz);
    expect(bad.seconds).toBeGreaterThan(2 * good.seconds);
    expect([good.times, bad.times, open.times]).toEqual([1, 1, 2]);
    for (const kind of ['missing', 'present', 'shorted', 'open', 'odd', 'overcurrent'] as const)
      expect(toneOf(kind)).toEqual(bad);
  });

  it('spells what nobody could pronounce, and says a lead that is not on ground', () => {
    expect(pointWords('3V3_ALW', 'volts', 'coil PL1', null)).toBe(
      '3 V 3, A L W, volts, at coil PL1',
    );
    expect(pointWords('PLTRST#', 'ohms', 'TP9', 'VIN')).toBe(
      'PLTRST low, against V I N, ohms, at TP9',
    );
  });
});
