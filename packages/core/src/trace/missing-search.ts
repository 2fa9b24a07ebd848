import { netOf, type NetId } from '../board/index.ts';
import type { OrderedStage } from '../expectations/index.ts';
import { type Phase, nothingVolts } from '../readings/index.ts';
import { isDragged, isGuessed, lineBehind, railsBehind, sisterOf } from './guesses.ts';
import { phaseFor, statusOf, type NetStatus } from './judged.ts';
import {
  roleText,
  type FirstMissing,
  type Known,
  type NextProbe,
  type TracedNeed,
} from './known.ts';
import { isCarrying, provenBehind } from './reading-again.ts';
import {
  describeMissing,
  isCold,
  isAtFirstFive,
  isTooHigh,
  isUndetected,
} from './missing-words.ts';
import { probePlace } from './probe-place.ts';
import { outputPulledDown } from './pulled-down.ts';

// The search for the first missing stage: from a net that is wrong back along what it needs.

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

export class MissingSearch {
  private readonly known: Known;
  private readonly proven: ReadonlySet<NetId>;

  constructor(known: Known) {
    this.known = known;
    this.proven = provenBehind(known);
  }

  /** Nothing is known to be wrong yet: the next unread output, in the order of waking. */
  walk(stages: readonly TracedStage[]): NextProbe | null {
    for (const { stage, state, nets } of stages) {
      if (state === 'up' || state === 'enough') continue;
      for (const { net, status } of nets) {
        const probe = this.settle(net, status, `${stage.title}: next in the order of waking`);
        if (probe) return probe;
      }
    }
    return null;
  }

  /** A probe that would settle the net's status; null when it is settled. */
  private settle(net: NetId, status: NetStatus, why: string, phase?: Phase): NextProbe | null {
    switch (status.kind) {
      case 'good':
      case 'bad':
      case 'unjudged':
        return null;
      case 'unread':
        // Not read, and something that needs it was read as there.
        return this.proven.has(net) ? null : this.probe(net, why, phase);
      case 'contradicting':
        return {
          ...this.probe(
            net,
            `two readings of ${net} contradict each other: bad contact or an intermittent fault, a third decides`,
            status.reading.reading.phase,
          ),
          decides: [status.reading.id, status.other.id],
        };
      case 'undecided': {
        // Whatever it is worth, it was enough for what it feeds.
        if (isCarrying(this.known, net)) return null;
        const feed = this.known.healthy.seriesFeed(net, phaseFor(this.known.healthy, net));
        const from = feed?.from as NetId | undefined;
        if (from && this.known.status(from).kind === 'unread') {
          return this.probe(from, `the drop across ${feed?.part} decides what ${net} is worth`);
        }
        return null;
      }
    }
  }

  /** From a net that is not there, up its needs to the first one whose own needs are all there. */
  explain(start: NetId): { firstMissing: FirstMissing; next: NextProbe | null } {
    const seen = new Set<NetId>();
    let net = start;
    for (;;) {
      seen.add(net);
      const needs = this.needsOf(net);
      // What is shorted needs no reading of what feeds it.
      if (isCold(this.known.status(net)) || outputPulledDown(this.known, net) === 'surely')
        return { firstMissing: describeMissing(this.known, net, needs, true), next: null };
      const late = this.afterThePress(net);
      if (late) return { firstMissing: describeMissing(this.known, net, needs, false), next: late };
      const missing = needs.find((one) => one.status.kind === 'bad' && !seen.has(one.net));
      const line = needs
        .filter((one) => one.status.kind === 'unread')
        .flatMap((one) => lineBehind(this.known, one.net) ?? [])
        .find((one) => this.known.status(one).kind === 'bad' && !seen.has(one));
      if (!missing && line) {
        net = line;
        continue;
      }
      if (missing) {
        // A feed that comes and goes is dragged by what stands behind it more often than not.
        const dragged = isDragged(this.known, missing) ? outputPulledDown(this.known, net) : null;
        if (dragged)
          return { firstMissing: describeMissing(this.known, net, needs, true), next: null };
        const cold = isDragged(this.known, missing) ? this.outputProbe(net) : null;
        if (cold)
          return { firstMissing: describeMissing(this.known, net, needs, false), next: cold };
        net = missing.net;
        continue;
      }
      const open = needs.flatMap((one) => {
        const line = one.status.kind === 'unread' ? lineBehind(this.known, one.net) : null;
        const asked = line !== null && this.known.status(line).kind === 'unread' ? line : one.net;
        const probe = this.settle(
          asked,
          this.known.status(asked),
          `${asked} ${asked === one.net ? 'is' : 'leads to'} the ${roleText[one.role]} of ${net}`,
          this.isGuessedLater(asked, net) ? 'run' : undefined,
        );
        return probe ? [probe] : [];
      });
      const certain = open.length === 0;
      const sister = certain ? sisterOf(this.known, net, needs, seen) : null;
      if (sister && this.known.status(sister).kind === 'bad') {
        net = sister;
        continue;
      }
      if (sister)
        return {
          firstMissing: describeMissing(this.known, net, needs, false),
          next: this.probe(
            sister,
            `what leads to ${net} is a guess: it may hang on ${sister}, which was not read`,
          ),
        };
      const down = certain
        ? railsBehind(this.known, net, needs).find((one) => outputPulledDown(this.known, one))
        : undefined;
      if (down)
        return {
          firstMissing: describeMissing(this.known, down, this.needsOf(down), true),
          next: null,
        };
      return {
        firstMissing: describeMissing(this.known, net, needs, certain),
        next: open[0] ?? this.onceMore(net) ?? this.outputProbe(net) ?? this.coldBehind(net, needs),
      };
    }
  }

  /** Missing at rest where nobody knows whether it comes before the button: read it after the press too. */
  private afterThePress(net: NetId): NextProbe | null {
    if (!this.known.later.has(net)) return null;
    const status = this.known.status(net);
    if (status.kind !== 'bad' || status.reading.reading.phase !== 'standby') return null;
    // No button is pressed into a short that is known.
    if (outputPulledDown(this.known, net)) return null;
    return statusOf(this.known.readings, net, 'run').kind !== 'unread'
      ? null
      : this.probe(
          net,
          `on boards where only a small regulator runs at rest, ${net} comes after the button: press it and read again`,
          'run',
        );
  }

  private coldBehind(net: NetId, needs: readonly TracedNeed[]): NextProbe | null {
    for (const rail of railsBehind(this.known, net, needs)) {
      const isReported = needs.some((one) => one.net === rail && one.role === 'watched');
      const probe = this.outputProbe(rail);
      // One of several is not read twice.
      if (
        probe &&
        (isReported || statusOf(this.known.readings, rail, 'cold', 'ohms').kind === 'unread')
      )
        return {
          ...probe,
          why: isReported
            ? `${net} reports on ${rail}, whose volts nobody knows for sure: source off, is it pulled to ground?`
            : `a short on what ${net} lets on takes it away again: source off, is ${rail} pulled to ground?`,
        };
    }
    return null;
  }

  private needsOf(net: NetId): TracedNeed[] {
    // A USB-C bus with nothing on it wants nothing of the board's chips yet.
    if (isUndetected(this.known, net)) return [];
    return this.known.healthy.upstream
      .of(net)
      .filter(({ net: up }) => this.known.healthy.expect(up, 'volts', 'run').kind === 'value')
      .map(({ net: up, role, via }) => ({
        net: up,
        role,
        via,
        status: this.known.status(up),
        phase: phaseFor(this.known.healthy, up),
      }));
  }

  /**
   * Nothing read once, with all it needs there, may be a probe that did not touch: it is read again
   * before anybody turns to the iron. Held to sheets of guesses, where no play speaks against a slip.
   */
  private onceMore(net: NetId): NextProbe | null {
    if (!isGuessed(this.known)) return null;
    const status = this.known.status(net);
    if (status.kind !== 'bad' || status.reading.reading.phase === 'cold') return null;
    const { at, phase, mode, value } = status.reading.reading;
    if (value.kind !== 'number' || Math.abs(value.value) > nothingVolts) return null;
    const times = this.known.readings.filter(
      (one) =>
        one.standing.kind === 'stands' &&
        one.reading.at.net === at.net &&
        one.reading.mode === mode &&
        one.reading.phase === phase,
    ).length;
    if (times > 1 || this.isCutOff(net)) return null;
    return {
      ...this.probe(
        net,
        `${net} read nothing once, and all it needs is there: a probe that does not touch reads the same. Read it once more`,
        phase,
      ),
      isAgain: true,
    };
  }

  /** A part that leads to it was measured from end to end and is open: no slip of the tip. */
  private isCutOff(net: NetId): boolean {
    return this.known.readings.some(
      ({ standing, reading, verdict }) =>
        standing.kind === 'stands' &&
        verdict.kind === 'open' &&
        reading.reference !== null &&
        [reading.at.net, reading.reference.net].includes(net),
    );
  }

  /** A rail that was shorted before something on it was changed: its ohms come before any source. */
  ohmsAgain(): NextProbe | null {
    const { healthy, readings } = this.known;
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
    if (isReadAgain) return null;
    return {
      ...this.probe(
        net,
        `${net} was shorted before the repair: source off, read its ohms before any source is connected`,
      ),
      mode: 'ohms',
      phase: 'cold',
      expectation: healthy.expect(net, 'ohms', 'cold'),
      beforePower: true,
    };
  }

  /** Everything it needs is there: is the output pulled down? Only ohms tell, with the source off. */
  private outputProbe(net: NetId): NextProbe | null {
    if (netOf(this.known.healthy.board, net).kind !== 'rail' || isTooHigh(this.known.status(net)))
      return null;
    if (isAtFirstFive(this.known, net)) return null;
    const expectation = this.known.healthy.expect(net, 'ohms', 'cold');
    const read = this.known.readings.filter(
      (one) =>
        one.standing.kind === 'stands' &&
        one.reading.at.net === net &&
        one.reading.mode === 'ohms' &&
        one.reading.reference === null,
    );
    // Something stands on every rail: one that reads OL was more likely not touched. Where a converter's
    // way in is open, nothing may.
    const isUntouched =
      netOf(this.known.healthy.board, net).origin !== 'guess' &&
      read.length === 1 &&
      read[0]!.reading.value.kind === 'over' &&
      !(expectation.kind === 'value' && expectation.value === Infinity);
    if (read.length > 0 && !isUntouched) return null;
    return {
      ...this.probe(
        net,
        isUntouched
          ? `${net} read OL once, and something stands on every rail: a tip that does not touch reads the same. Read it once more`
          : `everything ${net} needs is there: source off, is its output pulled to ground?`,
      ),
      mode: 'ohms',
      phase: 'cold',
      expectation,
    };
  }

  /** A need somebody guessed, of something that comes after the press: it may come no earlier. */
  private isGuessedLater(need: NetId, net: NetId): boolean {
    const { board } = this.known.healthy;
    // A button is read at rest.
    if (need === board.button?.net) return false;
    return phaseFor(this.known.healthy, net) === 'run' && netOf(board, need).origin === 'guess';
  }

  private probe(net: NetId, why: string, phase = phaseFor(this.known.healthy, net)): NextProbe {
    return {
      net,
      stage: this.known.healthy.stageOfNet(net)?.id ?? null,
      mode: 'volts',
      phase,
      place: probePlace(this.known.healthy.board, net, this.known.gone),
      expectation: this.known.healthy.expect(net, 'volts', phase),
      why,
      decides: [],
    };
  }
}
