import { netOf, type NetId } from '../board/index.ts';
import type { OrderedStage } from '../expectations/index.ts';
import { nothingVolts, type Phase } from '../readings/index.ts';
import { isDragged, isGuessed, lineBehind, railsBehind, sisterOf } from './guesses.ts';
import { phaseFor, statusOf, type NetStatus } from './judged.ts';
import type { FirstMissing, Known, SearchEnd, TracedNeed } from './known.ts';
import {
  describeMissing,
  isAtFirstFive,
  isBroken,
  isCold,
  isTooHigh,
  isUndetected,
} from './missing-words.ts';
import { outputPulledDown } from './pulled-down.ts';
import { isCarrying, provenBehind } from './reading-again.ts';

// The search for the first missing stage: from a net that is wrong back along what it needs. Where it ends
// says what was not read yet; what of that is read next is said by diagnosis/proposing.

export type StageState =
  /** Everything it gives was read and is good. */
  | 'up'
  /** Something it gives was read and is wrong. */
  | 'down'
  /** Read, but the readings do not decide. */
  | 'undecided'
  /** Not read, but a stage that needs it is up: it was enough for that one. */
  | 'enough'
  | 'unread';

export interface TracedStage extends OrderedStage {
  state: StageState;
  onPath: boolean;
  nets: { net: NetId; status: NetStatus; phase: Phase }[];
}

interface Found {
  firstMissing: FirstMissing;
  end: SearchEnd;
}

/** From a net that is not there, up its needs to the first one whose own needs are all there. */
export function findMissing(known: Known, start: NetId): Found {
  const proven = provenBehind(known);
  const seen = new Set<NetId>();
  const found = (
    net: NetId,
    needs: TracedNeed[],
    certain: boolean,
    end: SearchEnd = { is: 'settled' },
  ): Found => ({ firstMissing: describeMissing(known, net, needs, certain), end });
  let net = start;
  for (;;) {
    seen.add(net);
    if (isBroken(known.status(net))) return found(net, [], true);
    const needs = needsOf(known, net);
    // What is shorted needs no reading of what feeds it.
    if (isCold(known.status(net)) || outputPulledDown(known, net) === 'surely')
      return found(net, needs, true);
    if (mayComeAfterPress(known, net)) return found(net, needs, false, { is: 'after-press', net });
    const missing = needs.find((need) => need.status.kind === 'bad' && !seen.has(need.net));
    const line = needs
      .filter((need) => need.status.kind === 'unread')
      .flatMap((need) => lineBehind(known, need.net) ?? [])
      .find((behind) => known.status(behind).kind === 'bad' && !seen.has(behind));
    if (!missing && line) {
      net = line;
      continue;
    }
    if (missing) {
      // A feed that comes and goes is dragged by what stands behind it more often than not.
      const isPulled = isDragged(known, missing);
      if (isPulled && outputPulledDown(known, net)) return found(net, needs, true);
      if (isPulled && unreadOutput(known, net) !== null)
        return found(net, needs, false, { is: 'dragged', net });
      net = missing.net;
      continue;
    }
    const open = needs.flatMap((need) => {
      const behind = need.status.kind === 'unread' ? lineBehind(known, need.net) : null;
      const asked = behind !== null && known.status(behind).kind === 'unread' ? behind : need.net;
      return isOpen(known, proven, asked) ? [{ need, asked }] : [];
    });
    if (open.length > 0) return found(net, needs, false, { is: 'needs-open', net, open });
    const sister = sisterOf(known, net, needs, seen);
    if (sister && known.status(sister).kind === 'bad') {
      net = sister;
      continue;
    }
    if (sister) return found(net, needs, false, { is: 'sister', net, sister });
    const down = railsBehind(known, net, needs).find((rail) => outputPulledDown(known, rail));
    if (down) return found(down, needsOf(known, down), true);
    return found(net, needs, true, { is: 'needs-there', net, needs });
  }
}

function needsOf(known: Known, net: NetId): TracedNeed[] {
  // A USB-C bus with nothing on it wants nothing of the board's chips yet.
  if (isUndetected(known, net)) return [];
  return known.healthy.upstream
    .of(net)
    .filter(({ net: up }) => known.healthy.expect(up, 'volts', 'run').kind === 'value')
    .map(({ net: up, role, via }) => ({
      net: up,
      role,
      via,
      status: known.status(up),
      phase: phaseFor(known.healthy, up),
    }));
}

/** Missing at rest where nobody knows whether it comes before the button, and not read after the press. */
function mayComeAfterPress(known: Known, net: NetId): boolean {
  const status = known.status(net);
  return (
    known.later.has(net) &&
    status.kind === 'bad' &&
    status.reading.reading.phase === 'standby' &&
    // No button is pressed into a short that is known.
    outputPulledDown(known, net) === null &&
    statusOf(known.readings, net, 'run').kind === 'unread'
  );
}

/** The feed of a net whose readings do not decide, unread, where the drop to it would; null where none would. */
export function decidingFeed(known: Known, net: NetId): { from: NetId; part: string } | null {
  // Whatever it is worth, it was enough for what it feeds.
  if (isCarrying(known, net)) return null;
  const feed = known.healthy.seriesFeed(net, phaseFor(known.healthy, net));
  return feed && known.status(feed.from as NetId).kind === 'unread'
    ? { from: feed.from as NetId, part: feed.part }
    : null;
}

/** Whether a reading would still settle a net; `proven` was read as needed by something that is there. */
export function isOpen(known: Known, proven: ReadonlySet<NetId>, net: NetId): boolean {
  switch (known.status(net).kind) {
    case 'good':
    case 'bad':
    case 'unjudged':
      return false;
    case 'unread':
      return !proven.has(net);
    case 'contradicting':
      return true;
    case 'undecided':
      return decidingFeed(known, net) !== null;
  }
}

/**
 * Whether cold ohms of an output are still to be read: `untouched` where one OL was, and something stands
 * on every rail. Null where they were, or tell nothing.
 */
export function unreadOutput(known: Known, net: NetId): 'unread' | 'untouched' | null {
  const { board } = known.healthy;
  if (netOf(board, net).kind !== 'rail' || isTooHigh(known.status(net))) return null;
  if (isAtFirstFive(known, net)) return null;
  const read = known.readings.filter(
    ({ standing, reading }) =>
      standing.kind === 'stands' &&
      reading.at.net === net &&
      reading.mode === 'ohms' &&
      reading.reference === null,
  );
  if (read.length === 0) return 'unread';
  const expectation = known.healthy.expect(net, 'ohms', 'cold');
  // Where a converter's way in is open, nothing may stand there.
  return netOf(board, net).origin !== 'guess' &&
    read.length === 1 &&
    read[0]!.reading.value.kind === 'over' &&
    !(expectation.kind === 'value' && expectation.value === Infinity)
    ? 'untouched'
    : null;
}

/**
 * Nothing, read once on a sheet of guesses, where no play speaks against a slip: it may be a probe that did
 * not touch.
 */
export function mayBeUntouched(known: Known, net: NetId): boolean {
  if (!isGuessed(known)) return false;
  const status = known.status(net);
  if (status.kind !== 'bad' || status.reading.reading.phase === 'cold') return false;
  const { at, phase, mode, value } = status.reading.reading;
  if (value.kind !== 'number' || Math.abs(value.value) > nothingVolts) return false;
  const times = known.readings.filter(
    ({ standing, reading }) =>
      standing.kind === 'stands' &&
      reading.at.net === at.net &&
      reading.mode === mode &&
      reading.phase === phase,
  ).length;
  return times === 1 && !isCutOff(known, net);
}

/** A part that leads to it was measured from end to end and is open: no slip of the tip. */
const isCutOff = ({ readings }: Known, net: NetId): boolean =>
  readings.some(
    ({ standing, reading, verdict }) =>
      standing.kind === 'stands' &&
      verdict.kind === 'open' &&
      reading.reference !== null &&
      [reading.at.net, reading.reference.net].includes(net),
  );

/** A rail that was shorted before something on it was changed, and was not read since; null where none was. */
export function shortBeforeRepair({ readings }: Known): NetId | null {
  const short = readings.findLast(
    ({ standing, reading, verdict }) =>
      standing.kind === 'before-repair' &&
      reading.phase === 'cold' &&
      reading.mode === 'ohms' &&
      reading.reference === null &&
      verdict.kind === 'shorted',
  );
  if (!short) return null;
  const net = short.reading.at.net as NetId;
  // Whatever was plugged in then.
  const isReadAgain = readings.some(
    ({ standing, reading }) =>
      standing.kind === 'stands' &&
      !standing.wasBefore &&
      reading.at.net === net &&
      reading.reference === null &&
      (reading.mode === 'ohms' || reading.mode === 'volts'),
  );
  return isReadAgain ? null : net;
}
