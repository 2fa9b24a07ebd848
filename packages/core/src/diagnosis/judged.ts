import { netOf, type NetId } from '../board/index.ts';
import type { HealthyBoard } from '../powerup/index.ts';
import {
  isBad,
  isGood,
  judge,
  type AcrossPart,
  type Expectation,
  type Mode,
  type Phase,
  type Reading,
  type SeriesFeed,
  type Verdict,
} from '../readings/index.ts';
import type { KeptReading } from '../record/index.ts';

export interface JudgedReading extends KeptReading {
  expectation: Expectation;
  verdict: Verdict;
}

/** What is known of a net in the condition that counts. */
export type NetStatus =
  | { kind: 'unread' }
  | { kind: 'good' | 'bad' | 'undecided' | 'unjudged'; reading: JudgedReading }
  /** Two readings that stand contradict each other: bad contact or intermittent fault. */
  | { kind: 'contradicting'; reading: JudgedReading; other: JudgedReading };

/** After the press: what is read while the board tries outlives what is left when it gave up. */
const afterPress: readonly Phase[] = ['trying', 'pressed', 'run'];

export function judgeAll(healthy: HealthyBoard, kept: readonly KeptReading[]): JudgedReading[] {
  const standing = kept.filter((one) => one.standing.kind === 'stands');
  return kept.map((one) => {
    const { reading } = one;
    const net = healthy.board.nets.find((candidate) => candidate.id === reading.at.net);
    if (!net) {
      return {
        ...one,
        expectation: { kind: 'unknown', because: `${reading.at.net} is not on the sheet any more` },
        verdict: { kind: 'unjudged', why: `${reading.at.net} is not on the sheet any more.` },
      };
    }
    const expectation = healthy.expect(net.id, reading.mode, reading.phase);
    const series =
      reading.mode === 'volts' ? nearestRead(healthy, standing, net.id, reading.phase) : null;
    const verdict = judge(reading, {
      net,
      expectation,
      series,
      drive: healthy.drive(net.id),
      across: reading.reference && acrossOf(healthy, reading),
      charge: isOnBattery(healthy, reading) ? healthy.charge(net.id) : null,
    });
    return { ...one, expectation, verdict };
  });
}

const acrossOf = (healthy: HealthyBoard, reading: Reading): AcrossPart | null =>
  reading.reference &&
  healthy.across({
    net: reading.at.net as NetId,
    reference: reading.reference.net as NetId,
    mode: reading.mode,
    phase: reading.phase,
    polarity: reading.polarity,
  });

/** Whether a battery hangs on a board that something else feeds. */
function isOnBattery({ board }: HealthyBoard, { attached, source }: Reading): boolean {
  const battery = board.sources.find((one) => one.kind === 'battery');
  return (
    typeof battery?.on === 'string' && attached.includes(battery.on) && source?.id !== battery.id
  );
}

/**
 * The low-loss path into a net, as far up as the nearest net that was read in the same condition: a
 * fuse and a ferrite in a row are judged by the drop over both. Where none was read, the last part.
 */
function nearestRead(
  healthy: HealthyBoard,
  standing: readonly KeptReading[],
  net: NetId,
  phase: Phase,
): SeriesFeed | null {
  const direct = healthy.seriesFeed(net, phase);
  const parts: string[] = [];
  let kind = direct?.kind;
  let dropVolts = 0;
  for (let feed = direct; feed; feed = healthy.seriesFeed(feed.from as NetId, phase)) {
    parts.push(feed.part);
    dropVolts += feed.dropVolts;
    if (feed.kind === 'pfet' || feed.kind === 'nfet') kind = feed.kind;
    const from = feed.from;
    const before = standing.findLast(
      ({ reading }) =>
        reading.at.net === from &&
        reading.mode === 'volts' &&
        reading.reference === null &&
        sameCondition(reading.phase, phase) &&
        reading.value.kind === 'number',
    );
    if (before?.reading.value.kind !== 'number') continue;
    const part = parts.reverse().join(' and ');
    return {
      part,
      kind: kind ?? feed.kind,
      from,
      dropVolts,
      upstreamVolts: before.reading.value.value,
    };
  }
  return direct && { ...direct, upstreamVolts: null };
}

const sameCondition = (a: Phase, b: Phase): boolean =>
  a === b || (afterPress.includes(a) && afterPress.includes(b));

/** Looks a net up among the readings that stand. */
export function statusOf(
  judged: readonly JudgedReading[],
  net: NetId,
  phase: Phase,
  mode: Mode = 'volts',
): NetStatus {
  const all = judged.filter(
    (one) =>
      one.standing.kind === 'stands' &&
      one.reading.at.net === net &&
      one.reading.mode === mode &&
      one.reading.reference === null,
  );
  const wanted =
    mode !== 'volts'
      ? all
      : phase === 'standby'
        ? preferred(all, ['standby', ...afterPress])
        : preferred(all, afterPress);
  const later = mode === 'volts' && phase === 'standby' ? preferred(all, afterPress) : [];
  // There in standby and gone once the board is asked to run: it is missing from then on.
  const sags = later.filter((one) => isBad(one.verdict));
  const last = (sags.length > 0 && sags.length === later.length ? sags : wanted).at(-1);
  if (!last) return { kind: 'unread' };
  const other = wanted.find(
    (one) =>
      one !== last &&
      one.reading.phase === last.reading.phase &&
      isAlike(one.reading, last.reading) &&
      isBad(one.verdict) !== isBad(last.verdict) &&
      one.verdict.kind !== 'unjudged' &&
      last.verdict.kind !== 'unjudged',
  );
  if (other) return { kind: 'contradicting', reading: last, other };
  const kind = isGood(last.verdict)
    ? 'good'
    : isBad(last.verdict)
      ? 'bad'
      : last.verdict.kind === 'undecided'
        ? 'undecided'
        : 'unjudged';
  return { kind, reading: last };
}

/** Taken with the same things plugged in and the same parts on the board: only then can they contradict. */
const isAlike = (a: Reading, b: Reading): boolean =>
  [...a.attached].sort().join() === [...b.attached].sort().join() &&
  [...a.lifted].sort().join() === [...b.lifted].sort().join() &&
  a.source?.id === b.source?.id;

/** Readings of the first phase in the list that has any. */
function preferred(readings: readonly JudgedReading[], order: readonly Phase[]): JudgedReading[] {
  for (const phase of order) {
    const found = readings.filter((one) => one.reading.phase === phase);
    if (found.length > 0) return found;
  }
  return [];
}

/** The phase in which a net is to be read: standby when it is there by then. */
export function phaseFor(healthy: HealthyBoard, net: NetId): Phase {
  const expected = healthy.expect(net, 'volts', 'standby');
  if (expected.kind === 'value' && !expected.off) return 'standby';
  const later = healthy.expect(net, 'volts', 'run');
  if (later.kind === 'value' && !later.off) return 'run';
  // Low in both: a drive that is active low from the start.
  return 'standby';
}

export const netTitle = (healthy: HealthyBoard, net: NetId): string =>
  netOf(healthy.board, net).title || net;
