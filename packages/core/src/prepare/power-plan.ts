import { joinedTo, netOf, type Board, type NetId, type Source } from '../board/index.ts';
import type { JudgedReading } from '../trace/index.ts';
import { riskyStages, type HealthyBoard } from '../expectations/index.ts';
import {
  isBad,
  isGood,
  valueText,
  verdict,
  whyText,
  type PoweredPhase,
  type Verdict,
  nothingVolts,
} from '../readings/index.ts';
import type { Job } from '../record/index.ts';
import { drawBand, guessedLimits, pressedLimit, standbyLimit } from '../safety/index.ts';
import { formatAmps, formatVolts } from '../units/index.ts';
import { hasNoBattery, openSteps } from './make-safe.ts';
import { benchCannotShow, withBattery, type WithBattery } from './with-battery.ts';
import { lastCold, namedShorts, type NamedBridge, type NamedShort } from './shorts.ts';
import { shortList } from './short-list.ts';
import { inputSection, type SweepPoint } from './sweep.ts';

/** A step of powering up: what to do, what draw to expect, and what to do where it differs. */
export interface PlanStep {
  phase: PoweredPhase;
  title: string;
  /** Amps of the healthy board; what is read within a third of it is as expected. */
  amps: number;
  /** Nobody knows the loads of this board: the amps are a guess and raise no alarm below the limit. */
  isGuess: boolean;
  limitAmps: number;
  volts: number;
  more: string;
  less: string;
}

export interface PowerPlan {
  /**
   * not-yet: a short stands in the way, or something odd that was read twice. again: something on the
   * way in reads wrong and is to be measured once more. stalls: a short stands further on, where the
   * board will stop. blind: nothing or not all of the path was measured. go: none of these.
   */
  advice: 'not-yet' | 'again' | 'stalls' | 'blind' | 'go';
  /**
   * Not all of the way in was measured, but what most measure before a supply with a current limit was, and
   * no short was found there: that limit in amps. Null where anything is wrong, and for other sources.
   */
  enoughFor: { limitAmps: number } | null;
  /** What was checked and what was not: never "safe". */
  says: string[];
  /** Of these, what stands against a source. */
  against: string[];
  /** Cold readings that stand on the path, and points of it nobody measured. */
  clear: { net: NetId; read: string }[];
  wrong: { net: string; read: string; why: string; isConfirmed: boolean }[];
  /** Nets, and stages as `VMAIN through PU9`. */
  unmeasured: string[];
  shorts: NamedShort[];
  bridges: NamedBridge[];
  source: Source;
  /** The adapter or USB-C source of the job itself: checked before it is trusted. */
  own: Source;
  why: string;
  where: string;
  steps: PlanStep[];
  /** Before connecting: the adapter, the negotiation, the battery. */
  before: { title: string; text: string }[];
  /** The step after these: the battery in beside the source; null where there is none. */
  withBattery: WithBattery | null;
  /** What is no fault of the board while a bench supply feeds it. */
  cannotShow: string[];
  /** Safety steps nobody noted as done. */
  openSafety: string[];
}

/** The way in and the rails that come up with the source alone: what power meets first. */
export function pathToCheck(healthy: HealthyBoard, sweep: readonly SweepPoint[]): NetId[] {
  const early = healthy.stages
    .filter((one) => one.phase === 'standby')
    .flatMap((one) => one.stage.gives)
    .filter((net) => netOf(healthy.board, net).kind === 'rail');
  const wanted = new Set<NetId>([...inputSection(healthy.board), ...early]);
  // Only what the sweep has a point for: nets joined by milliohms are measured at one of them.
  const points = sweep.filter((one) => one.reference === null && one.mode === 'ohms');
  const nets = points.map((one) => one.net).filter((net) => wanted.has(net));
  return [...new Set(nets)];
}

/** Stands in the name of a stage that nobody measured. */
const through = ' through ';

/** How to power this board, from what was recorded so far. `source` is the job's own. */
export function powerPlan(
  healthy: HealthyBoard,
  sweep: readonly SweepPoint[],
  job: Job,
  readings: readonly JudgedReading[],
): PowerPlan {
  const { board } = healthy;
  const { shorts, bridges } = namedShorts(healthy, readings);
  const last = lastCold(readings);
  const cold = last.filter((one) => one.reading.reference === null);
  const path = pathToCheck(healthy, sweep);
  const clear: PowerPlan['clear'] = [];
  const wrong: PowerPlan['wrong'] = [];
  const unmeasured: string[] = [];
  /** A reading that was wrong before it was taken again says so twice. */
  const isConfirmed = (bad: JudgedReading): boolean =>
    readings.filter((one) => isSamePoint(one, bad) && isBad(one.verdict)).length > 1;
  for (const net of path) {
    const here = cold.filter(
      (one) => one.reading.at.net === net && one.reading.value.kind !== 'unreached',
    );
    const ohms = here.filter((one) => one.reading.mode === 'ohms');
    const bad = here.find((one) => isBad(one.verdict));
    if (bad)
      wrong.push({
        net,
        read: textOf(bad),
        why: whyText(bad.verdict),
        isConfirmed: isConfirmed(bad),
      });
    else if (ohms[0] && ohms[0].verdict.kind !== 'undecided')
      clear.push({ net, read: textOf(ohms[0]) });
    else unmeasured.push(net);
  }
  for (const { chip, feed, output } of riskyStages(board)) {
    const here = last.find(
      ({ reading: { at, reference, mode, value } }) =>
        mode === 'ohms' &&
        value.kind !== 'unreached' &&
        reference !== null &&
        [at.net, reference.net].sort().join() === [feed, output].sort().join(),
    );
    const name = `${feed}${through}${chip}`;
    if (!here || !(isGood(here.verdict) || isBad(here.verdict))) unmeasured.push(name);
    else if (isBad(here.verdict) && here.verdict.kind !== 'shorted')
      wrong.push({
        net: name,
        read: textOf(here),
        why: whyText(here.verdict),
        isConfirmed: isConfirmed(here),
      });
  }
  const own = ownSource(board, job);
  const source = supplyFor(board, own);
  const together = withBattery(healthy, source, job);
  const stands =
    shorts.some((one) => one.isOnInput || path.includes(one.net)) ||
    bridges.some((one) => one.isStage) ||
    wrong.some((one) => one.isConfirmed);
  const advice: PowerPlan['advice'] = stands
    ? 'not-yet'
    : wrong.length > 0
      ? 'again'
      : shorts.length > 0
        ? 'stalls'
        : unmeasured.length > 0
          ? 'blind'
          : 'go';
  const said = saysOf({ clear, wrong, unmeasured, shorts, bridges });
  const steps = stepsOf(healthy, source);
  const [first] = steps;
  // A limit holds a short; it does not hold the input's volts off a rail behind a shorted switch.
  const few = shortList(healthy, sweep);
  const atSource = joinedTo(board, [source.net]);
  const isEnough =
    advice === 'blind' &&
    // Where the list has no point at the plug, nothing says that it was checked.
    few.some(({ net, reference }) => reference === null && atSource.has(net)) &&
    source.kind === 'bench' &&
    bridges.length === 0 &&
    unmeasured.every((name) => !name.includes(through)) &&
    few.every(
      ({ net, reference }) => reference !== null || clear.some((checked) => checked.net === net),
    );
  return {
    advice,
    enoughFor: isEnough && first ? { limitAmps: first.limitAmps } : null,
    says: said.map((one) => one.text),
    against: said.filter((one) => !one.isClear).map((one) => one.text),
    clear,
    wrong,
    unmeasured,
    shorts,
    bridges,
    source,
    own,
    why: whyOf(source, job, unmeasured.length > 0),
    where: whereOf(board, source),
    steps,
    before: beforeOf(board, source, job),
    withBattery: together && {
      ...together,
      leastLimitAmps: Math.ceil(together.leastLimitAmps * 10) / 10,
    },
    cannotShow: benchCannotShow(board, source),
    openSafety: openSteps(board, job).map((one) => one.title),
  };
}

const textOf = ({ reading }: JudgedReading): string => valueText(reading.value, reading.mode);

function isSamePoint(a: JudgedReading, b: JudgedReading): boolean {
  const [one, other] = [a.reading, b.reading];
  return (
    a.standing.kind !== 'struck' &&
    a.standing.kind !== 'before-repair' &&
    a.standing.kind !== 'other-board' &&
    one.phase === 'cold' &&
    one.at.net === other.at.net &&
    one.reference?.net === other.reference?.net &&
    one.mode === other.mode
  );
}

function saysOf({
  clear,
  wrong,
  unmeasured,
  shorts,
  bridges,
}: Pick<PowerPlan, 'clear' | 'wrong' | 'unmeasured' | 'shorts' | 'bridges'>): {
  text: string;
  isClear: boolean;
}[] {
  const says: { text: string; isClear: boolean }[] = [];
  const say = (text: string, isClear = false): number => says.push({ text, isClear });
  const isNamed = (net: string): boolean => shorts.some((one) => one.nets.some((of) => of === net));
  for (const one of wrong)
    if (!isNamed(one.net))
      say(
        `${one.net}: ${one.read}${one.isConfirmed ? ', read twice' : ''}. ${one.why}${one.isConfirmed ? '' : ' Measure it again.'}`,
      );
  for (const short of shorts) say(`Short on ${short.nets.join(', ')}: ${short.read}.`);
  for (const bridge of bridges) say(`${bridge.part}: ${bridge.read}. ${bridge.why}`);
  if (clear.length > 0)
    say(`No short found at ${clear.map((one) => `${one.net} (${one.read})`).join(', ')}.`, true);
  if (unmeasured.length > 0) say(`Not measured: ${unmeasured.join(', ')}.`);
  return says;
}

/** What the job is fed from; the board's first source where it names none that is there. */
function ownSource(board: Board, job: Job): Source {
  const named = board.sources.find((one) => one.id === job.intake?.source);
  return named ?? (board.sources.find((one) => !one.stays) as Source);
}

/** A bench supply where the sheet has one at the same place: its limit is what protects the board. */
function supplyFor(board: Board, own: Source): Source {
  return board.sources.find((one) => one.kind === 'bench' && one.net === own.net) ?? own;
}

function whyOf(source: Source, job: Job, isBlind: boolean): string {
  const happened = job.intake?.happened ?? [];
  const reasons = [
    ...(happened.includes('liquid') || happened.includes('frost') ? ['it was wet'] : []),
    ...(happened.includes('lightning') ? ['lightning was near'] : []),
    ...(happened.includes('earlier-repair') ? ['someone worked on it before'] : []),
    ...(isBlind ? ['not all of the path was measured'] : []),
  ];
  const list =
    reasons.length > 1 ? `${reasons.slice(0, -1).join(', ')} and ${reasons.at(-1)}` : reasons[0];
  return source.kind === 'bench'
    ? `A bench supply shows the draw and holds a short at its limit${list ? `, all the more as ${list}` : ''}.`
    : `${source.title}: the sheet has no bench supply at this input. It gives ${formatAmps(source.limitAmps)} into a fault before it lets go.${list ? ` Keep a hand on the plug: ${list}.` : ''}`;
}

function whereOf(board: Board, source: Source): string {
  const jack = board.parts.find(
    (part) => part.kind === 'connector' && part.pins.some((pin) => pin.net === source.net),
  );
  const at = jack ? ` at ${jack.ref}${jack.title ? `, ${jack.title}` : ''}` : '';
  return source.kind === 'usb-c'
    ? `Plugged in${at}, through a cable with a meter in it.`
    : `Plus on ${source.net}${at}, minus on its ground. Polarity and volts checked on the leads before they touch the board.`;
}

/** 0.1, 0.2, 0.5, 1, 2, 5: what is set by hand. */
function handy(amps: number): number {
  for (const decade of [0.01, 0.1, 1, 10])
    for (const step of [1, 2, 5])
      if (decade * step >= amps) return Number((decade * step).toPrecision(1));
  return amps;
}

function stepsOf(healthy: HealthyBoard, source: Source): PlanStep[] {
  const amps = (phase: PoweredPhase): number => healthy.play.phases.get(phase)?.sourceAmps ?? 0;
  const standby = amps('standby');
  const run = Math.max(amps('run'), amps('trying'), amps('pressed'));
  const isSet = source.kind === 'bench';
  const isGuess = healthy.board.guessed.includes('loads');
  const limit = (wanted: number, ofGuess: number): number =>
    isSet ? handy(isGuess ? Math.max(wanted, ofGuess) : wanted) : source.limitAmps;
  return [
    {
      phase: 'standby',
      title: 'Connect, do not press',
      volts: source.volts,
      limitAmps: limit(
        Math.max(standbyLimit.leastAmps, standbyLimit.times * standby),
        guessedLimits.standby,
      ),
      amps: standby,
      isGuess,
      more: `Source off at once and look for heat. At the limit with the volts down it is a short that cold readings did not show.`,
      less: 'Nothing at all: the way in is open, or its FETs stay off. Read the input chain point by point.',
    },
    {
      phase: 'trying',
      title: 'Press the button',
      volts: source.volts,
      limitAmps: limit(
        Math.max(pressedLimit.leastAmps, pressedLimit.times * run),
        guessedLimits.pressed,
      ),
      amps: run,
      isGuess,
      more: 'Let go, source off, look for heat after the press only: a run rail.',
      less: 'As before the press: the press is not seen, or the first run rail does not come. Up for seconds and down again: it gives up; read in those seconds.',
    },
  ];
}

function beforeOf(board: Board, source: Source, job: Job): PowerPlan['before'] {
  const before: PowerPlan['before'] = [];
  const own = board.sources.find((one) => one.kind === 'adapter');
  if (own)
    before.push({
      title: own.title,
      text: own.idleVolts
        ? `Unplugged from the board it idles at ${formatVolts(own.idleVolts)} and gives ${formatVolts(own.volts)} once something draws more than ${formatAmps(own.wakesAtAmps)}: read it again under load before it is called bad.`
        : `Unplugged from the board it gives ${formatVolts(own.volts * 0.95)} to ${formatVolts(own.volts * 1.05)}. Some idle lower until they see a load: try one before it is called bad.`,
    });
  const usb = board.sources.find((one) => one.kind === 'usb-c');
  if (usb) {
    const offers = [...new Set([5, ...usb.offersVolts, usb.volts])].sort((a, b) => a - b);
    before.push({
      title: usb.title,
      text: `Nothing on ${usb.net} until it is plugged in, then 5 V, then ${formatVolts(offers.at(-1) ?? 5)} once the board has asked for it (${offers.map(formatVolts).join(', ')} on offer). It stays at 5 V: the board does not ask, or its lines to the plug are cut. Turn the plug over and try again.`,
    });
  }
  if (source.kind !== 'battery' && !hasNoBattery(job))
    before.push({
      title: board.sources.find((one) => one.kind === 'battery')?.title ?? 'Battery, if it has one',
      text: 'Leave it unplugged until the main rail stands by itself. When it is plugged in, watch its current: more than the charger is set to, unplug it at once.',
    });
  return before;
}

/** Volts read on a source that hangs on nothing. */
export function judgeIdleSource(source: Source, volts: number): Verdict {
  const { volts: usual, idleVolts, wakesAtAmps } = source;
  const within = (wanted: number): boolean => Math.abs(volts - wanted) <= 0.05 * wanted;
  if (source.kind === 'usb-c')
    return volts < 0.8
      ? verdict('undecided', { is: 'usb-idle', volts })
      : verdict('odd', { is: 'usb-live', volts });
  if (within(usual)) return verdict('good', { is: 'source-good', volts, usual });
  if (idleVolts !== null && within(idleVolts))
    return verdict('undecided', { is: 'source-idles', volts, wakesAtAmps });
  if (volts < nothingVolts) return verdict('missing', { is: 'source-dead', volts, usual });
  return volts < usual
    ? verdict('low', { is: 'source-low', volts, usual })
    : verdict('high', { is: 'source-high', volts, usual });
}

/** Whether a draw is what a step expects, with what to do. */
export function judgeDraw(step: PlanStep, amps: number): Verdict {
  const { amps: usual, more, less, limitAmps } = step;
  if (step.isGuess) {
    const guessed = (then: string) => ({ is: 'draw-guessed', amps, then }) as const;
    if (amps >= 0.95 * Math.min(limitAmps, guessedLimit(step)))
      return verdict('high', guessed(more));
    if (amps < 0.002) return verdict('low', guessed(less));
    return verdict('undecided', guessed(''));
  }
  const draw = (then: string) => ({ is: 'draw', amps, usual, then }) as const;
  if (amps > usual * drawBand.more + drawBand.moreAmps) return verdict('high', draw(more));
  if (amps < usual * drawBand.less - drawBand.lessAmps) return verdict('low', draw(less));
  return verdict('good', draw(''));
}

const guessedLimit = ({ phase }: PlanStep): number =>
  phase === 'standby' ? guessedLimits.standby : Infinity;
