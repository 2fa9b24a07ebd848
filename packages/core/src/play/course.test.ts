import { describe, expect, it } from 'vitest';
import { wentAt, type Solved } from './course.ts';

/** Ground and seven nets: at 5 V those that are up, the rest at what is said. */
const at = (seconds: number, up: readonly number[], volts = 5, down = 0): Solved => ({
  at: seconds,
  volts: Float64Array.from({ length: 8 }, (_, node) => (up.includes(node) ? volts : down)),
});
const all = [1, 2, 3, 4, 5, 6, 7];

describe('a board that goes off again', () => {
  it('went when most of what came after the press was gone for good', () => {
    const course = [at(0, []), at(1.1, all), at(1.5, []), at(1.8, all), at(2.5, []), at(3, [])];
    expect(wentAt(course, 1)).toBe(2.5);
    expect(wentAt(course.slice(0, 4), 1)).toBeNull();
    expect(wentAt(course.slice(0, 1), 1)).toBeNull();
    // What stands at the very moment of the press was there before it.
    expect(wentAt([at(0, []), at(1, all), at(2, [])], 1)).toBeNull();
    // Nothing is known of before the press, or of anything.
    expect(wentAt([at(1.1, all), at(2, [])], 1)).toBeNull();
    expect(wentAt([], 1)).toBeNull();
  });

  it('is one where half of what came is gone, and three nets at least', () => {
    const left = (up: readonly number[]): number | null =>
      wentAt([at(0, []), at(1.1, all), at(2, up)], 1);
    expect(left([1, 2, 3])).toBe(2);
    expect(left([1, 2, 3, 4])).toBeNull();
    const few = (gone: number): number | null =>
      wentAt([at(0, []), at(1.1, all.slice(0, gone)), at(2, [])], 1);
    expect(few(2)).toBeNull();
    expect(few(3)).toBe(2);
  });

  it('has come by more than half a volt, and was not there before', () => {
    const low = (volts: number): number | null =>
      wentAt([at(0, []), at(1.1, all, volts), at(2, [])], 1);
    expect(low(0.45)).toBeNull();
    expect(low(0.55)).toBe(2);
    const before = (volts: number): number | null =>
      wentAt([at(0, [], 5, volts), at(1.1, all), at(2, [])], 1);
    expect(before(2.6)).toBeNull();
    expect(before(2.4)).toBe(2);
  });
});
