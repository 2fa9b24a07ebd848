import { describe, expect, it } from 'vitest';
import type { ReadingValue } from '../readings/index.ts';
import { logLikelihood, unknownLogLikelihood, type Prediction, type Where } from './likelihood.ts';

// Densities worked out by hand from the normal density 1/(sigma sqrt(2 pi)) and the shares the
// module states; ratios are what a diagnosis lives on.

const plain = (value: number, between: number[] = []): Prediction => ({
  value,
  swing: null,
  span: null,
  between,
});
const number = (value: number): ReadingValue => ({ kind: 'number', value, trend: 'steady' });
const volts = (read: number, prediction: Prediction, where: Where = 'rail'): number =>
  logLikelihood('volts', number(read), prediction, where);
const ohms = (read: ReadingValue, prediction: Prediction, where: Where = 'rail'): number =>
  logLikelihood('ohms', read, prediction, where);
const over: ReadingValue = { kind: 'over', limit: 40e6 };
const beep: ReadingValue = { kind: 'beep', limit: 30 };

describe('volts', () => {
  it('follow a normal density about the predicted value, wrong readings allowed for', () => {
    // sigma of 3.3 V on a rail: sqrt((0.018 x 3.3)^2 + 0.03^2) = 0.0665; peak 0.3989 / 0.0665 = 5.995.
    expect(volts(3.3, plain(3.3))).toBeCloseTo(Math.log(0.98 * 5.995 + 0.02 * 0.02), 2);
    // One sigma off costs half a natural unit.
    expect(volts(3.3, plain(3.3)) - volts(3.3665, plain(3.3))).toBeCloseTo(0.5, 2);
  });

  it('forgive a slip that shows nothing more easily than one that shows something else', () => {
    expect(volts(0, plain(3.3))).toBeGreaterThan(volts(1.4, plain(3.3)) + 5);
    // But not as easily as a rail that is down.
    expect(volts(0, plain(0))).toBeGreaterThan(volts(0, plain(3.3)) + 4);
  });

  it('are read closer across a part than against ground', () => {
    const apart = (where: Where): number =>
      volts(0.03, plain(0.03), where) - volts(0.1, plain(0.03), where);
    expect(apart('across')).toBeGreaterThan(apart('signal') + 3);
  });

  it('lie anywhere between two severities of the same fault', () => {
    // 0.4 V at the listed short, 3.3 V at the next milder one.
    const short = plain(0.4, [3.3]);
    expect(volts(1.8, short)).toBeGreaterThan(volts(1.8, plain(0.4)) + 4);
    expect(volts(0.4, short)).toBeGreaterThan(volts(1.8, short) + 2);
    expect(volts(5, short)).toBeLessThan(volts(1.8, short) - 4);
  });

  it('that swing are held against the swing, within it and not beyond', () => {
    const swings: Prediction = { value: 1, swing: [0, 3], span: [0, 3], between: [] };
    const seen = (low: number, high: number): ReadingValue => ({ kind: 'swinging', low, high });
    const of = (value: ReadingValue, prediction: Prediction): number =>
      logLikelihood('volts', value, prediction, 'rail');
    expect(of(seen(0.1, 2.5), swings)).toBeGreaterThan(of(seen(0.1, 2.5), plain(1)) + 3);
    expect(of(seen(0.1, 6), swings)).toBeLessThan(of(seen(0.1, 2.5), swings) - 3);
  });
});

describe('ohms and diode-mode', () => {
  it('are told apart in decades, not in ohms', () => {
    const off = (read: number, value: number): number =>
      ohms(number(value), plain(value)) - ohms(number(read), plain(value));
    expect(off(150, 100)).toBeCloseTo(off(15_000, 10_000), 3);
    expect(off(100, 1000)).toBeGreaterThan(4);
  });

  it('OL speaks for an open point, a beep for a short', () => {
    expect(ohms(over, plain(Infinity))).toBeGreaterThan(ohms(over, plain(5000)) + 3);
    expect(ohms(beep, plain(0.3))).toBeGreaterThan(ohms(beep, plain(5000)) + 3);
    const open = logLikelihood('diode', over, plain(Infinity), 'rail');
    expect(open).toBeGreaterThan(logLikelihood('diode', over, plain(0.45), 'rail') + 3);
  });

  it('where the sheet does not say what chips read, a finite reading is no sign of a short', () => {
    const unstated = { ...plain(Infinity), unstated: true };
    expect(ohms(number(5000), unstated)).toBeGreaterThan(ohms(number(5000), plain(0.3)) + 2.5);
    expect(ohms(number(0.4), unstated)).toBeLessThan(ohms(number(0.4), plain(0.3)) - 3);
    expect(ohms(over, unstated)).toBeGreaterThan(ohms(over, plain(0.3)) + 2);
  });

  it('past an open part anything but next to nothing may be read', () => {
    for (const around of [200, 47_000, 2e6])
      expect(ohms(number(around), plain(Infinity), 'across')).toBeGreaterThan(
        ohms(number(around), plain(0.2), 'across') + 2,
      );
    expect(ohms(number(0.3), plain(0.2), 'across')).toBeGreaterThan(
      ohms(number(0.3), plain(Infinity), 'across') + 4,
    );
  });
});

it('what is in no list is a little of everything: it loses where a fault fits and wins where none does', () => {
  const none = (read: number): number => unknownLogLikelihood('volts', number(read), 3.3, 'rail');
  expect(none(3.3)).toBeLessThan(volts(3.3, plain(3.3)));
  expect(none(0)).toBeLessThan(volts(0, plain(0)));
  expect(none(9)).toBeGreaterThan(volts(9, plain(3.3)) + 2);
});

it('a point that could not be reached, or that no play speaks of, tells nothing', () => {
  expect(logLikelihood('volts', { kind: 'unreached' }, plain(3.3), 'rail')).toBe(0);
  expect(volts(3.3, plain(NaN))).toBe(0);
});
