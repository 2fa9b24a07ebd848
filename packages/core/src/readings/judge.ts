import type { Net, Source } from '../board/index.ts';
import { leastChargeAmps, overCharge, prechargeTimes } from '../safety/index.ts';
import type { Expectation } from './expectation.ts';
import { judgeAcross, judgeThrough, type AcrossPart, type ThroughStage } from './judge-across.ts';
import { judgeCold, type Drive } from './judge-cold.ts';
import { judgeSeries, judgeSource, judgeVolts, type SeriesFeed } from './judge-volts.ts';
import type { Reading } from './reading.ts';
import { verdict, type Verdict } from './verdict.ts';

export interface JudgeContext {
  net: Net;
  /** Null for signals, and for rails nothing on the sheet makes. */
  drive: Drive | null;
  expectation: Expectation;
  series: SeriesFeed | null;
  /** The source that feeds this very net. */
  source?: Pick<Source, 'kind' | 'idleVolts'> | null;
  /** The part the probes stand across, for readings against another point. */
  across?: AcrossPart | null;
  /** The switching stage they stand across. */
  through?: ThroughStage | null;
  /** What the charger is set to, for amps into a battery. */
  charge?: Charge | null;
}

/** The most a charger is set to give, and how the battery's line is named. */
export interface Charge {
  amps: number;
  prechargeAmps: number | null;
  /** Nobody knows what it is set to. */
  isGuess: boolean;
}

/** Holds one reading against what the net should read. Never says more than the reading shows. */
export function judge(reading: Reading, context: JudgeContext): Verdict {
  const { expectation } = context;
  const { value, mode } = reading;
  if (value.kind === 'unreached') return verdict('unjudged', { is: 'not-reached' });
  if (reading.reference !== null) {
    if (context.across) return judgeAcross(reading, context.across);
    if (context.through) return judgeThrough(reading, context.through);
    return verdict('unjudged', { is: 'other-point' });
  }
  if (context.net.kind === 'ground' && mode === 'ohms') return judgeGroundPin(value);
  const held = expectation.kind === 'value' ? expectation : null;
  if (value.kind === 'swinging') {
    const { low, high } = value;
    return verdict('swinging', { is: 'swings', low, high, mode, held });
  }
  if (mode === 'ohms' || mode === 'diode') return judgeCold(reading, context);
  if (mode === 'amps' && context.charge && value.kind === 'number')
    return judgeCharge(value.value, context.charge);
  if (expectation.kind === 'unknown')
    return verdict('unjudged', { is: 'recorded', because: expectation.because });
  if (value.kind !== 'number') return verdict('odd', { is: 'no-sense' });
  if (mode !== 'volts') return verdict('unjudged', { is: 'no-expected', mode });
  const judged =
    (context.source && judgeSource(value.value, expectation, context.source)) ??
    (context.series && !expectation.off
      ? judgeSeries(value.value, expectation, context.series)
      : judgeVolts(value.value, expectation, context.net));
  return value.trend === 'unsettled' && judged.kind === 'good'
    ? verdict('undecided', { is: 'not-settled', yet: judged.because })
    : judged;
}

/** A ground pin reads the leads alone: common practice, no source. */
export const groundPinOhms = 2;

function judgeGroundPin(value: Reading['value']): Verdict {
  const ohms = value.kind === 'number' ? value.value : value.kind === 'beep' ? 0 : Infinity;
  return ohms <= groundPinOhms
    ? verdict('good', { is: 'ground-joined', ohms })
    : verdict('open', { is: 'ground-open' });
}

/** Lithium cells are charged by their own charger or not at all: more current than it is set to is a fault. */
export function judgeCharge(read: number, { amps: most, prechargeAmps, isGuess }: Charge): Verdict {
  const amps = Math.abs(read);
  if (amps > most * overCharge.times + overCharge.amps)
    return verdict('overcurrent', { is: 'over-charge', amps, most, isGuess });
  if (amps < leastChargeAmps) return verdict('missing', { is: 'no-charge', most, isGuess });
  if (prechargeAmps !== null && amps <= prechargeAmps * prechargeTimes)
    return verdict('undecided', { is: 'precharge', amps, most, isGuess });
  return verdict(isGuess ? 'undecided' : 'good', { is: 'charging', amps, most, isGuess });
}
