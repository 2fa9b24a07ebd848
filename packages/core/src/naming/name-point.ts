import { normal, readingErrors, shares, softUniform } from '../inference/index.ts';
import { readNetName, type Net, type NetId, netById } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import type { KeptReading } from '../record/index.ts';
import { valueText, type Phase, type Reading, nothingVolts } from '../readings/index.ts';
import { formatVolts } from '../units/index.ts';
import { wordsFor } from './point-words.ts';

/** A net a point may turn out to be. */
export interface NameCandidate {
  /** Null: a net the sheet does not have. */
  net: NetId | null;
  probability: number;
  /** What speaks for it, the strongest first. */
  because: string[];
}

/** The reading that would tell the candidates apart best. */
export interface NamingQuestion {
  mode: 'volts' | 'ohms' | 'diode';
  phase: Phase;
  /** Between the point and this net; null: against ground. */
  against: NetId | null;
  why: string;
}

export interface Naming {
  candidates: NameCandidate[];
  question: NamingQuestion | null;
}

/** Said to be settled, and offered as "it is": below this it is a doubt. */
export const namingIsSure = 0.9;

/** What is expected of a net in a phase, as far as anybody knows: a value with its spread, or nothing. */
interface Expected {
  low: number;
  high: number;
  isRead: boolean;
}

// How readings of an unknown point are weighed. All common practice, no source.
const weights = {
  /** A rail of a board that lies on the bench is up as it should be. */
  up: 0.62,
  /** Dead, whatever the sheet says. */
  dead: 0.25,
  /** Two places of one net read alike: the same volts, within this part and digit. */
  alikePart: 0.015,
  alikeVolts: 0.012,
  /** A swing is read off a display that runs. */
  swingPart: 0.06,
  strayPart: 0.03,
  strayVolts: 0.025,
  mostVolts: 22,
  /** Two leads on one net read below this; on two nets hardly ever. */
  joinedOhms: 2,
} as const;

const slip = readingErrors.atUnnamed;

/** A point before it has a name is one of the sheet's nets, or one the sheet lacks. */
const offSheetPrior = 0.12;

/**
 * Which net a point of one's own most likely is, by what was read there, by what was read at nets that
 * are known, and by the words it was described with. `point` is the id of the unnamed net.
 */
export function namePoint(
  healthy: HealthyBoard,
  readings: readonly KeptReading[],
  point: NetId,
  words: string,
): Naming {
  const { board } = healthy;
  const standing = readings
    .filter(({ standing }) => standing.kind === 'stands')
    .map((one) => one.reading);
  const own = standing.filter(({ at }) => at.net === point);
  const reached = own.filter((one) => one.value.kind !== 'unreached');
  const named = board.nets.filter(
    (net) => !net.isUnnamed && net.id !== board.ground && net.kind !== 'switch',
  );
  const told = wordsFor(board, words);
  const meant = readNetName(words.replaceAll(' ', '_')).volts;
  const rows = named.map((net) => {
    // `of` is the reading it comes from: a net nobody drew is held against the same.
    const because: { log: number; text: string; of: string }[] = [];
    const byWords = told.get(net.id);
    // Coils and large pads lie on rails: signals are small and seldom probed unnamed.
    because.push({ log: Math.log(net.kind === 'rail' ? 1 : 0.25), text: '', of: '' });
    if (byWords) because.push({ log: byWords.log, text: `"${byWords.word}"`, of: '' });
    if (meant !== null && meant === net.volts)
      because.push({ log: Math.log(5), text: `its name says ${formatVolts(meant)}`, of: '' });
    for (const reading of reached) {
      const log = logOf(healthy, standing, net, reading);
      if (log === null) continue;
      const of = readText(reading);
      const swing = swingOf(standing, net, reading);
      const text = swing?.together ? `swings together with ${net.id}, ${of}` : of;
      because.push({ log, text, of });
    }
    return { net: net.id as NetId | null, because };
  });
  const off = reached.flatMap((reading) => {
    const log = offSheetLog(reading);
    const of = readText(reading);
    return log === null ? [] : [{ log, text: of, of }];
  });
  rows.push({
    net: null,
    because: [
      {
        log: Math.log((offSheetPrior / (1 - offSheetPrior)) * sumOfPriors(rows)),
        text: '',
        of: '',
      },
      ...off,
    ],
  });
  const logs = rows.map((row) => row.because.reduce((sum, one) => sum + one.log, 0));
  const { weights: chances } = shares(logs);
  const baseline = new Map(off.map((one) => [one.of, one.log]));
  const candidates = rows
    .map((row, index) => ({
      net: row.net,
      probability: chances[index]!,
      because: row.because
        .map(({ log, text, of }) => ({ text, gain: log - (baseline.get(of) ?? 0) }))
        .filter(({ text, gain }) => text !== '' && gain > 0.2)
        .sort((a, b) => b.gain - a.gain)
        .map(({ text }) => text),
    }))
    .sort((a, b) => b.probability - a.probability);
  return { candidates, question: questionFor(healthy, standing, own, candidates, point) };
}

/** What all nets together weigh before anything was read. */
const sumOfPriors = (rows: readonly { because: { log: number }[] }[]): number =>
  rows.reduce((sum, row) => sum + Math.exp(row.because[0]?.log ?? 0), 0);

const readText = ({ value, mode, phase, reference }: Reading): string =>
  `${valueText(value, mode)} ${reference ? `against ${reference.net}` : phase}`;

/** Volts a reading stands for: a number, or the middle of a swing. */
function middle({ value }: Reading): number | null {
  if (value.kind === 'number') return value.value;
  return value.kind === 'swinging' ? (value.low + value.high) / 2 : null;
}

function expectedOf(
  healthy: HealthyBoard,
  standing: readonly Reading[],
  net: Net,
  reading: Reading,
): Expected | null {
  const same = standing.findLast(
    (one) =>
      one.at.net === net.id &&
      one.mode === reading.mode &&
      one.phase === reading.phase &&
      one.reference === null,
  );
  const read = same ? middle(same) : null;
  if (read !== null) return { low: read, high: read, isRead: true };
  const expected = healthy.expect(net.id, reading.mode, reading.phase);
  if (expected.kind !== 'value') return null;
  if (expected.off) return { low: 0, high: 0, isRead: false };
  const [low, high] = net.rangeVolts ?? [expected.value, expected.value];
  return {
    low: Math.min(low, expected.value),
    high: Math.max(high, expected.value),
    isRead: false,
  };
}

/**
 * Two places of one net swing together, between the same volts, and one that stands still is not on a net that
 * swings. Null where neither swings, or the net was not read in this phase.
 */
function swingOf(
  standing: readonly Reading[],
  net: Net,
  { mode, phase, value }: Reading,
): { together: boolean; density: number } | null {
  if (mode !== 'volts') return null;
  const same = standing.findLast(
    (one) =>
      one.at.net === net.id && one.mode === mode && one.phase === phase && one.reference === null,
  )?.value;
  if (!same || (same.kind !== 'swinging' && value.kind !== 'swinging')) return null;
  if (same.kind !== 'swinging' || value.kind !== 'swinging') return { together: false, density: 0 };
  const sigma = Math.hypot(weights.swingPart * Math.max(same.high, value.high), weights.strayVolts);
  const [low, high] = [value.low - same.low, value.high - same.high];
  // Both ends agree by chance as seldom as one value does, and once more.
  const density = normal((low + high) / 2, sigma) * Math.exp(-0.5 * ((high - low) / sigma) ** 2);
  return { together: Math.max(Math.abs(low), Math.abs(high)) < 2 * sigma, density };
}

/** Natural logarithm of a density per volt, or per decade of ohms; null where it tells nothing. */
function logOf(
  healthy: HealthyBoard,
  standing: readonly Reading[],
  net: Net,
  reading: Reading,
): number | null {
  if (reading.reference) return joinedLog(reading, reading.reference.net === net.id);
  switch (reading.mode) {
    case 'volts': {
      const volts = middle(reading);
      if (volts === null) return null;
      const expected = expectedOf(healthy, standing, net, reading);
      const any = 1 / weights.mostVolts;
      const swing = swingOf(standing, net, reading);
      if (swing) return Math.log((1 - slip) * swing.density + slip * any);
      if (!expected) return Math.log(0.5 * any + 0.5 * deadDensity(volts));
      if (expected.isRead) {
        const sigma = Math.hypot(weights.alikePart * expected.low, weights.alikeVolts);
        return Math.log((1 - slip) * normal(volts - expected.low, sigma) + slip * any);
      }
      const up = rangeDensity(volts, expected);
      const rest = 1 - weights.up - weights.dead;
      return Math.log(weights.up * up + weights.dead * deadDensity(volts) + rest * any);
    }
    case 'ohms':
    case 'diode':
      return coldLog(standing, net, reading);
    default:
      return null;
  }
}

function coldLog(standing: readonly Reading[], net: Net, reading: Reading): number | null {
  const value = reading.value.kind === 'number' ? reading.value.value : null;
  if (value === null) return null;
  const same = standing.findLast(
    (one) =>
      one.at.net === net.id &&
      one.mode === reading.mode &&
      one.reference === null &&
      one.value.kind === 'number',
  );
  const other = same?.value.kind === 'number' ? same.value.value : null;
  if (reading.mode === 'diode') {
    if (other !== null) return Math.log(0.95 * normal(value - other, 0.01) + 0.05);
    return net.coldDiodeVolts === null
      ? Math.log(normal(value - usualDiode(net), 0.15))
      : Math.log(0.9 * normal(value - net.coldDiodeVolts, 0.04) + 0.1);
  }
  const decades = Math.log10(Math.max(value, 0.1));
  if (other !== null)
    return Math.log(0.95 * normal(decades - Math.log10(Math.max(other, 0.1)), 0.08) + 0.05 / 7);
  const [at, spread] = net.coldOhms === null ? usualDecades(net) : [Math.log10(net.coldOhms), 0.35];
  return Math.log(0.85 * normal(decades - at, spread) + 0.15 / 7);
}

/** Ohms to ground of a net of this kind, in decades: core rails are a few to a hundred ohms, main rails tens of kilohms. */
function usualDecades(net: Net): readonly [number, number] {
  const volts = net.volts ?? (net.rangeVolts ? (net.rangeVolts[0] + net.rangeVolts[1]) / 2 : null);
  if (net.kind !== 'rail') return [4.3, 0.8];
  if (volts === null) return [3, 1];
  if (net.loadAmps > 1) return [1.2, 0.6];
  if (volts < 1.6) return [2.2, 0.7];
  return volts > 6 ? [4.5, 0.8] : [3.6, 0.7];
}
const usualDiode = (net: Net): number => (net.loadAmps > 1 ? 0.1 : 0.42);

/** A net nobody drew: anything, dead as often as not. */
function offSheetLog(reading: Reading): number | null {
  if (reading.reference) return joinedLog(reading, false);
  if (reading.mode === 'volts') {
    const volts = middle(reading);
    return volts === null
      ? null
      : Math.log(0.35 * deadDensity(volts) + 0.65 * (1 / weights.mostVolts));
  }
  if (reading.value.kind !== 'number') return null;
  if (reading.mode === 'ohms')
    return Math.log(normal(Math.log10(Math.max(reading.value.value, 0.1)) - 3.5, 1.3));
  return reading.mode === 'diode' ? Math.log(normal(reading.value.value - 0.45, 0.2)) : null;
}

/** Both leads on one net read next to nothing; on two nets they seldom do. */
function joinedLog({ mode, value }: Reading, isSame: boolean): number | null {
  if (mode !== 'ohms') return null;
  const isLow =
    value.kind === 'beep' || (value.kind === 'number' && value.value < weights.joinedOhms);
  if (isLow === isSame) return Math.log(0.97);
  // A lead that does not touch reads OL, not ohms.
  return Math.log(isSame && value.kind === 'number' ? 0.003 : 0.03);
}

const deadDensity = (volts: number): number =>
  Math.abs(volts) < nothingVolts ? 1 / (2 * nothingVolts) : 1e-6;

function rangeDensity(volts: number, { low, high }: Expected): number {
  const sigma = Math.hypot(weights.strayPart * high, weights.strayVolts);
  if (high - low < 2 * sigma) return normal(volts - (low + high) / 2, sigma);
  return softUniform(volts, low, high, sigma);
}

/** Pairs of candidates less likely than this together need no question. */
const worthAsking = 0.02;

function questionFor(
  healthy: HealthyBoard,
  standing: readonly Reading[],
  own: readonly Reading[],
  candidates: readonly NameCandidate[],
  point: NetId,
): NamingQuestion | null {
  const first = candidates[0];
  if (!first || first.probability > 0.97) return null;
  const likely = candidates.filter((one) => one.net !== null && one.probability > 0.01).slice(0, 8);
  const isRead = (mode: string, phase: Phase, against: NetId | null): boolean =>
    own.some(
      (one) => one.mode === mode && one.phase === phase && (one.reference?.net ?? null) === against,
    );
  let best: { gain: number; question: NamingQuestion } | null = null;
  const offer = (gain: number, question: NamingQuestion): void => {
    if (gain > worthAsking && gain > (best?.gain ?? 0)) best = { gain, question };
  };
  for (const phase of ['standby', 'run'] as const) {
    if (isRead('volts', phase, null)) continue;
    let gain = 0;
    const told = new Map(
      likely.map((one) => {
        const net = netById(healthy.board, one.net);
        const probe = { mode: 'volts', phase } as Reading;
        return [one.net, net ? expectedOf(healthy, standing, net, probe) : null] as const;
      }),
    );
    for (const [at, a] of likely.entries())
      for (const b of likely.slice(at + 1)) {
        const [x, y] = [told.get(a.net), told.get(b.net)];
        if (!x || !y) continue;
        const apart = Math.max(0, x.low - y.high, y.low - x.high);
        if (
          apart >
          3 * Math.hypot(weights.strayPart * Math.max(x.high, y.high), weights.strayVolts)
        )
          gain += a.probability * b.probability;
      }
    const split = likely
      .slice(0, 3)
      .flatMap((one) => {
        const at = told.get(one.net);
        if (!at) return [];
        const volts =
          at.high - at.low < 0.1
            ? formatVolts(Number(at.high.toPrecision(3)))
            : `${formatVolts(Number(at.low.toPrecision(2)))} to ${formatVolts(Number(at.high.toPrecision(2)))}`;
        return [`${one.net} would be about ${volts}`];
      })
      .join(', ');
    offer(gain, { mode: 'volts', phase, against: null, why: `${split}.` });
  }
  // From lead to lead: one net beeps. Only where the candidate has been found somewhere else.
  for (const one of likely.slice(0, 3)) {
    const net = one.net as NetId;
    const isFound = standing.some(({ at, value }) => at.net === net && value.kind !== 'unreached');
    if (!isFound || net === point || isRead('ohms', 'cold', net)) continue;
    offer(0.9 * one.probability * (1 - one.probability), {
      mode: 'ohms',
      phase: 'cold',
      against: net,
      why: `Source off, one lead here, one where ${net} was read: next to 0 Ω if it is the same net.`,
    });
  }
  return (best as { question: NamingQuestion } | null)?.question ?? null;
}
