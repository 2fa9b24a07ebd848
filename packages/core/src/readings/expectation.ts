import type { Origin } from '../board/index.ts';
import { formatQuantity } from '../units/index.ts';
import { unitOf } from './entry-line.ts';
import { usualMeter } from './meter.ts';
import type { Mode } from './reading.ts';

/** What a point should read, and how far a reading may stray before it is called wrong. */
export type Expectation =
  | {
      kind: 'value';
      mode: Mode;
      value: number;
      low: number;
      high: number;
      /** off: the net is to be dead in this phase. */
      off: boolean;
      origin: Origin | 'play';
      /** The volts the net has when it is up. */
      upVolts: number;
      /** Volts without the meter, where its own resistance lowers what it shows. */
      unloadedVolts?: number;
      /** Good boards it was taken from. */
      goodBoards?: number;
    }
  | { kind: 'unknown'; because: string };

/** Allowed stray by where a number comes from: rails within about 5 % are common practice. */
export function usualTolerance(origin: Origin | 'play', kind: 'rail' | 'other'): number {
  const loose: Record<Origin | 'play', number> = {
    schematic: 0.05,
    datasheet: 0.05,
    'known-good': 0.05,
    play: 0.05,
    'rule-of-thumb': 0.07,
    guess: 0.1,
  };
  return kind === 'rail' ? loose[origin] : Math.max(0.1, loose[origin]);
}

export function expectationText(expectation: Expectation): string {
  if (expectation.kind === 'unknown') return expectation.because;
  const unit = unitOf[expectation.mode];
  // Three figures: the limits are rules of thumb, not measurements.
  const text = (value: number): string => formatQuantity(Number(value.toPrecision(3)), unit);
  if (expectation.off) return `off, below ${text(expectation.high)}`;
  return `${text(expectation.value)} (${text(expectation.low)} to ${text(expectation.high)})`;
}

/** Where the meter itself lowers what it shows, that it does. */
export function loadingText(expectation: Expectation): string | null {
  if (expectation.kind === 'unknown' || expectation.unloadedVolts === undefined) return null;
  const without = formatQuantity(Number(expectation.unloadedVolts.toPrecision(3)), 'volts');
  return `${without} without the meter: its own ${formatQuantity(usualMeter.inputOhms, 'ohms')} pull it down`;
}

/** Fewer good boards than this are no rule. A guess. */
export const leastGoodBoards = 3;

/** Where it comes from, and how many stand behind it. */
export const comesFrom = (expectation: Extract<Expectation, { kind: 'value' }>): string =>
  expectation.goodBoards === undefined
    ? `from the ${originText[expectation.origin]}`
    : `from ${expectation.goodBoards} good boards`;

/** The expected value alone, for drawings: `3.3 V`, `off`, `OL`. */
export function shortExpectation(expectation: Expectation): string {
  if (expectation.kind === 'unknown') return '–';
  if (expectation.off) return 'off';
  if (expectation.value === Infinity) return 'OL';
  return formatQuantity(Number(expectation.value.toPrecision(3)), unitOf[expectation.mode]);
}

export const originText: Record<Origin | 'play', string> = {
  schematic: 'schematic',
  datasheet: 'data sheet',
  'known-good': 'known-good board',
  'rule-of-thumb': 'rule of thumb',
  guess: 'guess',
  play: 'healthy play of the sheet',
};
