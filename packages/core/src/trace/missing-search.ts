import { netOf, type NetId, type StageId } from '../board/index.ts';
import type { HealthyBoard, OrderedStage, Role } from '../powerup/index.ts';
import {
  expectationText,
  valueText,
  whyText,
  type Expectation,
  type Mode,
  type Phase,
} from '../readings/index.ts';
import { phaseFor, statusOf, type JudgedReading, type NetStatus } from './judged.ts';
import { probePlace } from './probe-place.ts';
import { pulledDownBy } from './pulled-down.ts';

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

/** A need of the missing stage and what is known of it. */
export interface TracedNeed {
  net: NetId;
  role: Role;
  via: string;
  status: NetStatus;
  phase: Phase;
}

export interface FirstMissing {
  stage: StageId;
  title: string;
  /** The output that is not there. */
  net: NetId;
  /** True when every need was read and is there; false while some are still unread. */
  certain: boolean;
  why: string;
  needs: TracedNeed[];
}

export interface NextProbe {
  net: NetId;
  stage: StageId | null;
  mode: Mode;
  phase: Phase;
  place: ReturnType<typeof probePlace>;
  expectation: Expectation;
  why: string;
  /** Standing readings this one is to decide between. */
  decides: string[];
}

/** USB Type-C: nothing on the bus until something is attached, then 5 V until more is agreed on. */
const undetectedVolts = 0.8;
const askedVolts = 5.6;

/** What a probe that touches nothing shows at most. */
const nothingVolts = 0.25;

const isCold = (status: NetStatus): boolean =>
  status.kind === 'bad' && status.reading.reading.phase === 'cold';

export class MissingSearch {
  private readonly healthy: HealthyBoard;
  private readonly readings: readonly JudgedReading[];
  private readonly status: (net: NetId) => NetStatus;
  private readonly gone: readonly string[];

  constructor(
    healthy: HealthyBoard,
    readings: readonly JudgedReading[],
    status: (net: NetId) => NetStatus,
    gone: readonly string[],
  ) {
    this.healthy = healthy;
    this.readings = readings;
    this.status = status;
    this.gone = gone;
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
        return this.probe(net, why, phase);
      case 'contradicting':
        return {
          ...this.probe(
            net,
            `two readings of ${net} contradict each other: bad contact or an intermittent fault, a third decides`,
          ),
          decides: [status.reading.id, status.other.id],
        };
      case 'undecided': {
        const feed = this.healthy.seriesFeed(net, phaseFor(this.healthy, net));
        const from = feed?.from as NetId | undefined;
        if (from && this.status(from).kind === 'unread') {
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
      if (isCold(this.status(net)))
        return { firstMissing: this.describe(net, needs, true), next: null };
      const missing = needs.find((one) => one.status.kind === 'bad' && !seen.has(one.net));
      if (missing) {
        net = missing.net;
        continue;
      }
      const open = needs.flatMap((one) => {
        const probe = this.settle(
          one.net,
          one.status,
          `${one.net} is the ${roleText[one.role]} of ${net}`,
          this.isGuessedLater(one.net, net) ? 'run' : undefined,
        );
        return probe ? [probe] : [];
      });
      const certain = open.length === 0;
      return {
        firstMissing: this.describe(net, needs, certain),
        next: open[0] ?? this.onceMore(net) ?? this.outputProbe(net),
      };
    }
  }

  private needsOf(net: NetId): TracedNeed[] {
    // A USB-C bus with nothing on it wants nothing of the board's chips yet.
    if (this.isUndetected(net)) return [];
    return this.healthy.upstream
      .of(net)
      .filter(({ net: up }) => this.healthy.expect(up, 'volts', 'run').kind === 'value')
      .map(({ net: up, role, via }) => ({
        net: up,
        role,
        via,
        status: this.status(up),
        phase: phaseFor(this.healthy, up),
      }));
  }

  /**
   * Nothing read once, with all it needs there, may be a probe that did not touch: it is read again
   * before anybody turns to the iron. Held to sheets of guesses, where no play speaks against a slip.
   */
  private onceMore(net: NetId): NextProbe | null {
    if (this.healthy.board.guessed.length === 0) return null;
    const status = this.status(net);
    if (status.kind !== 'bad' || status.reading.reading.phase === 'cold') return null;
    const { at, phase, mode, value } = status.reading.reading;
    if (value.kind !== 'number' || Math.abs(value.value) > nothingVolts) return null;
    const times = this.readings.filter(
      (one) =>
        one.standing.kind === 'stands' &&
        one.reading.at.net === at.net &&
        one.reading.mode === mode &&
        one.reading.phase === phase,
    ).length;
    if (times > 1) return null;
    return this.probe(
      net,
      `${net} read nothing once, and all it needs is there: a probe that does not touch reads the same. Read it once more`,
      phase,
    );
  }

  /** Everything it needs is there: is the output pulled down? Only ohms tell, with the source off. */
  private outputProbe(net: NetId): NextProbe | null {
    if (netOf(this.healthy.board, net).kind !== 'rail') return null;
    const expectation = this.healthy.expect(net, 'ohms', 'cold');
    const read = this.readings.filter(
      (one) =>
        one.standing.kind === 'stands' &&
        one.reading.at.net === net &&
        one.reading.mode === 'ohms' &&
        one.reading.reference === null,
    );
    // Something stands on every rail: one that reads OL was more likely not touched.
    const isUntouched =
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

  private describe(net: NetId, needs: TracedNeed[], certain: boolean): FirstMissing {
    const stage = this.healthy.stageOfNet(net) ?? this.stageFedBy(net);
    const status = this.status(net);
    const read =
      status.kind === 'unread'
        ? 'not read'
        : valueText(status.reading.reading.value, status.reading.reading.mode);
    const there = needs
      .filter((one) => one.status.kind === 'good')
      .map((one) => `${roleText[one.role]} ${one.net}`);
    const unread = needs
      .filter((one) => one.status.kind !== 'good' && one.status.kind !== 'bad')
      .map((one) => one.net);
    const dragged = needs.filter((one) => one.status.kind === 'bad').map((one) => one.net);
    const ohms = statusOf(this.readings, net, 'cold', 'ohms');
    const isShort = ohms.kind === 'bad' && ohms.reading.verdict.kind === 'shorted';
    const isHigh =
      status.kind === 'bad' &&
      (status.reading.verdict.kind === 'high' || status.reading.verdict.kind === 'present');
    const makers = [
      ...new Set(this.healthy.upstream.of(net).map((one) => this.maker(one.via))),
    ].join(', ');
    if (isCold(status))
      return {
        stage: stage?.id ?? ('' as StageId),
        title: stage?.title ?? net,
        net,
        certain,
        why: `${net} was read at ${read} with nothing connected: ${isShort ? whyText(ohms.reading.verdict) : 'a short.'} No volts need to be read before it is found.`,
        needs,
      };
    const usb = this.usbWords(net);
    const why = [
      `${net} reads ${read}, expected ${expectationText(this.healthy.expect(net, 'volts', phaseFor(this.healthy, net)))}.`,
      there.length > 0 ? `There: ${there.join(', ')}.` : '',
      unread.length > 0 ? `Not proven yet: ${unread.join(', ')}.` : '',
      usb,
      dragged.length > 0 ? `${dragged.join(', ')} being wrong can follow from it.` : '',
      isShort ? `Its output is shorted: ${whyText(ohms.reading.verdict)}` : '',
      certain && !isShort && needs.length > 0
        ? `So the trouble sits at ${makers}, or something ${isHigh ? 'holds' : 'pulls'} ${net} ${isHigh ? 'up' : 'down'}.`
        : '',
      isHigh ? this.pullDownWords(net) : '',
      certain && needs.length === 0 && status.kind !== 'good' && !usb
        ? this.healthy.board.sources.some((one) => one.net === net)
          ? 'Nothing on the board stands before it: look at the source and its lead.'
          : `The sheet does not say what feeds ${net}.`
        : '',
    ];
    return {
      stage: stage?.id ?? ('' as StageId),
      title: stage?.title ?? net,
      net,
      certain,
      why: why.filter(Boolean).join(' '),
      needs,
    };
  }

  private isUndetected(net: NetId): boolean {
    const status = this.status(net);
    return (
      this.healthy.board.sources.some((one) => one.kind === 'usb-c' && one.net === net) &&
      status.kind === 'bad' &&
      status.reading.reading.value.kind === 'number' &&
      status.reading.reading.value.value < undetectedVolts
    );
  }

  /** What the volts of a USB-C bus say of who is there and who asks. */
  private usbWords(net: NetId): string {
    const { board } = this.healthy;
    const status = this.status(net);
    if (!board.sources.some((one) => one.kind === 'usb-c' && one.net === net)) return '';
    if (status.kind !== 'bad' || status.reading.reading.value.kind !== 'number') return '';
    const volts = status.reading.reading.value.value;
    if (this.isUndetected(net))
      return 'The source does not see the board: its plug and contacts, and the pull-downs that show it is there, which work without any supply.';
    const asks = board.chips.find((chip) =>
      chip.behaviours.some(
        (one) => one.do === 'sequence' && one.steps.some((step) => step.kind === 'ask'),
      ),
    );
    return volts < askedVolts && asks
      ? `The board is seen, but nobody asks for more than 5 V: look at ${asks.ref} and its own supply.`
      : '';
  }

  /** What is to hold a net low, and does not. */
  private pullDownWords(net: NetId): string {
    const by = pulledDownBy(this.healthy.board, net)
      .filter((one) => !this.gone.includes(one.ref))
      .map(({ ref, pin, through }) =>
        [this.maker(ref), pin && ` pin ${pin}`, through && ` through ${through}`].join(''),
      );
    return by.length > 0 ? `What should pull it down: ${[...new Set(by)].join(', ')}.` : '';
  }

  /** A part by its reference; a regulator known only by its stage, by that stage. */
  private maker(ref: string): string {
    const chip = this.healthy.board.chips.find((one) => one.ref === ref);
    return chip?.virtual ? `the regulator of "${chip.title}"` : ref;
  }

  /** A net of no stage belongs to the first stage that needs it. */
  private stageFedBy(net: NetId): { id: StageId; title: string } | null {
    const seen = new Set<NetId>();
    for (const { stage } of this.healthy.stages) {
      const queue = [...stage.gives];
      for (let here = queue.shift(); here !== undefined; here = queue.shift()) {
        if (here === net) return stage;
        if (seen.has(here)) continue;
        seen.add(here);
        for (const up of this.healthy.upstream.of(here)) {
          if (up.net === net) return stage;
          if (!this.healthy.stageOfNet(up.net)) queue.push(up.net);
        }
      }
    }
    return null;
  }

  /** A need somebody guessed, of something that comes after the press: it may come no earlier. */
  private isGuessedLater(need: NetId, net: NetId): boolean {
    const { board } = this.healthy;
    // A button is read at rest.
    if (need === board.button?.net) return false;
    return phaseFor(this.healthy, net) === 'run' && netOf(board, need).origin === 'guess';
  }

  private probe(net: NetId, why: string, phase = phaseFor(this.healthy, net)): NextProbe {
    return {
      net,
      stage: this.healthy.stageOfNet(net)?.id ?? null,
      mode: 'volts',
      phase,
      place: probePlace(this.healthy.board, net, this.gone),
      expectation: this.healthy.expect(net, 'volts', phase),
      why,
      decides: [],
    };
  }
}

export const roleText: Record<Role, string> = {
  feed: 'feed',
  supply: 'chip supply',
  'power-good': 'power-good',
  enable: 'enable',
  trigger: 'button line',
  gate: 'gate',
  watched: 'rail it reports on',
  'pull-up': 'pull-up',
};
