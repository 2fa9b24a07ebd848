import {
  netOf,
  type Board,
  type NetId,
  type Source,
  findPart,
  netById,
  joinedTo,
} from '../board/index.ts';
import { attachedIn, benchSetup } from '../play/index.ts';
import { riskyStages, type HealthyBoard, type OtherBench } from '../expectations/index.ts';
import {
  isBad,
  isBrokenBetween,
  isGood,
  isProvoked,
  judge,
  verdict,
  type AcrossPart,
  type Expectation,
  type LoadBehind,
  type Mode,
  type Phase,
  type Reading,
  type SeriesFeed,
  type ThroughStage,
  type Verdict,
} from '../readings/index.ts';
import type { KeptReading } from '../record/index.ts';

export interface JudgedReading extends KeptReading {
  /** What it was to read on the bench it was taken on. */
  expectation: Expectation;
  verdict: Verdict;
  /** Taken as the bench stands now: only then does it say that something is there. */
  isHere: boolean;
  /** Taken on another version of the sheet: held against the sheet as it is now, which was put right since. */
  isOfOtherSheet: boolean;
}

/** What is known of a net in the condition that counts. */
export type NetStatus =
  | { kind: 'unread' }
  | { kind: 'good' | 'undecided' | 'unjudged'; reading: JudgedReading }
  /** `there`: at another pin of the net it was read as it should be, so the copper between is broken. */
  | { kind: 'bad'; reading: JudgedReading; there?: JudgedReading }
  /** Two readings that stand contradict each other: bad contact or intermittent fault. */
  | { kind: 'contradicting'; reading: JudgedReading; other: JudgedReading };

/** How versions of a sheet are named. */
const sheetHash = /^[0-9a-f]{16}$/;

/** After the press: what is read while the board tries outlives what is left when it gave up. */
const afterPress: readonly Phase[] = ['trying', 'pressed', 'run'];

export function judgeAll(healthy: HealthyBoard, kept: readonly KeptReading[]): JudgedReading[] {
  const standing = kept.filter((one) => one.standing.kind === 'stands');
  const judged = kept.map((one): JudgedReading => {
    const { reading } = one;
    const net = netById(healthy.board, reading.at.net);
    const isHere = speaksOfBench(healthy, reading);
    // One made by choices grows with every point: there it would stand at every reading.
    const isOfOtherSheet =
      healthy.board.choices === null &&
      sheetHash.test(reading.sheet) &&
      reading.sheet !== healthy.board.hash;
    const isOfOtherBoard = one.standing.kind === 'other-board';
    if (!net || isOfOtherBoard) {
      const because = isOfOtherBoard
        ? "taken on another board's sheet"
        : `${reading.at.net} is not on the sheet any more`;
      return {
        ...one,
        isHere,
        isOfOtherSheet,
        expectation: { kind: 'unknown', because },
        verdict: verdict('unjudged', { is: 'not-on-sheet', net: reading.at.net }),
      };
    }
    const own = healthy.onBench(benchOf(healthy, reading));
    const expectation = own.expect(net.id, reading.mode, reading.phase);
    const alike = standing.filter((other) => isSameBench(other.reading, reading));
    const series =
      reading.mode === 'volts' ? nearestRead(own, alike, standing, net.id, reading.phase) : null;
    const judged = judge(reading, {
      net,
      expectation,
      series,
      source: sourceOf(own, reading),
      drive: own.drive(net.id),
      across: reading.reference && acrossOf(own, reading),
      through: reading.reference && throughOf(own, reading),
      charge: isOnBattery(own, reading) ? own.charge(net.id) : null,
    });
    return { ...one, isHere, isOfOtherSheet, expectation, verdict: judged };
  });
  const shown = stateThatShows(judged);
  return judged.map((reading) => ({
    ...reading,
    isHere: reading.isHere && isInState(reading.reading, shown),
  }));
}

/** The state that is traced: a provoked one where only that shows anything wrong, null else. */
function stateThatShows(judged: readonly JudgedReading[]): Reading['state'] | null {
  const bad = judged.filter(
    ({ standing, isHere, reading, verdict }) =>
      standing.kind === 'stands' && isHere && reading.phase !== 'cold' && isBad(verdict),
  );
  return bad.every(({ reading }) => isProvoked(reading))
    ? (bad.at(-1)?.reading.state ?? null)
    : null;
}

/** Unpowered, a board is as it is; with a source on it, what was read otherwise says nothing of this state. */
const isInState = (reading: Reading, shown: Reading['state'] | null): boolean =>
  shown === null || reading.phase === 'cold' ? !isProvoked(reading) : reading.state === shown;

/** The provoked state that is traced, by what was judged; null where it is none. */
export const provokedState = (judged: readonly JudgedReading[]): Reading['state'] | null =>
  judged.find(({ isHere, reading }) => isHere && isProvoked(reading))?.reading.state ?? null;

/** A supply set nearer than this to what the sheet says is as the sheet says. */
const sameSupplyPart = 0.02;

/** The bench a reading was taken on. */
function benchOf({ board, play }: HealthyBoard, reading: Reading): OtherBench {
  const { attached, lifted } = reading;
  const source = reading.phase === 'cold' ? null : reading.source;
  const fed = board.sources.find((one) => one.id === (source?.id ?? play.setup.source));
  const volts = source?.volts ?? fed?.volts ?? 0;
  const isSet = fed !== undefined && Math.abs(volts - fed.volts) > sameSupplyPart * fed.volts;
  return {
    source: source?.id ?? null,
    attached,
    lifted,
    // A USB-C source gives what it is asked for.
    supply:
      isSet && fed.kind !== 'usb-c'
        ? { volts, limitAmps: source?.limitAmps ?? fed.limitAmps }
        : undefined,
  };
}

const sameNames = (a: readonly string[], b: readonly string[]): boolean =>
  [...a].sort().join() === [...b].sort().join();

/**
 * Whether a reading speaks of the bench as it stands. Lifting a part to see does not undo what was read
 * with it on.
 */
function speaksOfBench({ board, play }: HealthyBoard, reading: Reading): boolean {
  const { setup } = play;
  const isFed = reading.phase === 'cold' || !reading.source || reading.source.id === setup.source;
  // Fed by its battery, the board has it plugged in.
  const own = attachedIn(
    board,
    benchSetup(board, { source: setup.source, attached: reading.attached }),
  );
  return isFed && sameNames(own, attachedIn(board, setup));
}

const acrossOf = (healthy: HealthyBoard, reading: Reading): AcrossPart | null =>
  reading.reference &&
  healthy.across({
    net: reading.at.net as NetId,
    reference: reading.reference.net as NetId,
    mode: reading.mode,
    phase: reading.phase,
    polarity: reading.polarity,
    part: reading.at.part,
  });

/** The switching stage two leads stand across, whichever way round. */
function throughOf({ board }: HealthyBoard, { at, reference }: Reading): ThroughStage | null {
  const ends = [at.net, reference?.net];
  const stage = riskyStages(board).find(
    ({ feed, output, rail }) =>
      ends.includes(feed) && (ends.includes(output) || ends.includes(rail)),
  );
  return stage ? { chip: stage.chip, rail: stage.rail, feedVolts: stage.feedVolts } : null;
}

/** Whether a battery hangs on a board that something else feeds. */
function isOnBattery({ board }: HealthyBoard, { attached, source }: Reading): boolean {
  const battery = board.sources.find((one) => one.kind === 'battery');
  return (
    typeof battery?.on === 'string' && attached.includes(battery.on) && source?.id !== battery.id
  );
}

/** The source that feeds the very net a reading was taken on. */
const sourceOf = ({ board, play }: HealthyBoard, { at, source }: Reading): Source | null =>
  board.sources.find(
    (one) => one.net === at.net && (one.stays || one.id === (source?.id ?? play.setup.source)),
  ) ?? null;

/**
 * The low-loss path into a net, as far up as the nearest net that was read in the same condition: a
 * fuse and a ferrite in a row are judged by the drop over both. Where none was read, up to the FET whose
 * body diode may feed it, else the last part.
 */
function nearestRead(
  healthy: HealthyBoard,
  alike: readonly KeptReading[],
  standing: readonly KeptReading[],
  net: NetId,
  phase: Phase,
): SeriesFeed | null {
  const voltsAt = (of: string): number | null => {
    const found = alike.findLast(
      ({ reading }) =>
        reading.at.net === of &&
        reading.mode === 'volts' &&
        reading.reference === null &&
        sameCondition(reading.phase, phase) &&
        reading.value.kind === 'number',
    )?.reading.value;
    return found?.kind === 'number' ? found.value : null;
  };
  const direct = healthy.seriesFeed(net, phase);
  const parts: string[] = [];
  let fet: NonNullable<typeof direct> | null = null;
  let dropVolts = 0;
  for (let feed = direct; feed; feed = healthy.seriesFeed(feed.from as NetId, phase)) {
    parts.unshift(feed.part);
    dropVolts += feed.dropVolts;
    const isFet = feed.kind === 'pfet' || feed.kind === 'nfet';
    if (isFet && !fet?.diodePasses) fet = feed;
    const upstreamVolts = voltsAt(feed.from);
    if (upstreamVolts === null) continue;
    return {
      part: parts.join(' and '),
      kind: fet?.kind ?? feed.kind,
      from: feed.from,
      diodePasses: fet?.diodePasses ?? false,
      dropVolts,
      upstreamVolts,
      gateVolts: direct?.kind === 'nfet' ? gateOf(healthy.board, direct.part, net, voltsAt) : null,
      load: loadBehind(healthy, standing, net, direct?.part),
    };
  }
  return (fet ?? direct) && { ...(fet ?? direct!), upstreamVolts: null };
}

/** The gate of a FET whose source pin is this net, as read. */
function gateOf(
  board: Board,
  ref: string,
  net: NetId,
  voltsAt: (net: string) => number | null,
): number | null {
  const pins = findPart(board, ref)?.pins ?? [];
  const gate = pins.find((one) => one.name === 'G')?.net;
  const follows = pins.some((one) => one.name === 'S' && one.net === net);
  return follows && gate ? voltsAt(gate) : null;
}

/** What cold ohms say of the load behind a part, wherever they were read on what milliohms join. */
function loadBehind(
  healthy: HealthyBoard,
  standing: readonly KeptReading[],
  net: NetId,
  part: string | undefined,
): LoadBehind {
  const joined = joinedTo(healthy.board, [net], part);
  const kinds = standing
    .filter(
      ({ reading }) =>
        reading.mode === 'ohms' &&
        reading.reference === null &&
        joined.has(reading.at.net as NetId) &&
        reading.value.kind !== 'unreached',
    )
    .map(({ reading }) => {
      const of = reading.at.net as NetId;
      return judge(reading, {
        net: netOf(healthy.board, of),
        expectation: healthy.expect(of, 'ohms', 'cold'),
        series: null,
        drive: healthy.drive(of),
      }).kind;
    });
  if (kinds.length === 0 || kinds.every((kind) => kind === 'undecided')) return 'unread';
  return kinds.includes('shorted') ? 'shorted' : 'clear';
}

const sameCondition = (a: Phase, b: Phase): boolean =>
  a === b || (afterPress.includes(a) && afterPress.includes(b));

/** Looks a net up among the readings that stand and were taken as the bench stands. */
export function statusOf(
  judged: readonly JudgedReading[],
  net: NetId,
  phase: Phase,
  mode: Mode = 'volts',
): NetStatus {
  const all = judged.filter(
    (one) =>
      one.standing.kind === 'stands' &&
      one.isHere &&
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
  const alike = wanted.filter(
    (one) =>
      one.reading.phase === last.reading.phase &&
      isSameBench(one.reading, last.reading) &&
      one.verdict.kind !== 'unjudged' &&
      last.verdict.kind !== 'unjudged',
  );
  const against = alike.filter(({ verdict }) => isBad(verdict) !== isBad(last.verdict));
  // Read again and again the same, the one before was a slip.
  const isOutvoted = alike.length - against.length > against.length;
  const broken = against.find(({ reading }) => isBrokenBetween(reading, last.reading));
  const other = broken ?? (isOutvoted ? undefined : against[0]);
  if (other && isBrokenBetween(other.reading, last.reading)) {
    const [reading, there] = isBad(last.verdict) ? [last, other] : [other, last];
    return { kind: 'bad', reading, there };
  }
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
const isSameBench = (a: Reading, b: Reading): boolean =>
  sameNames(a.attached, b.attached) &&
  sameNames(a.lifted, b.lifted) &&
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
