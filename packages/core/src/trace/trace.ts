import {
  commonGoals,
  isFet,
  type Board,
  type GoalId,
  type NetId,
  type Part,
  type StageId,
} from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { judgeFet, type FetJudgement } from '../readings/index.ts';
import { goneParts, liftedParts, standingOf, type Job } from '../record/index.ts';
import { judgeAll, phaseFor, statusOf, type JudgedReading, type NetStatus } from './judged.ts';
import { mayComeLater } from './guesses.ts';
import { buttonStill } from './button-still.ts';
import type { FirstMissing, Known, SearchEnd } from './known.ts';
import { lackingOf, type Lacking } from './lacking.ts';
import { findMissing, type StageState, type TracedStage } from './missing-search.ts';
import { shortGoneWith, type ShortGone } from './short-gone.ts';
import { provenBySigns } from './proven-by-signs.ts';

export interface Trace {
  readings: JudgedReading[];
  stages: TracedStage[];
  firstMissing: FirstMissing | null;
  /** What the search went by, and where it ended. */
  known: Known;
  end: SearchEnd;
  /** FETs on the way into the missing net, judged by what was read at their pins. */
  fets: { part: Part; judgement: FetJudgement }[];
  goalReached: boolean;
  /** The part that is off and took a short with it: it is proven. */
  shortGone: ShortGone | null;
  /** All nets of the goal read right, whatever else is seen. */
  goalNetsGood: boolean;
  /** The goal as plays know it is reached: its nets, and its picture where it shows one. */
  goalAsPlayed: boolean;
  /** What the device does not do though all nets of the goal read right. */
  lacking: Lacking | null;
}

/** Nets at which the trouble sits by what was read: the missing one and what it needs; none before one is. */
export const netsInDoubt = ({ firstMissing }: Pick<Trace, 'firstMissing'>): NetId[] =>
  firstMissing ? [firstMissing.net, ...firstMissing.needs.map((one) => one.net)] : [];

/** What the recorded readings prove on the way to the goal, and what is missing first. */
export function traceJob(healthy: HealthyBoard, job: Job, goal: GoalId): Trace {
  const readings = judgeAll(healthy, job.readings);
  const later = mayComeLater(healthy, readings);
  const status = (net: NetId): NetStatus => {
    const volts = statusOf(readings, net, phaseFor(healthy, net));
    if (volts.kind === 'bad' && later.has(net)) {
      const pressed = statusOf(readings, net, 'run');
      if (pressed.kind === 'good') return pressed;
    }
    return volts.kind === 'unread' ? (coldShort(readings, net) ?? volts) : volts;
  };
  const proven = provenBySigns(healthy, job);
  const path = new Set(healthy.path(goal).map((one) => one.stage.id));
  const stages = traceStages(healthy, path, status, proven);
  const onPath = stages.filter((one) => one.onPath);

  // What answers the button has reached that goal with the first stage that comes after the press.
  const goalNets =
    goal === commonGoals.answers
      ? (healthy.path(goal).at(-1)?.stage.gives ?? []).map((net) => ({ net }))
      : (healthy.board.goals.find((one) => one.id === goal)?.reached ?? []);
  // Past a stage that was read as missing, it is not reached.
  const goalNetsGood =
    goalNets.length > 0 &&
    goalNets.every((one) => status(one.net).kind === 'good') &&
    !onPath.some((one) => one.state === 'down');
  const isShown = healthy.board.goals.some((one) => one.id === goal && one.shows !== null);
  const lacking = goalNetsGood ? lackingOf(healthy, job, goal) : null;
  const goalReached = goalNetsGood && lacking === null;

  const known: Known = { healthy, readings, status, gone: goneParts(job), later };
  const down = onPath.find((one) => one.state === 'down');
  let firstMissing: FirstMissing | null = null;
  let end: SearchEnd = goalReached
    ? { is: 'settled' }
    : { is: 'nothing-wrong', goal: goalNets.map((one) => one.net) };
  const bad =
    down?.nets.find((one) => one.status.kind === 'bad')?.net ?? wrongNeed(healthy, onPath, status);
  const still = goalReached ? null : buttonStill(known);
  if (still && (!bad || bad === still.net || phaseFor(healthy, bad) === 'run')) {
    firstMissing = still;
    end = { is: 'settled' };
  } else if (bad && !goalReached) ({ firstMissing, end } = findMissing(known, bad));
  return {
    readings,
    stages,
    firstMissing,
    known,
    end,
    fets: firstMissing ? fetsInto(healthy, readings, firstMissing.net) : [],
    goalReached,
    shortGone: shortStillInQuestion(healthy.board, job),
    goalNetsGood,
    goalAsPlayed: goalNetsGood && !(lacking && isShown),
    lacking,
  };
}

/** What took a short with it, until somebody powers the board without it: a small capacitor may stay off. */
function shortStillInQuestion(board: Board, job: Job): ShortGone | null {
  const standing = standingOf(job);
  const gone = shortGoneWith(board, standing, liftedParts(job));
  if (!gone) return null;
  const last = standing.findLastIndex(({ reading }) => reading.phase === 'cold');
  const isPowered = standing.slice(last + 1).some(({ reading }) => reading.mode === 'volts');
  return isPowered ? null : gone;
}

/** A net that no stage gives and a stage on the way needs, read as wrong: a power-good, an enable. */
function wrongNeed(
  healthy: HealthyBoard,
  onPath: readonly TracedStage[],
  status: (net: NetId) => NetStatus,
): NetId | undefined {
  const seen = new Set<NetId>();
  const queue = onPath.filter((one) => one.state === 'unread').flatMap((one) => one.stage.gives);
  for (const net of queue)
    for (const { net: up } of healthy.upstream.of(net)) {
      if (healthy.stageOfNet(up) || seen.has(up)) continue;
      seen.add(up);
      const read = status(up);
      // What comes and goes may do so with the whole board.
      if (read.kind === 'bad' && read.reading.reading.value.kind !== 'swinging') return up;
      // A pin that was not read itself: what leads to it.
      if (read.kind === 'unread') queue.push(up);
    }
  return undefined;
}

/** A short that was found cold, where nobody read volts since: the rail cannot come. */
function coldShort(readings: readonly JudgedReading[], net: NetId): NetStatus | null {
  const cold = statusOf(readings, net, 'cold', 'ohms');
  return cold.kind === 'bad' && cold.reading.verdict.kind === 'shorted' ? cold : null;
}

function traceStages(
  healthy: HealthyBoard,
  path: ReadonlySet<StageId>,
  status: (net: NetId) => NetStatus,
  proven: ReadonlySet<StageId>,
): TracedStage[] {
  const stages: TracedStage[] = healthy.stages.map((ordered) => {
    const nets = ordered.stage.gives.map((net) => ({
      net,
      status: status(net),
      phase: phaseFor(healthy, net),
    }));
    const kinds = nets.map((one) => one.status.kind);
    const state: StageState = kinds.includes('bad')
      ? 'down'
      : kinds.every((kind) => kind === 'good')
        ? 'up'
        : kinds.some(
              (kind) => kind === 'undecided' || kind === 'contradicting' || kind === 'unjudged',
            )
          ? 'undecided'
          : 'unread';
    return { ...ordered, state, nets, onPath: path.has(ordered.stage.id) };
  });
  // What is up has had all it needs, and what that needs.
  const enough = new Set<StageId>(proven);
  const prove = (needs: readonly StageId[]): void => {
    for (const id of needs) {
      if (enough.has(id)) continue;
      enough.add(id);
      prove(stages.find((one) => one.stage.id === id)?.needs ?? []);
    }
  };
  for (const one of stages) if (one.state === 'up') prove(one.needs);
  return stages.map((one) =>
    one.state === 'unread' && enough.has(one.stage.id) ? { ...one, state: 'enough' } : one,
  );
}

function fetsInto(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  net: NetId,
): { part: Part; judgement: FetJudgement }[] {
  const volts = (id: NetId): number | null => {
    const status = statusOf(readings, id, phaseFor(healthy, id));
    if (status.kind === 'unread' || status.reading.reading.value.kind !== 'number') return null;
    return status.reading.reading.value.value;
  };
  // FETs on the way in, and those whose gate the missing net is.
  const refs = new Set<string>(healthy.upstream.of(net).map((one) => one.via));
  const hasGateOn = (part: Part): boolean =>
    part.pins.some((pin) => pin.name === 'G' && pin.net === net);
  return healthy.board.parts
    .filter((part) => isFet(part) && (refs.has(part.ref) || hasGateOn(part)))
    .map((part) => {
      const on = (pin: string): NetId => part.pins.find((one) => one.name === pin)?.net as NetId;
      const sourceIsNearer =
        healthy.upstream.distance(on('S')) < healthy.upstream.distance(on('D'));
      return {
        part,
        judgement: judgeFet({
          ref: part.ref,
          kind: part.kind === 'nfet' ? 'nfet' : 'pfet',
          inputPin: sourceIsNearer ? 'S' : 'D',
          readings: { gate: volts(on('G')), source: volts(on('S')), drain: volts(on('D')) },
        }),
      };
    });
}
