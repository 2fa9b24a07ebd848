import { describe, expect, it } from 'vitest';
import type { Point, Prediction } from './densities.ts';
import { fillBetween, severitySteps } from './severity.ts';

// A short between two listed sizes: the rail stands anywhere between what both would read.

describe('sizes on the way', () => {
  const point = (more: Partial<Point> = {}): Point =>
    ({
      where: 'rail',
      healthy: 12,
      upVolts: 12,
      cold: { kind: 'stated', sigmaDecades: 0.14, sigmaVolts: 0.03 },
      isCore: false,
      ...more,
    }) as Point;
  const from: Prediction = {
    value: 2,
    swing: null,
    span: null,
    near: [{ value: 7, span: null }],
  };
  /** The best of all stretches for this reading. */
  const bestOf = (volts: number): number => {
    const steps = new Float32Array(severitySteps);
    const value = { kind: 'number', value: volts, trend: 'steady' } as const;
    fillBetween(steps, 0, -Infinity, 'volts', value, from, point());
    return Math.max(...steps);
  };

  it('what was read counts alike wherever it lies between both ends, and not beyond', () => {
    const inside = [2.1, 2.45, 3, 3.4, 4.05, 4.5, 5, 5.9, 6.5, 6.9].map(bestOf);
    // Five stretches of a volt each: 1 / 1 V, less their soft ends.
    for (const log of inside) expect(log).toBeCloseTo(Math.log(0.86), 0);
    expect(Math.max(...inside) - Math.min(...inside)).toBeLessThan(0.7);
    for (const volts of [0.8, 8.5]) expect(bestOf(volts)).toBeLessThan(Math.min(...inside) - 2);
  });

  it('steady ends near each other are told as finely as a meter does', () => {
    const close: Prediction = { ...from, near: [{ value: 2.05, span: null }] };
    const steps = new Float32Array(severitySteps);
    const value = { kind: 'number', value: 2.02, trend: 'steady' } as const;
    fillBetween(steps, 0, -5, 'volts', value, close, point());
    // As a value, not as a stretch of volts.
    expect(Math.max(...steps.slice(0, 5))).toBeGreaterThan(1);
    // Nothing lies beyond the hardest: there the row's own counts.
    expect([...steps.slice(5)]).toEqual([-5, -5, -5, -5, -5]);
  });
});
