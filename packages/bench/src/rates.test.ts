import { describe, expect, it } from 'vitest';
import { calibration, logScore, mcnemar, wilson, type Said } from './rates.ts';

describe('rates', () => {
  // Values of Wilson's interval from memory of standard tables, and from the formula by hand.
  it.each([
    [10, 20, 0.2993, 0.7007],
    [0, 10, 0, 0.2775],
    [10, 10, 0.7225, 1],
    [16, 20, 0.584, 0.9193],
  ])('%d of %d', (hits, of, low, high) => {
    const rate = wilson(hits, of);
    expect(rate.low).toBeCloseTo(low, 3);
    expect(rate.high).toBeCloseTo(high, 3);
  });
  it('no run says nothing', () => {
    expect(wilson(0, 0)).toMatchObject({ low: 0, high: 1 });
  });
  it('pairs: only those that differ count, by the binomial', () => {
    const pairs = [
      ...Array.from({ length: 10 }, () => [true, false] as const),
      ...Array.from({ length: 3 }, () => [false, true] as const),
      ...Array.from({ length: 500 }, () => [true, true] as const),
    ];
    // 2 (1 + 13 + 78 + 286) / 2^13
    expect(mcnemar(pairs)).toEqual({ onlyFirst: 10, onlySecond: 3, p: expect.closeTo(0.09229, 4) });
    expect(mcnemar([[true, true]]).p).toBe(1);
  });
  it('a score is best where what was said is what happens, and calibration shows where it is not', () => {
    const said = (first: number, right: number, of: number): Said[] =>
      Array.from({ length: of }, (_, at) => {
        const isRight = at < right;
        return { first, isRight, onTruth: isRight ? first : (1 - first) / 3 };
      });
    const honest = logScore(said(0.7, 70, 100));
    expect(honest).toBeGreaterThan(logScore(said(0.95, 70, 100)));
    expect(honest).toBeGreaterThan(logScore(said(0.4, 70, 100)));
    const [low, high] = calibration([...said(0.72, 7, 10), ...said(0.99, 5, 10)]);
    expect(low).toMatchObject({ from: 0.7, right: { hits: 7, of: 10 } });
    expect(high).toMatchObject({ from: 0.9, right: { hits: 5, of: 10 } });
    expect(high?.said).toBeCloseTo(0.99, 6);
  });
});
