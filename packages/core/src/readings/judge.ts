import type { Net, PartKind } from '../board/index.ts';
import { formatAmps, formatOhms, formatQuantity, formatVolts } from '../units/index.ts';
import { expectationText, originText, type Expectation } from './expectation.ts';
import { floatingVolts } from './floating.ts';
import { judgeAcross, judgeThrough, type AcrossPart, type ThroughStage } from './judge-across.ts';
import { isWholeRange, unitOf } from './entry-line.ts';
import type { Mode, Reading, ReadingValue } from './reading.ts';
import type { Verdict } from './verdict.ts';

/** The part a net is fed through, where that part loses next to nothing when it conducts. */
export interface SeriesFeed {
  part: string;
  kind: PartKind;
  from: string;
  /** Volts read before the part in the same condition; null where it was not read. */
  upstreamVolts: number | null;
  /** Drop expected when healthy, in volts. */
  dropVolts: number;
}

/** What the maker of a rail can do at most: a short is judged against it. */
export interface Drive {
  volts: number;
  amps: number;
}

export interface JudgeContext {
  net: Net;
  /** Null for signals, and for rails nothing on the sheet makes. */
  drive: Drive | null;
  expectation: Expectation;
  series: SeriesFeed | null;
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
}

type Expected = Extract<Expectation, { kind: 'value' }>;

/** Below this a DC reading is as good as nothing: leakage and meter offset (common practice). */
const nothingVolts = 0.25;

/** Holds one reading against what the net should read. Never says more than the reading shows. */
export function judge(reading: Reading, context: JudgeContext): Verdict {
  const { expectation } = context;
  const { value } = reading;
  if (value.kind === 'unreached') return { kind: 'unjudged', why: 'The point was not reached.' };
  if (reading.reference !== null) {
    if (context.across) return judgeAcross(reading, context.across);
    if (context.through) return judgeThrough(reading, context.through);
    return { kind: 'unjudged', why: 'Read against another point: kept, not judged by the rail.' };
  }
  if (value.kind === 'swinging') {
    return { kind: 'swinging', why: swingingWhy(value, reading.mode, expectation) };
  }
  if (reading.mode === 'ohms' || reading.mode === 'diode') return judgeCold(reading, context);
  if (reading.mode === 'amps' && context.charge && value.kind === 'number')
    return judgeCharge(value.value, context.charge);
  if (expectation.kind === 'unknown') {
    return { kind: 'unjudged', why: `Recorded, not judged: ${expectation.because}.` };
  }
  if (value.kind !== 'number') return { kind: 'odd', why: 'Such a display makes no sense here.' };
  if (reading.mode !== 'volts') {
    return { kind: 'unjudged', why: `No expected ${reading.mode} are known here.` };
  }
  const verdict =
    context.series && !expectation.off
      ? judgeSeries(value.value, expectation, context.series)
      : judgeVolts(value.value, expectation, context.net);
  return value.trend === 'unsettled' && verdict.kind === 'good'
    ? { kind: 'undecided', why: `Not settled yet; ${lowerFirst(verdict.why)}` }
    : verdict;
}

/** Lithium cells are charged by their own charger or not at all: more current than it is set to is a fault. */
export function judgeCharge(amps: number, { amps: most, prechargeAmps }: Charge): Verdict {
  const read = Math.abs(amps);
  if (read > most * 1.15 + 0.02)
    return {
      kind: 'overcurrent',
      why: `${formatAmps(read)} with the battery, and the charger is set to ${formatAmps(most)} at most: unplug the battery now, keep away from it, and follow your local rules. Something bypasses the charger.`,
    };
  if (read < 0.01)
    return { kind: 'missing', why: `Nothing flows; the charger is set to ${formatAmps(most)}.` };
  if (prechargeAmps !== null && read <= prechargeAmps * 1.5)
    return {
      kind: 'undecided',
      why: `${formatAmps(read)} is a pre-charge: watch whether it rises to about ${formatAmps(most)} within minutes.`,
    };
  return {
    kind: 'good',
    why: `${formatAmps(read)}, within the ${formatAmps(most)} the charger is set to.`,
  };
}

function swingingWhy(
  value: Extract<ReadingValue, { kind: 'swinging' }>,
  mode: Mode,
  expectation: Expectation,
): string {
  const span = `${formatQuantity(value.low, unitOf[mode])} to ${formatQuantity(value.high, unitOf[mode])}`;
  if (expectation.kind === 'unknown') return `Swings between ${span}: it comes and goes.`;
  return `Swings between ${span}; a steady ${expectationText(expectation)} is expected. Something tries and gives up.`;
}

function judgeVolts(volts: number, expected: Expected, net: Net): Verdict {
  const source = `${originText[expected.origin]}`;
  const wanted = `expected ${expectationText(expected)}, from the ${source}`;
  const up = Math.max(expected.upVolts, nothingVolts);
  if (expected.off) {
    if (Math.abs(volts) <= expected.high)
      return { kind: 'good', why: `Off as it should be; ${wanted}.` };
    if (volts > 0 && volts <= floatingVolts(up))
      return {
        kind: 'undecided',
        why: `${formatVolts(volts)} may float on a net that nobody feeds; ${wanted}.`,
      };
    return {
      kind: 'present',
      why: `${formatVolts(volts)} where nothing should be yet; ${wanted}.`,
    };
  }
  if (volts >= expected.low && volts <= expected.high) {
    return { kind: 'good', why: `Within tolerance: ${wanted}.` };
  }
  if (volts < -nothingVolts) {
    return { kind: 'odd', why: `Negative: leads swapped, or the wrong reference; ${wanted}.` };
  }
  if (volts < expected.low) {
    if (volts < Math.max(nothingVolts, up * 0.15)) {
      return { kind: 'missing', why: `Not there; ${wanted}.` };
    }
    const text = `${formatVolts(expected.value - volts)} too low; ${wanted}.`;
    return {
      kind: 'low',
      why: net.kind === 'rail' ? `${text} Dragged down or not regulating.` : text,
    };
  }
  return { kind: 'high', why: `${formatVolts(volts - expected.value)} too high; ${wanted}.` };
}

/** A net behind a fuse, coil, FET or sense resistor: the drop decides, not the rail's tolerance. */
function judgeSeries(volts: number, expected: Expected, series: SeriesFeed): Verdict {
  const isSwitch = series.kind === 'pfet' || series.kind === 'nfet';
  if (series.upstreamVolts === null) {
    const within = volts >= expected.low && volts <= expected.high;
    const bodyDiodeOn = isSwitch && volts > expected.value - 1.1 && volts <= expected.high;
    if (bodyDiodeOn) {
      return {
        kind: 'undecided',
        why: `${formatVolts(volts)} could be ${series.part} on, or off and leaking through its body diode. Read ${series.from} before it: the drop decides.`,
      };
    }
    if (within) {
      return {
        kind: 'undecided',
        why: `Looks right, but ${series.part} before it is judged by its drop: read ${series.from} too.`,
      };
    }
    return judgeVolts(volts, expected, { kind: 'rail' } as Net);
  }
  const drop = series.upstreamVolts - volts;
  const across = `${formatVolts(Math.abs(drop))} across ${series.part}`;
  const allowed = Math.max(0.06, series.dropVolts * 3 + 0.02) + series.upstreamVolts * 0.002;
  if (series.upstreamVolts < nothingVolts) {
    return volts < nothingVolts
      ? {
          kind: 'missing',
          why: `Nothing here, and nothing at ${series.from} before ${series.part} either.`,
        }
      : {
          kind: 'odd',
          why: `${formatVolts(volts)} here but nothing at ${series.from}: fed from elsewhere.`,
        };
  }
  if (drop < -allowed) {
    return {
      kind: 'odd',
      why: `${formatVolts(-drop)} higher than ${series.from} before ${series.part}: fed from elsewhere, or a bad contact.`,
    };
  }
  if (drop <= allowed) {
    const inRange = volts >= expected.low && volts <= expected.high;
    return inRange
      ? {
          kind: 'good',
          why: `${across}: it conducts (a healthy one drops about ${formatVolts(series.dropVolts)}).`,
        }
      : volts < expected.low
        ? {
            kind: 'low',
            why: `${series.part} conducts, but what comes in is low already: ${expectationText(expected)} expected.`,
          }
        : {
            kind: 'high',
            why: `${series.part} conducts, but what comes in is too high: ${expectationText(expected)} expected.`,
          };
  }
  if (volts < Math.max(nothingVolts, expected.upVolts * 0.15)) {
    return {
      kind: 'missing',
      why: `Nothing after ${series.part}, ${formatVolts(series.upstreamVolts)} before it: it does not conduct.`,
    };
  }
  if (isSwitch && drop >= 0.25 && drop <= 1.1) {
    return {
      kind: 'low',
      why: `${across} is a diode's drop: it is off, and what is here leaks through its body diode.`,
    };
  }
  return {
    kind: 'low',
    why: `${across}, about ${formatVolts(series.dropVolts)} when healthy: it does not conduct as it should.`,
  };
}

/** Ohms and diode-mode on the unpowered board. */
function judgeCold(reading: Reading, { net, expectation, drive }: JudgeContext): Verdict {
  const { value } = reading;
  const mode = reading.mode === 'diode' ? 'diode' : 'ohms';
  const expected = expectation.kind === 'value' ? expectation : null;
  const shortOhms = drive && drive.amps > 0 ? drive.volts / drive.amps : null;
  if (mode === 'diode') {
    if (value.kind === 'over' && !isWholeRange(value.limit, mode))
      return judgeBound(value.limit, expected, mode, leastJunctionVolts);
    if (value.kind === 'over') {
      return expected
        ? { kind: 'open', why: `OL: no junction seen; expected ${expectationText(expected)}.` }
        : { kind: 'unjudged', why: 'OL recorded: nothing known to hold it against.' };
    }
    if (value.kind === 'beep' || (value.kind === 'number' && value.value < leastJunctionVolts)) {
      return lowByNature(net)
        ? {
            kind: 'unjudged',
            why: 'A core rail reads near nothing in diode-mode by nature: take ohms.',
          }
        : {
            kind: 'shorted',
            why: 'Next to no drop to ground: shorted, or nearly so. Take ohms to be sure.',
          };
    }
    if (value.kind !== 'number' || !expected) {
      return { kind: 'unjudged', why: 'Recorded: nothing known to hold it against.' };
    }
    if (value.value < expected.low)
      return {
        kind: 'low',
        why: `Lower than expected ${expectationText(expected)}: something leaks to ground.`,
      };
    if (value.value > expected.high)
      return {
        kind: 'high',
        why: `Higher than expected ${expectationText(expected)}: a path is broken or a part is gone.`,
      };
    return { kind: 'good', why: `As expected: ${expectationText(expected)}.` };
  }
  if (value.kind === 'over' && !isWholeRange(value.limit, mode))
    return judgeBound(value.limit, expected, mode, shortOhms);
  if (value.kind === 'over') {
    if (!expected)
      return { kind: 'unjudged', why: 'OL recorded: nothing known to hold it against.' };
    return { kind: 'open', why: `Open to ground; expected ${expectationText(expected)}.` };
  }
  const ohms = value.kind === 'beep' ? value.limit : value.kind === 'number' ? value.value : NaN;
  if (drive && shortOhms !== null && ohms < shortOhms) {
    return {
      kind: 'shorted',
      why: `${value.kind === 'beep' ? 'Below ' : ''}${formatOhms(ohms)}: the regulator gives at most ${formatAmps(drive.amps)} and cannot hold ${formatVolts(drive.volts)} into less than ${formatOhms(shortOhms)}.`,
    };
  }
  const isCoreBuzz = lowByNature(net) && ohms <= mostBuzzOhms;
  if (value.kind === 'beep' && expected && ohms >= expected.low && !isCoreBuzz)
    return {
      kind: 'undecided',
      why: `Below ${formatOhms(ohms)}, expected ${expectationText(expected)}, and how much was not read.`,
    };
  if (value.kind === 'beep' && ohms > mostBuzzOhms)
    return { kind: 'unjudged', why: `Below ${formatOhms(ohms)}: how much was not read.` };
  if (value.kind === 'beep') {
    return lowByNature(net)
      ? {
          kind: 'unjudged',
          why: `Below ${formatOhms(ohms)}: normal for a core rail. Read it in ohms.`,
        }
      : {
          kind: 'odd',
          why: `Below ${formatOhms(ohms)} by the buzzer: a possible short. Read it in ohms.`,
        };
  }
  if (!expected) {
    const noShort =
      shortOhms === null
        ? ''
        : ` Not a short for what feeds it (${formatOhms(shortOhms)} or less would be).`;
    return { kind: 'unjudged', why: `Recorded: nothing known to hold it against.${noShort}` };
  }
  if (ohms < expected.low)
    return {
      kind: 'low',
      why: `Lower than expected ${expectationText(expected)}: something leaks to ground.`,
    };
  if (ohms > expected.high)
    return {
      kind: 'high',
      why: `Higher than expected ${expectationText(expected)}: a path is broken or a part is gone.`,
    };
  return { kind: 'good', why: `As expected: ${expectationText(expected)}.` };
}

/** Less in diode-mode is next to no drop. */
const leastJunctionVolts = 0.02;
/** No buzzer sounds above this: an upper bound somebody wrote. */
const mostBuzzOhms = 100;

/**
 * More than so much, and how much was not read: never good, for less than what is expected would read
 * the same. `least` is what a short is below; null where nobody knows.
 */
function judgeBound(
  limit: number,
  expected: Expected | null,
  mode: 'ohms' | 'diode',
  least: number | null,
): Verdict {
  const above = `Above ${formatQuantity(limit, unitOf[mode])}`;
  if (least === null || limit < least)
    return { kind: 'undecided', why: `${above}, which leaves a short possible: type the figure.` };
  if (!expected) return { kind: 'undecided', why: `${above}, so no short; how much was not read.` };
  if (limit > expected.high)
    return {
      kind: 'high',
      why: `${above}, expected ${expectationText(expected)}: a path is broken or a part is gone.`,
    };
  return {
    kind: 'undecided',
    why: `${above}, so no short; expected ${expectationText(expected)}, and how much was not read.`,
  };
}

/** Core rails are a few ohms to a few hundred by nature and are no shorts (common practice). */
export function lowByNature({ kind, volts, rangeVolts }: Net): boolean {
  const highest = rangeVolts?.[1] ?? volts;
  return kind === 'rail' && highest !== null && highest < (rangeVolts ? 2 : 1.1);
}

const lowerFirst = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
