import { netOf, type NetId, findChip } from '../board/index.ts';
import type { HealthyBoard, Role, Upstream } from '../expectations/index.ts';
import {
  expectationText,
  lowByNature,
  valueText,
  whyText,
  type Mode,
  type Phase,
} from '../readings/index.ts';
import {
  phaseFor,
  pulledDownBy,
  roleText,
  statusOf,
  type JudgedReading,
  type NetStatus,
} from '../trace/index.ts';

/** The four things asked of a stage that does not come. */
export type QuestionKind = 'feed' | 'supply' | 'enable' | 'output';
export type Answer =
  | 'yes'
  | 'no'
  /** Read, but what was read does not decide. */
  | 'open'
  | 'unread'
  /** Nothing of the kind belongs to it. */
  | 'none';

export interface QuestionNet {
  net: NetId;
  role: Role | 'output';
  /** The chip or part that wants it; empty for the output itself. */
  via: string;
  answer: Answer;
  text: string;
  /** The reading that answers it; null where it is answered. */
  ask: { net: NetId; mode: Mode; phase: Phase } | null;
}

export interface Question {
  kind: QuestionKind;
  asks: string;
  answer: Answer;
  nets: QuestionNet[];
  /** What follows from the answer. */
  follows: string;
}

export interface StageQuestions {
  net: NetId;
  questions: Question[];
  /** What all four together say. */
  verdict: string;
  /** Needs that are low or missing: the way on. */
  back: NetId[];
}

const kindOf: Record<Role, Exclude<QuestionKind, 'output'>> = {
  feed: 'feed',
  supply: 'supply',
  watched: 'enable',
  'power-good': 'enable',
  enable: 'enable',
  trigger: 'enable',
  gate: 'enable',
  'pull-up': 'feed',
};

const asks: Record<QuestionKind, string> = {
  feed: 'Has it feed?',
  supply: 'Has its chip its own supply?',
  enable: 'Is it enabled, and all before it there?',
  output: 'Is its output free, not pulled down?',
};

/** The four questions about a net that does not come, answered from what was read. */
export function fourQuestions(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  net: NetId,
): StageQuestions {
  const needs = healthy.upstream
    .of(net)
    .filter(
      (one) =>
        healthy.expect(one.net, 'volts', 'run').kind === 'value' ||
        statusOf(readings, one.net, 'run').kind !== 'unread',
    );
  const questions: Question[] = (['feed', 'supply', 'enable'] as const).map((kind) => {
    const nets = needs
      .filter((one) => kindOf[one.role] === kind)
      .map((one) => needOf(healthy, readings, one, net));
    return question(kind, nets, net);
  });
  questions.push(question('output', [outputOf(healthy, readings, net)], net));
  const back = questions
    .filter((one) => one.kind !== 'output')
    .flatMap((one) =>
      one.nets.filter(({ answer }) => answer === 'no').map(({ net: need }) => need),
    );
  return { net, questions, back, verdict: verdictOf(healthy, readings, net, questions, back) };
}

function question(kind: QuestionKind, nets: QuestionNet[], net: NetId): Question {
  const has = (answer: Answer): boolean => nets.some((one) => one.answer === answer);
  const answer: Answer =
    nets.length === 0
      ? 'none'
      : has('no')
        ? 'no'
        : has('unread')
          ? 'unread'
          : has('open')
            ? 'open'
            : 'yes';
  return { kind, asks: asks[kind], answer, nets, follows: followsOf(kind, answer, nets, net) };
}

function followsOf(
  kind: QuestionKind,
  answer: Answer,
  nets: readonly QuestionNet[],
  net: NetId,
): string {
  const named = nets
    .filter((one) => one.answer === answer)
    .map((one) => one.net)
    .join(', ');
  switch (answer) {
    case 'none':
      return kind === 'output' ? '' : 'The sheet names nothing of the kind.';
    case 'unread':
      return `Read ${named}.`;
    case 'open':
      return `${named}: what was read does not decide.`;
    case 'yes':
      return kind === 'output' ? 'Nothing holds it down cold.' : '';
    case 'no':
      switch (kind) {
        case 'feed':
          return `Nothing to make ${net} from: go back up ${named}.`;
        case 'supply':
          return `Its chip sleeps without ${named}: go back up it.`;
        case 'enable':
          return `It is not asked for: go back up ${named}.`;
        case 'output':
          return `Something pulls ${net} down: hunt the short; its chip may be well and give up for it.`;
      }
  }
}

function needOf(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  { net, role, via }: Upstream,
  of: NetId,
): QuestionNet {
  const phase = phaseFor(healthy, net);
  const status = statusOf(readings, net, phase);
  const expected = expectationText(healthy.expect(net, 'volts', phase));
  // Each needs the other: a gate and what its FET passes. That it is wrong can follow from this one.
  const follows = status.kind === 'bad' && healthy.upstream.of(net).some((one) => one.net === of);
  return {
    net,
    role,
    via,
    answer: follows ? 'open' : answerOf(status),
    text:
      status.kind === 'unread'
        ? `${roleText[role]} of ${via}: ${expected} expected in ${phase}`
        : `${roleText[role]} of ${via}: ${valueText(status.reading.reading.value, 'volts')}. ${whyText(status.reading.verdict)}${follows ? ` It can follow from ${of}.` : ''}`,
    ask:
      status.kind === 'unread' || status.kind === 'contradicting'
        ? { net, mode: 'volts', phase }
        : null,
  };
}

const answerOf = (status: NetStatus): Answer => {
  switch (status.kind) {
    case 'good':
      return 'yes';
    case 'bad':
      return 'no';
    case 'unread':
      return 'unread';
    case 'undecided':
    case 'unjudged':
    case 'contradicting':
      return 'open';
  }
};

/** Only ohms with the source off tell whether something holds the output down. */
function outputOf(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  net: NetId,
): QuestionNet {
  const status = statusOf(readings, net, 'cold', 'ohms');
  const expected = healthy.expect(net, 'ohms', 'cold');
  const isRail = netOf(healthy.board, net).kind === 'rail';
  const natural = lowByNature(netOf(healthy.board, net)) ? ' A core rail is low by nature.' : '';
  const shorted = status.kind === 'bad' && status.reading.verdict.kind === 'shorted';
  const low = status.kind === 'bad' && status.reading.verdict.kind === 'low';
  return {
    net,
    role: 'output',
    via: '',
    answer:
      status.kind === 'unread'
        ? 'unread'
        : shorted || low
          ? 'no'
          : status.kind === 'bad'
            ? 'open'
            : answerOf(status) === 'open' && !isFarFromShort(status)
              ? 'open'
              : 'yes',
    text:
      status.kind === 'unread'
        ? `${isRail ? 'Output' : 'Line'} to ground in ohms, source off: ${expectationText(expected)}.${natural}`
        : `${valueText(status.reading.reading.value, 'ohms')} to ground. ${whyText(status.reading.verdict)}`,
    ask: status.kind === 'unread' ? { net, mode: 'ohms', phase: 'cold' } : null,
  };
}

/** So many times what would be a short for the maker of the rail: nothing holds it down. */
const farTimes = 100;

/** Nothing is known to hold it against, but it is no short by far. */
function isFarFromShort(status: NetStatus): boolean {
  if (status.kind !== 'unjudged') return false;
  const { verdict, reading } = status.reading;
  return (
    verdict.because.is === 'nothing-known' &&
    verdict.because.shortOhms !== null &&
    reading.value.kind === 'number' &&
    reading.value.value > farTimes * verdict.because.shortOhms
  );
}

function verdictOf(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  net: NetId,
  questions: readonly Question[],
  back: readonly NetId[],
): string {
  const output = questions.find((one) => one.kind === 'output');
  const open = questions.filter((one) => one.answer === 'unread' || one.answer === 'open');
  if (output?.answer === 'no')
    return `${net} is pulled down: the short comes first, whatever else is missing.`;
  const status = statusOf(readings, net, phaseFor(healthy, net));
  if (
    status.kind === 'bad' &&
    (status.reading.verdict.kind === 'high' || status.reading.verdict.kind === 'present')
  ) {
    const by = pulledDownBy(healthy.board, net).map(({ ref, pin, through }) =>
      [ref, pin && ` pin ${pin}`, through && ` through ${through}`].join(''),
    );
    return by.length > 0
      ? `${net} is held up. What should pull it down: ${[...new Set(by)].join(', ')}.`
      : `${net} is held up: something gives it volts that should not.`;
  }
  if (back.length > 0)
    return `${net} cannot come: ${back.join(', ')} ${back.length > 1 ? 'are' : 'is'} missing before it.`;
  if (open.length > 0)
    return `Not decided yet: ${open
      .map((one) =>
        one.nets
          .filter(({ answer }) => answer === 'unread' || answer === 'open')
          .map((n) => n.net)
          .join(', '),
      )
      .join(', ')}.`;
  const makers = [...new Set(healthy.upstream.of(net).map((one) => one.via))].map((ref) => {
    const chip = findChip(healthy.board, ref);
    return chip?.virtual ? `the regulator of ${chip.title}` : ref;
  });
  return makers.length > 0
    ? `All it needs is there and nothing holds it down: the stage itself, ${makers.join(' or ')}, its coil and its feedback. Go round the pins before it is heated.`
    : `All that the sheet names is there, and it does not say what makes ${net}.`;
}

/** One step of the way back up: a net, and what it lacked. */
export interface BackStep {
  net: NetId;
  /** The role in which the net before needed it; null for the first. */
  role: Role | null;
  via: string;
  read: string;
  status: NetStatus['kind'];
}

/** From a net that is missing up its low or missing needs, as far as they were read as such. */
export function wayBack(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  start: NetId,
): BackStep[] {
  const step = (net: NetId, role: Role | null, via: string): BackStep => {
    const status = statusOf(readings, net, phaseFor(healthy, net));
    return {
      net,
      role,
      via,
      status: status.kind,
      read:
        status.kind === 'unread' ? 'not read' : valueText(status.reading.reading.value, 'volts'),
    };
  };
  const steps = [step(start, null, '')];
  const seen = new Set<NetId>([start]);
  for (let net = start; ;) {
    const next = healthy.upstream
      .of(net)
      .find(
        (one) =>
          !seen.has(one.net) &&
          statusOf(readings, one.net, phaseFor(healthy, one.net)).kind === 'bad',
      );
    if (!next) return steps;
    seen.add(next.net);
    steps.push(step(next.net, next.role, next.via));
    net = next.net;
  }
}
