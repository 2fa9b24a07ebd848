import { netOf, type NetId, type StageId } from '../../board/index.ts';
import type { Expectation, Mode, Phase, Reading } from '../../readings/index.ts';
import {
  decidingFeed,
  doubtfulReading,
  isOpen,
  mayBeUntouched,
  phaseFor,
  probePlace,
  provenBehind,
  provokedState,
  railsBehind,
  roleText,
  shortBeforeRepair,
  statusOf,
  unreadOutput,
  type Trace,
  type TracedNeed,
  type TraceKnown,
} from '../../trace/index.ts';

// The walk: what is read next in the order of waking, from what the trace says was not read yet.

export interface NextProbe {
  net: NetId;
  stage: StageId | null;
  mode: Mode;
  phase: Phase;
  place: ReturnType<typeof probePlace>;
  expectation: Expectation;
  why: string;
  /** A reading that stands is in doubt by itself: nothing is to follow from it before it is read again. */
  isAgain?: true;
  /** To be read before a source is connected, whatever else would tell more. */
  beforePower?: true;
  /** Standing readings this one is to decide between. */
  decides: string[];
}

/** The next reading in the order of waking, or of what the missing stage needs; null where none is left. */
export function walkNext({ known, end, stages, goalReached }: Trace): NextProbe | null {
  if (goalReached) return null;
  const next = ohmsAfterRepair(known) ?? inDoubt(known) ?? atTheEnd(known, end, stages);
  const state = provokedState(known.readings);
  return next && state && next.phase !== 'cold'
    ? { ...next, why: `${next.why}. ${stateText[state]}` }
    : next;
}

/** How a point is to be read where the fault shows in one state only. */
const stateText: Record<NonNullable<Reading['state']>, string> = {
  warm: 'It shows while the board is warm: read it so, and write "warm" behind the value',
  pushed: 'It shows while the board is pushed: read it so, and write "pushed" behind the value',
  cold: 'Read it cold',
};

function atTheEnd(known: TraceKnown, end: Trace['end'], stages: Trace['stages']): NextProbe | null {
  switch (end.is) {
    case 'settled':
      return null;
    case 'nothing-wrong':
      return inOrder(known, stages) ?? ofGoal(known, end.goal);
    case 'after-press':
      return probe(
        known,
        end.net,
        `on boards where only a small regulator runs at rest, ${end.net} comes after the button: press it and read again`,
        'run',
      );
    case 'dragged':
      return outputOhms(known, end.net);
    case 'needs-open': {
      const [{ need, asked }] = end.open as [(typeof end.open)[number]];
      return settling(
        known,
        asked,
        `${asked} ${asked === need.net ? 'is' : 'leads to'} the ${roleText[need.role]} of ${end.net}`,
        isGuessedLater(known, asked, end.net) ? 'run' : undefined,
      );
    }
    case 'sister':
      return probe(
        known,
        end.sister,
        `what leads to ${end.net} is a guess: it may hang on ${end.sister}, which was not read`,
      );
    case 'needs-there':
      return (
        onceMore(known, end.net) ??
        outputOhms(known, end.net) ??
        ohmsBehind(known, end.net, end.needs)
      );
  }
}

/** Nothing is known to be wrong yet: the next unread output, in the order of waking. */
function inOrder(known: TraceKnown, stages: Trace['stages']): NextProbe | null {
  const proven = provenBehind(known);
  for (const { stage, state, nets, onPath } of stages) {
    if (!onPath || state === 'up' || state === 'enough') continue;
    const open = nets.find(({ net }) => isOpen(known, proven, net));
    if (open) return settling(known, open.net, `${stage.title}: next in the order of waking`);
  }
  return null;
}

/** No stage gives it, and the goal stands on it: a reset behind a buffer. */
function ofGoal(known: TraceKnown, goal: readonly NetId[]): NextProbe | null {
  const proven = provenBehind(known);
  const open = goal.find((net) => !known.healthy.stageOfNet(net) && isOpen(known, proven, net));
  return open === undefined
    ? null
    : settling(known, open, `what it was brought in for stands on ${open}`);
}

/** The reading that would settle a net that is open. */
function settling(known: TraceKnown, net: NetId, why: string, phase?: Phase): NextProbe | null {
  const status = known.status(net);
  if (status.kind === 'unread') return probe(known, net, why, phase);
  if (status.kind === 'contradicting')
    return {
      ...probe(
        known,
        net,
        `two readings of ${net} contradict each other: bad contact or an intermittent fault, a third decides`,
        status.reading.reading.phase,
      ),
      decides: [status.reading.id, status.other.id],
    };
  const feed = decidingFeed(known, net);
  return (
    feed && probe(known, feed.from, `the drop across ${feed.part} decides what ${net} is worth`)
  );
}

/** A rail that was shorted before something on it was changed: its ohms come before any source. */
function ohmsAfterRepair(known: TraceKnown): NextProbe | null {
  const net = shortBeforeRepair(known);
  if (net === null) return null;
  return {
    ...coldOhms(
      known,
      net,
      `${net} was shorted before the repair: source off, read its ohms before any source is connected`,
    ),
    beforePower: true,
  };
}

/** A reading that cannot be is read again before anything follows from it. */
function inDoubt(known: TraceKnown): NextProbe | null {
  const doubt = doubtfulReading(known);
  if (!doubt) return null;
  const { reading, expectation } = doubt.judged;
  return {
    ...probe(known, reading.at.net as NetId, doubt.why, reading.phase),
    expectation,
    isAgain: true,
  };
}

/** Before anybody turns to the iron. */
function onceMore(known: TraceKnown, net: NetId): NextProbe | null {
  const status = known.status(net);
  if (status.kind === 'unread' || !mayBeUntouched(known, net)) return null;
  return {
    ...probe(
      known,
      net,
      `${net} read nothing once, and all it needs is there: a probe that does not touch reads the same. Read it once more`,
      status.reading.reading.phase,
    ),
    isAgain: true,
  };
}

/** Everything it needs is there: is the output pulled down? Only ohms tell, with the source off. */
function outputOhms(known: TraceKnown, net: NetId): NextProbe | null {
  const unread = unreadOutput(known, net);
  if (unread === null) return null;
  return coldOhms(
    known,
    net,
    unread === 'untouched'
      ? `${net} read OL once, and something stands on every rail: a tip that does not touch reads the same. Read it once more`
      : `everything ${net} needs is there: source off, is its output pulled to ground?`,
  );
}

/** Ohms of a rail that may be what is wrong in its place. */
function ohmsBehind(known: TraceKnown, net: NetId, needs: readonly TracedNeed[]): NextProbe | null {
  for (const rail of railsBehind(known, net, needs)) {
    const isReported = needs.some((need) => need.net === rail && need.role === 'watched');
    // One of several is not read twice.
    const isWanted = isReported || statusOf(known.readings, rail, 'cold', 'ohms').kind === 'unread';
    if (!isWanted || unreadOutput(known, rail) === null) continue;
    return coldOhms(
      known,
      rail,
      isReported
        ? `${net} reports on ${rail}, whose volts nobody knows for sure: source off, is it pulled to ground?`
        : `a short on what ${net} lets on takes it away again: source off, is ${rail} pulled to ground?`,
    );
  }
  return null;
}

/** A need somebody guessed, of something that comes after the press: it may come no earlier. */
function isGuessedLater({ healthy }: TraceKnown, need: NetId, net: NetId): boolean {
  const { board } = healthy;
  // A button is read at rest.
  if (need === board.button?.net) return false;
  return phaseFor(healthy, net) === 'run' && netOf(board, need).origin === 'guess';
}

function probe(
  { healthy, gone }: TraceKnown,
  net: NetId,
  why: string,
  phase = phaseFor(healthy, net),
): NextProbe {
  return {
    net,
    stage: healthy.stageOfNet(net)?.id ?? null,
    mode: 'volts',
    phase,
    place: probePlace(healthy.board, net, gone),
    expectation: healthy.expect(net, 'volts', phase),
    why,
    decides: [],
  };
}

const coldOhms = (known: TraceKnown, net: NetId, why: string): NextProbe => ({
  ...probe(known, net, why),
  mode: 'ohms',
  phase: 'cold',
  expectation: known.healthy.expect(net, 'ohms', 'cold'),
});
