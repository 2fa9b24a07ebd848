import { describe, expect, it } from 'vitest';
import { floatingVolts, type ReadingValue } from '../../readings/index.ts';
import type { Point, Prediction, Where } from './densities.ts';
import { amps, logLikelihood, unknownLogLikelihood } from './likelihood.ts';
import { voltsSigma } from './volts-likelihood.ts';

// Densities worked out by hand from the normal density 1/(sigma sqrt(2 pi)) and the shares the
// module states; ratios are what a diagnosis lives on.

const plain = (value: number, near: number[] = []): Prediction => ({
  value,
  swing: null,
  span: null,
  near: near.map((one) => ({ value: one, span: null })),
});
const point = (more: Partial<Point> = {}): Point => ({
  where: 'rail',
  healthy: 3.3,
  upVolts: 3.3,
  cold: { kind: 'stated', sigmaDecades: 0.14, sigmaVolts: 0.03 },
  isCore: false,
  ...more,
});
const number = (
  value: number,
  trend: 'steady' | 'rising' | 'falling' = 'steady',
): ReadingValue => ({
  kind: 'number',
  value,
  trend,
});
const volts = (read: number, prediction: Prediction, more: Partial<Point> = {}): number =>
  logLikelihood('volts', number(read), prediction, point(more));
const ohms = (read: ReadingValue, prediction: Prediction, more: Partial<Point> = {}): number =>
  logLikelihood('ohms', read, prediction, point({ healthy: 10_000, ...more }));
const over: ReadingValue = { kind: 'over', limit: 40e6 };
const beep: ReadingValue = { kind: 'beep', limit: 30 };
const seen = (low: number, high: number): ReadingValue => ({ kind: 'swinging', low, high });

describe('volts', () => {
  it('follow a normal density about the predicted value, wrong readings allowed for', () => {
    // sigma of 3.3 V on a rail: sqrt((0.05 / 2.8 x 3.3)^2 + 0.03^2) = 0.0661; peak 0.3989 / 0.0661 = 6.035.
    expect(volts(3.3, plain(3.3))).toBeCloseTo(Math.log(0.98 * 6.035 + 0.02 * 0.02), 2);
    // One sigma off costs half a natural unit.
    expect(volts(3.3, plain(3.3)) - volts(3.3661, plain(3.3))).toBeCloseTo(0.5, 2);
  });

  it('forgive a slip that shows nothing more easily than one that shows something else, once', () => {
    expect(volts(0, plain(3.3))).toBeGreaterThan(volts(1.4, plain(3.3)) + 5);
    // But not as easily as a rail that is down.
    expect(volts(0, plain(0))).toBeGreaterThan(volts(0, plain(3.3)) + 3);
    // A slip of 2 in 100 does not repeat itself: the same read twice costs ln 50 more.
    expect(volts(0, plain(3.3)) - volts(0, plain(3.3), { times: 2 })).toBeCloseTo(Math.log(50), 1);
  });

  it.each([
    // What a verdict allows, 5 and 10 %, is 2.8 spreads; beside it 30 mV, or 250 mV of a light.
    ['rail', 3.3, undefined, 0.0661],
    ['signal', 3.3, undefined, 0.1216],
    ['light', 2, undefined, 0.26],
    ['across', 0.03, undefined, 0.006],
    // A rail that was guessed may stray by 10 %; a sheet that allows 2 % makes no meter better.
    ['rail', 3.3, 0.1, 0.1216],
    ['rail', 3.3, 0.02, 0.0661],
  ] as const)(
    'stray by what a point is: %s at %f V, allowed %s, by %f V',
    (where: Where, value, tolerance, sigma) => {
      expect(voltsSigma(value, where, tolerance)).toBeCloseTo(sigma, 3);
    },
  );
  it('of a rail that strays as far as its verdict allows speak little against the healthy board', () => {
    // 2.8 spreads off would cost 3.9 by natural logarithm; 30 mV and wrong readings make it less.
    const guessed = { tolerance: 0.1 };
    expect(volts(3.3, plain(3.3)) - volts(3.465, plain(3.3))).toBeCloseTo(3.1, 1);
    expect(volts(3.3, plain(3.3), guessed) - volts(3.63, plain(3.3), guessed)).toBeCloseTo(3.7, 1);
    expect(volts(3.63, plain(3.3), guessed)).toBeGreaterThan(volts(3.63, plain(3.3)) + 2);
  });

  it('of a net that nobody feeds may be some tenths of a volt: no contradiction', () => {
    expect([floatingVolts(19), floatingVolts(1.2), floatingVolts(0.6)]).toEqual([
      0.75,
      expect.closeTo(0.42, 6) as number,
      expect.closeTo(0.21, 6) as number,
    ]);
    // 0.35 of all, even from -0.05 to 0.75 V, with an end as soft as volts are known: sigma 0.0525 V.
    const even = Math.log((0.98 * 0.35) / (0.8 + 0.0525 * Math.sqrt(2 * Math.PI)));
    expect(volts(0.35, plain(0))).toBeCloseTo(even, 2);
    expect(volts(0.74, plain(0))).toBeCloseTo(even, 2);
    expect(volts(0.8025, plain(0))).toBeCloseTo(even - 0.5, 2);
    expect(volts(1, plain(0))).toBeLessThan(even - 5);
  });

  it('of a line that an output holds low may be up to 0.4 V, whatever it is when high', () => {
    const low = (read: number, where: Where = 'signal'): number =>
      volts(read, plain(0), { where, healthy: 0, upVolts: 0 });
    // 0.35 of all, even over -0.05 to 0.4 V, its end as soft as volts are known: sigma 0.042 V.
    const even = Math.log((0.98 * 0.35) / (0.45 + 0.042 * Math.sqrt(2 * Math.PI)));
    expect(low(0.39)).toBeCloseTo(even, 2);
    expect(low(0.442)).toBeCloseTo(even - 0.5, 2);
    expect(low(0.6)).toBeLessThan(even - 5);
    expect(low(0.39, 'rail')).toBeLessThan(even - 5);
  });

  it('of a rail that a fault drags down may be anything below it, but mostly what is played', () => {
    const dragged = plain(2);
    expect(volts(2, dragged)).toBeGreaterThan(volts(1.2, dragged) + 3);
    // A healthy rail that reads so is a slip instead.
    expect(volts(1.2, dragged)).toBeGreaterThan(volts(1.2, plain(3.3)) + 3);
  });

  it('lie anywhere between two severities of the same fault, and not beyond', () => {
    // 0.9 V at the listed short, 3.3 V at the next milder one.
    const short = plain(0.9, [3.3]);
    expect(volts(1.8, short)).toBeGreaterThan(volts(1.8, plain(0.9)) + 0.1);
    expect(volts(0.9, short)).toBeGreaterThan(volts(1.8, short) + 2);
    expect(volts(5, short)).toBeLessThan(volts(1.8, short) - 4);
  });

  it('of a rail that is dragged are as good as any below its own: limits are seldom stated', () => {
    // By hand: a slip of 2 in 100 (half of 1/25 a volt), else 0.6 of evenly over -0.1 to 3.366 V, 0.12 up to 3.63.
    const anywhere = (share: number): number =>
      0.02 * (0.5 / 25) + (0.98 * share) / (share === 0.6 ? 3.466 : 3.73);
    expect(Math.exp(volts(1.8, plain(0.9)))).toBeCloseTo(anywhere(0.6), 3);
    // Up where it should not be yet: below 0.95 of its volts it is dragged, above it is only early.
    const early = (value: number): number => Math.exp(volts(1.8, plain(value), { healthy: 0 }));
    expect(early(3.13)).toBeCloseTo(anywhere(0.6), 3);
    expect(early(3.14)).toBeCloseTo(anywhere(0.12), 3);
    // Above its own volts nothing drags it.
    const reading = (read: number): number => Math.exp(volts(read, plain(0.9)));
    expect(reading(3.36)).toBeCloseTo(anywhere(0.6), 3);
    expect(reading(3.37)).toBeLessThan(0.001);
    // What a divider gives is known better.
    const signal = logLikelihood('volts', number(1.8), plain(0.9), point({ where: 'signal' }));
    expect(Math.exp(signal)).toBeCloseTo(anywhere(0.12), 3);
  });

  it('that swing are held against the swing, within it and not beyond', () => {
    const swings: Prediction = { value: 1, swing: [0, 3], span: [0, 3], near: [] };
    const of = (value: ReadingValue, prediction: Prediction): number =>
      logLikelihood('volts', value, prediction, point());
    expect(of(seen(0.1, 2.5), swings)).toBeGreaterThan(of(seen(0.1, 2.5), plain(1)) + 3);
    expect(of(seen(0.1, 6), swings)).toBeLessThan(of(seen(0.1, 2.5), swings) - 3);
    // A few tenths about nothing are what a dead rail with a hiccuping regulator shows.
    expect(of(seen(0, 0.15), plain(0))).toBeGreaterThan(of(seen(0.1, 2.5), plain(0)) + 2);
    // How high a hiccuping rail gets hangs on limits: no swing up to its volts rules a dead row out.
    expect(of(seen(0.1, 2.5), plain(0))).toBeGreaterThan(of(seen(0.1, 4), plain(0)) + 2);
    // Nor what hangs on it through a resistor or a light: only across a part heights are told.
    const dead = (where: Where): number =>
      logLikelihood('volts', seen(0, 1.3), plain(0), point({ where }));
    expect(dead('light')).toBeCloseTo(dead('rail'), 1);
    expect(dead('rail')).toBeGreaterThan(dead('across') + 1);
    // A steady row is not stretched by a neighbour that swings.
    const beside: Prediction = {
      ...plain(3.3),
      near: [{ value: 1, span: [0, 3] }],
    };
    expect(volts(1.8, beside)).toBeCloseTo(volts(1.8, plain(3.3)), 6);
  });

  it('that swing: how high a hiccup gets tells next to nothing, that it is one tells a lot', () => {
    const hiccup = (high: number): Prediction => ({
      value: high / 3,
      swing: [0, high],
      span: [0, high],
      near: [],
    });
    const of = (prediction: Prediction): number =>
      logLikelihood('volts', seen(0, 0.75), prediction, point());
    const apart = of(hiccup(0.6)) - of(hiccup(0.3));
    expect(apart).toBeGreaterThan(0);
    // Five readings of one hiccup are not five proofs: three to one they were at a share of 0.7.
    expect(apart).toBeLessThan(Math.log(2));
    // A dead rail called swinging: a fourth of what is said of one that hiccups.
    expect(of(hiccup(0.3)) - of(plain(0))).toBeCloseTo(Math.log(0.92 / 0.23), 1);
  });

  it('that rise or fall are bounds', () => {
    const of = (trend: 'rising' | 'falling', value: number): number =>
      logLikelihood('volts', number(1.5, trend), plain(value), point());
    expect(of('rising', 3.3)).toBeGreaterThan(of('rising', 0) + 2);
    expect(of('falling', 0)).toBeGreaterThan(of('falling', 3.3) + 2);
  });
});

describe('ohms and diode-mode', () => {
  it('are told apart in decades, not in ohms', () => {
    const off = (read: number, value: number): number =>
      ohms(number(value), plain(value)) - ohms(number(read), plain(value));
    expect(off(1500, 1000)).toBeCloseTo(off(15_000, 10_000), 1);
    expect(off(100, 1000)).toBeGreaterThan(4);
  });

  it('OL speaks for an open point, a beep for a short', () => {
    expect(ohms(over, plain(Infinity))).toBeGreaterThan(ohms(over, plain(5000)) + 3);
    expect(ohms(beep, plain(0.3))).toBeGreaterThan(ohms(beep, plain(5000)) + 3);
    const open = logLikelihood('diode', over, plain(Infinity), point({ healthy: Infinity }));
    expect(open).toBeGreaterThan(logLikelihood('diode', over, plain(0.45), point()) + 3);
  });

  it('of a rail on a sheet of guesses are usual from some tens of ohms on', () => {
    const guessed = { cold: { kind: 'nothing', shortOhms: 300 } } as Partial<Point>;
    const read = (value: number): number => ohms(number(value), plain(10_000), guessed);
    // By hand: evenly over 25 to 40 million ohms, 6.2 decades, at 0.65; below, a slip of 5 in 100 over 9.
    expect(Math.exp(read(30))).toBeCloseTo(0.65 / 6.204 + 0.05 / 9, 3);
    expect(Math.exp(read(20))).toBeCloseTo(0.05 / 9, 3);
  });

  it('OL where something conducts is a tip that did not touch, once: it does not repeat itself', () => {
    // 2 in 100 on a rail, 1 in 10 on a line, and as many of those the second time; a third tells no more.
    const missed = (mode: 'ohms' | 'diode', where: Where, times: number): number =>
      logLikelihood(
        mode,
        over,
        plain(mode === 'ohms' ? 400 : 0.45),
        point({ where, times, healthy: mode === 'ohms' ? 400 : 0.45 }),
      );
    for (const mode of ['ohms', 'diode'] as const)
      for (const [where, part] of [
        ['rail', 0.02],
        ['across', 0.02],
        ['signal', 0.1],
      ] as const) {
        expect(missed(mode, where, 1)).toBeCloseTo(Math.log(part), 3);
        expect(missed(mode, where, 2)).toBeCloseTo(2 * Math.log(part), 2);
        expect(missed(mode, where, 3)).toBe(missed(mode, where, 2));
      }
    // A line at which volts were read is touched as well as a rail.
    const touched = point({ where: 'signal', isTouched: true, healthy: 400 });
    expect(logLikelihood('ohms', over, plain(400), touched)).toBeCloseTo(Math.log(0.02), 3);
    // What is open reads OL however often.
    expect(ohms(over, plain(Infinity), { times: 2 })).toBe(ohms(over, plain(Infinity)));
  });

  it('where the sheet does not say what chips read, drawn parts are a ceiling and diode-mode is silent', () => {
    const ceiling = { cold: { kind: 'ceiling' } as const, healthy: 100_000 };
    expect(ohms(number(5000), plain(100_000), ceiling)).toBeGreaterThan(
      ohms(number(5000), plain(100_000), { healthy: 100_000 }) + 2.5,
    );
    expect(ohms(number(0.4), plain(100_000), ceiling)).toBeLessThan(
      ohms(number(0.4), plain(0.3), ceiling) - 5,
    );
    // Below a ceiling almost anything is read, above it nothing: drawn resistors are within per cents.
    const above = ohms(number(140_000), plain(100_000), ceiling);
    expect(above).toBeLessThan(ohms(number(70_000), plain(100_000), ceiling) - 3);
    const junction = (value: number, read: ReadingValue): number =>
      logLikelihood('diode', read, plain(value), point({ ...ceiling, healthy: value }));
    for (const read of [number(0.3), number(0.7), over])
      expect(junction(0.55, read)).toBeCloseTo(junction(Infinity, read), 6);
    // But a short still shows.
    expect(junction(0.55, number(0.001))).toBeLessThan(junction(0.001, number(0.001)) - 4);
  });

  it('near nothing is no ordinary slip', () => {
    const slip = (read: number): number => ohms(number(read), plain(10_000));
    // 4 in 10,000 below 5 Ω, 2 in 100 up to a thirtieth of what is to be read, 5 in 100 above.
    expect(slip(5.1) - slip(4.9)).toBeCloseTo(Math.log(0.02 / 0.0004), 2);
    expect(slip(340) - slip(330)).toBeCloseTo(Math.log(0.05 / 0.02), 2);
    // Where nothing is drawn, of ten kilohms; a core rail's chips are that low.
    const bare = (read: number, isCore = false): number =>
      ohms(number(read), plain(Infinity), { healthy: Infinity, isCore });
    expect(bare(340) - bare(330)).toBeGreaterThan(0.5);
    expect(bare(340, true)).toBe(bare(330, true));
    // Where nobody knows what stands on a signal, of a kilohm: no chip has less there. A rail may.
    const strange = (read: number, where: Where): number =>
      ohms(number(read), plain(Infinity), {
        where,
        healthy: Infinity,
        cold: { kind: 'nothing', shortOhms: 300 },
      });
    expect(strange(33.4, 'signal') - strange(33.2, 'signal')).toBeCloseTo(Math.log(0.05 / 0.02), 6);
    expect(strange(5.1, 'signal') - strange(4.9, 'signal')).toBeCloseTo(Math.log(0.02 / 0.0004), 6);
    expect(strange(33.4, 'rail')).toBe(strange(33.2, 'rail'));
    // On a core rail it is what such rails read.
    const core = { cold: { kind: 'ceiling' } as const, isCore: true, healthy: Infinity };
    expect(ohms(number(0.6), plain(Infinity), core)).toBeGreaterThan(
      ohms(number(0.6), plain(Infinity), { ...core, isCore: false }) + 4,
    );
  });

  it('rising ohms are a capacitor charging: a lower bound, never a short', () => {
    const rising = (value: number): number => ohms(number(120, 'rising'), plain(value));
    expect(rising(10_000)).toBeGreaterThan(rising(0.05) + 2);
    expect(rising(10_000)).toBeCloseTo(rising(100), 6);
  });

  it('what drags a line its output holds may have a hundred times the ohms played: drivers are weak', () => {
    const held = { healthy: Infinity, cold: { kind: 'ceiling' } as const, isDriven: true };
    const free = { ...held, isDriven: false };
    // 0.3 of all, even by decades over 20 Ω to 2.5 kΩ (125 times): 2.0969 decades; 0.98 of readings are right.
    const even = Math.log((0.98 * 0.3) / Math.log10(125) + 0.05 / 9);
    for (const read of [80, 1400, 2400])
      expect(ohms(number(read), plain(20), held)).toBeCloseTo(even, 1);
    for (const read of [2600, 9000, 6])
      expect(ohms(number(read), plain(20), held)).toBeLessThan(even - 2);
    expect(ohms(number(1400), plain(20), free)).toBeLessThan(even - 2);
    // Beyond some ten kilohms no driver is that weak.
    expect(ohms(number(9000), plain(1000), held)).toBeCloseTo(Math.log(0.98 * 0.3 + 0.05 / 9), 1);
    expect(ohms(number(11_000), plain(1000), held)).toBeLessThan(-4);
    expect(ohms(number(40_000), plain(20_000), held)).toBe(
      ohms(number(40_000), plain(20_000), free),
    );
    // At a milliamp it is read as anything up to a volt, or to the die beside it.
    const diode = (read: number, more: Partial<Point>): number =>
      logLikelihood('diode', number(read), plain(0.02), point({ ...held, ...more }));
    expect(diode(0.9, {})).toBeCloseTo(Math.log((0.98 * 0.3) / 0.98 + 0.05 / 2), 2);
    expect(diode(1.05, {})).toBeLessThan(-3);
    expect(diode(0.4, { healthy: 0.5 })).toBeCloseTo(Math.log((0.98 * 0.3) / 0.48 + 0.05 / 2), 2);
    expect(diode(0.55, { healthy: 0.5 })).toBeLessThan(-3);
    expect(diode(0.4, { isDriven: false })).toBeLessThan(-3);
  });

  it('across a part, more than the sheet knows of convicts who raises it: nothing beside it can', () => {
    // 422k beside 150k: 111k. Open it reads the 150k, or what really stands there, even by decades to 40M.
    const between = (value: number, read: ReadingValue, cold: 'ceiling' | 'drawn' = 'ceiling') =>
      ohms(read, plain(value), { where: 'across', healthy: 111_000, cold: { kind: cold } });
    const even = Math.log((0.98 * 0.3) / Math.log10(40e6 / 150_000) + 0.02 / 9);
    for (const cold of ['ceiling', 'drawn'] as const) {
      expect(between(150_000, number(1.05e6), cold)).toBeCloseTo(even, 2);
      expect(between(111_000, number(1.05e6), cold)).toBeCloseTo(Math.log(0.02 / 9), 2);
    }
    // Half as much again is far above, of five ohms at least; what lies beside may make it less.
    const link = (read: number): number =>
      ohms(number(read), plain(2), { where: 'across', healthy: 2, cold: { kind: 'drawn' } });
    expect(link(7.4) - link(7.6)).toBeCloseTo(Math.log(0.05 / 0.02), 2);
    // A tenth more is what counts as raised.
    expect(between(123_000, number(1.05e6))).toBeGreaterThan(between(121_000, number(1.05e6)) + 2);
    expect(between(150_000, over)).toBeCloseTo(Math.log(0.02 + 0.98 * 0.1), 2);
    expect(between(111_000, over)).toBeCloseTo(Math.log(0.02), 1);
    // To ground a chip may be missing as well: no such thing is said there.
    expect(
      ohms(number(1.05e6), plain(150_000), { healthy: 111_000, cold: { kind: 'drawn' } }),
    ).toBeLessThan(even - 2);
  });

  it('what is stated counts by where it comes from', () => {
    const stated = (sigmaDecades: number): number =>
      ohms(number(30_000), plain(10_000), {
        cold: { kind: 'stated', sigmaDecades, sigmaVolts: 0.03 },
      });
    expect(stated(0.5)).toBeGreaterThan(stated(0.14) + 2);
  });
});

describe('the draw', () => {
  it('is held to a quarter where the row is as the healthy board, loosely where a fault draws', () => {
    const read = (value: number, healthy: number, drawn: number): number =>
      amps(drawn, { value, near: [] }, healthy);
    expect(read(0.4, 0.4, 0.4)).toBeGreaterThan(read(0.4, 0.4, 0.8) + 4);
    // What a fault draws hangs on limits nobody stated.
    expect(read(3, 0.4, 3)).toBeLessThan(read(3, 0.4, 0.9) + 2.5);
    expect(amps(1, { value: NaN, near: [] }, 0.4)).toBeNaN();
  });

  it('of a fault is listed, within a factor of two, or anything up to half as much again', () => {
    // Played at 2 A, read at 1 A, healthy at 0.1 A. Listed: sigma hypot(0.5, 0.008), so 2 sigma off:
    // 0.3989 / 0.50006 x exp(-2.0) = 0.10797. Within a factor: log10(1/2) = -0.30103 at sigma 0.3 is
    // 1.32981 x exp(-0.50344) = 0.80379 per decade, over 1 x ln 10 = 0.34908 per amp. Anything: 1 / 3 A.
    const fit = 0.35 * 0.10797 + 0.35 * 0.34908 + 0.3 / 3;
    expect(amps(1, { value: 2, near: [] }, 0.1)).toBeCloseTo(
      Math.log((2.5 * 0.02) / 5 + 0.98 * fit),
      3,
    );
  });
});

it('a steady value written down of what swings is its mean, or what was caught of it', () => {
  const swings: Prediction = { ...plain(1.65), swing: [0, 3.3] };
  const caught = (read: number): number => volts(read, swings, { healthy: 1.65 });
  // Anywhere in the swing and a tenth of a volt beyond is caught, at 0.5 / 3.5 V; past that it is a slip.
  expect(caught(2.9)).toBeCloseTo(Math.log(0.98 * (0.5 / 3.5)), 1);
  expect(caught(2.9)).toBeCloseTo(caught(0.4), 1);
  expect(caught(3.39)).toBeCloseTo(caught(2.9), 1);
  expect(caught(3.41)).toBeLessThan(caught(3.39) - 2);
  expect(caught(-0.09)).toBeCloseTo(caught(2.9), 1);
  expect(caught(-0.11)).toBeLessThan(caught(-0.09) - 2);
  expect(caught(1.65)).toBeGreaterThan(caught(2.9));
  // Up there for a tenth of the time, it is seldom caught up there; nine times as often below; a twentieth at least.
  const seldom = (read: number, mean: number): number =>
    volts(read, { ...plain(mean), swing: [0, 3.3] }, { healthy: 3.3 });
  expect(Math.exp(seldom(2.9, 0.33))).toBeCloseTo(0.02 * 0.02 + 0.98 * 0.5 * ((2 * 0.1) / 3.5), 4);
  expect(seldom(2.9, 0.01)).toBeLessThan(seldom(2.9, 0.33));
  expect(seldom(2.9, 0.01)).toBeCloseTo(seldom(2.9, 0.1), 1);
  expect(seldom(2.2, 3)).toBeGreaterThan(seldom(1.2, 3) + 1);
});

it('what is in no list is a little of everything: it loses where a fault fits and wins where none does', () => {
  const none = (read: number): number => unknownLogLikelihood('volts', number(read), point());
  expect(none(3.3)).toBeLessThan(volts(3.3, plain(3.3)));
  expect(none(0)).toBeLessThan(volts(0, plain(0)));
  expect(none(1.6)).toBeGreaterThan(volts(1.6, plain(3.3)) + 2);
});

it('a point that could not be reached tells nothing; what no play speaks of is left to the caller', () => {
  expect(logLikelihood('volts', { kind: 'unreached' }, plain(3.3), point())).toBe(0);
  expect(volts(3.3, plain(NaN))).toBeNaN();
});
