import { describe, expect, it } from 'vitest';
import { entropy, normal, shares, softUniform, step, uniform } from './index.ts';

const integral = (density: (x: number) => number, from: number, to: number): number => {
  const steps = 20_000;
  const width = (to - from) / steps;
  let sum = 0;
  for (let k = 0; k < steps; k++) sum += density(from + (k + 0.5) * width) * width;
  return sum;
};

describe('densities', () => {
  it('the gaussian has its handbook values', () => {
    // Abramowitz and Stegun, "Handbook of Mathematical Functions", table 26.1: Z(0), Z(1), Z(2).
    expect(normal(0, 1)).toBeCloseTo(0.398942, 6);
    expect(normal(1, 1)).toBeCloseTo(0.241971, 6);
    expect(normal(-2, 1)).toBeCloseTo(0.053991, 6);
    // In its own unit: half as high where it is twice as wide.
    expect(normal(2, 2)).toBeCloseTo(0.241971 / 2, 6);
  });

  it('each adds up to 1', () => {
    expect(integral((x) => normal(x - 3, 0.2), 0, 6)).toBeCloseTo(1, 6);
    expect(integral((x) => uniform(x, 1, 5), 0, 6)).toBeCloseTo(1, 3);
    expect(integral((x) => softUniform(x, 1, 5, 0.3), -5, 11)).toBeCloseTo(1, 6);
  });

  it('even ones end where they are said to', () => {
    expect(uniform(5.001, 1, 5)).toBe(0);
    expect(uniform(1, 1, 5)).toBe(0.25);
    expect(uniform(3, 5, 1)).toBe(0);
    // Soft ends fall as a gaussian does.
    expect(softUniform(5.3, 1, 5, 0.3) / softUniform(5, 1, 5, 0.3)).toBeCloseTo(Math.exp(-0.5), 9);
    expect(softUniform(0.4, 1, 5, 0.3) / softUniform(1, 1, 5, 0.3)).toBeCloseTo(Math.exp(-2), 9);
  });

  it('a step is a half in its middle, and 0.731 one width above it (logistic function)', () => {
    expect(step(0, 0.2)).toBe(0.5);
    expect(step(0.2, 0.2)).toBeCloseTo(0.731059, 6);
    expect(step(-0.2, 0.2)).toBeCloseTo(0.268941, 6);
  });
});

describe('weights from logarithms', () => {
  it('add up to 1 however small they are, and say their sum', () => {
    const { weights, log } = shares([-2000, -2000 + Math.log(3)]);
    expect([...weights]).toEqual([expect.closeTo(0.25, 12), expect.closeTo(0.75, 12)]);
    expect(log).toBeCloseTo(-2000 + Math.log(4), 9);
  });

  it('what is impossible weighs nothing', () => {
    expect([...shares([-Infinity, 0]).weights]).toEqual([0, 1]);
  });
});

it('a fair coin is one bit, a certain one none', () => {
  expect(entropy(0.5)).toBe(1);
  expect(entropy(0)).toBe(0);
  expect(entropy(1)).toBe(0);
  // C. E. Shannon, 1948: H(0.11) is half a bit.
  expect(entropy(0.11)).toBeCloseTo(0.5, 2);
});
