import {
  commonGoals,
  isFet,
  isSeriesPart,
  undrivenBecause,
  type Board,
  type GoalId,
  type Net,
  type NetId,
  type Stage,
  type StageId,
  findPart,
  netById,
} from '../board/index.ts';
import {
  lowLevelVolts,
  usualMeter,
  usualTolerance,
  type AcrossPart,
  type Charge,
  type Drive,
  type Expectation,
  type Mode,
  type Phase,
  type PoweredPhase,
  type SeriesFeed,
  somethingVolts,
  nothingVolts,
} from '../readings/index.ts';
import { chargeAt, healthyAcross } from './across-part.ts';
import { makeColdMeter, type ColdMeter } from '../cold/index.ts';
import { goalNets } from './goal-nets.ts';
import {
  playBoard,
  type Play,
  type PlaySetup,
  attachedIn,
  benchSetup,
  usualSetup,
} from '../play/index.ts';
import { mapUpstream, type UpstreamMap } from './upstream.ts';

/** A stage as the healthy play shows it. */
export interface OrderedStage {
  stage: Stage;
  /** Seconds from connecting the source until all it gives is there. */
  upAtSeconds: number;
  /** The first phase in which all it gives is there; null where it never comes. */
  phase: PoweredPhase | null;
  /** Stages this one waits for, nearest first. */
  needs: StageId[];
}

/** Everything the app asks of a healthy board: order, expectations, who feeds whom. */
export interface HealthyBoard {
  board: Board;
  play: Play;
  upstream: UpstreamMap;
  /** In the order of waking, without those that need what is not plugged in. */
  stages: OrderedStage[];
  expect(net: NetId, mode: Mode, phase: Phase): Expectation;
  /** The low-loss part a net is fed through; null where there is none. What was read is not filled in. */
  seriesFeed(net: NetId, phase: Phase): Omit<SeriesFeed, 'upstreamVolts'> | null;
  /** What a part between two nets reads when whole; null where none joins them. */
  across(at: Parameters<typeof healthyAcross>[3]): AcrossPart | null;
  /** What the charger is set to, on the line of a battery. */
  charge(net: NetId): Charge | null;
  /** What makes the rail, at its most; null for what nothing makes. */
  drive(net: NetId): Drive | null;
  /** Stages on the way to a goal, in order; the others are branches. */
  path(goal: GoalId): OrderedStage[];
  stageOfNet(net: NetId): Stage | null;
  /** The same board on another bench; null as source is this one's. Studied once. */
  onBench(bench: OtherBench): HealthyBoard;
}

/** How a bench stood when something was read. */
export interface OtherBench {
  source: string | null;
  attached: readonly string[];
  lifted: readonly string[];
  /** What a bench supply was set to, where that is not what the sheet says. */
  supply?: { volts: number; limitAmps: number } | undefined;
}

export function studyHealthyBoard(
  board: Board,
  setup: PlaySetup = usualSetup(board),
): HealthyBoard {
  const studied = new Map<string, HealthyBoard>();
  const study = (one: PlaySetup): HealthyBoard => {
    const key = JSON.stringify(one);
    let known = studied.get(key);
    if (!known) studied.set(key, (known = studyBench(board, one, study)));
    return known;
  };
  return study(setup);
}

function studyBench(
  board: Board,
  setup: PlaySetup,
  study: (setup: PlaySetup) => HealthyBoard,
): HealthyBoard {
  const play = playBoard(board, setup);
  const connected = board.sources.filter((one) => one.id === setup.source).map((one) => one.net);
  const staying = board.sources
    .filter((one) => setup.staying.includes(one.id))
    .map((one) => one.net);
  const upstream = mapUpstream(board, [...connected, ...staying]);

  const voltsIn = (net: NetId, phase: PoweredPhase): number =>
    play.phases.get(phase)?.volts.get(net) ?? 0;
  /** There as in the end: up when it ends up, which is what a stage means. */
  const isThere = (net: NetId, phase: PoweredPhase): boolean => {
    const end = voltsIn(net, 'run');
    return end > somethingVolts && Math.abs(voltsIn(net, phase) - end) < Math.max(0.1, end * 0.15);
  };

  let wanted: ReturnType<typeof goalNets> | null = null;
  // Made when the first cold reading is asked about: most traces never are.
  let coldMeter: ColdMeter | null = null;
  const cold = (): ColdMeter => (coldMeter ??= makeColdMeter(board, usualMeter));

  const givers = new Map<NetId, Stage>();
  for (const stage of board.stages) for (const net of stage.gives) givers.set(net, stage);

  const needsOf = (stage: Stage): StageId[] => {
    const needs = new Set<StageId>();
    const seen = new Set<NetId>(stage.gives);
    const queue = [...stage.gives];
    for (let net = queue.shift(); net !== undefined; net = queue.shift()) {
      for (const { net: up } of upstream.of(net)) {
        if (seen.has(up)) continue;
        seen.add(up);
        const giver = givers.get(up);
        if (giver && giver !== stage) needs.add(giver.id);
        else queue.push(up);
      }
    }
    return [...needs];
  };

  const attached = attachedIn(board, setup);
  const stages: OrderedStage[] = board.stages
    .filter((stage) => stage.with.every((id) => attached.includes(id)))
    .map((stage) => {
      const phase =
        (['standby', 'pressed', 'run'] as const).find((one) =>
          stage.gives.every((net) => isThere(net, one)),
        ) ?? null;
      // A source's own net is there from the start, whatever volts are agreed on later.
      const upAtSeconds = Math.max(
        ...stage.gives.map((net) => (connected.includes(net) ? 0 : (play.settledAt.get(net) ?? 0))),
      );
      const near = Math.min(...stage.gives.map((net) => upstream.distance(net)));
      return { stage, upAtSeconds, phase, near, needs: needsOf(stage) };
    })
    .sort((a, b) => a.upAtSeconds - b.upAtSeconds || a.near - b.near)
    .map(({ stage, upAtSeconds, phase, needs }) => ({ stage, upAtSeconds, phase, needs }));

  const expect = (net: NetId, mode: Mode, phase: Phase): Expectation =>
    expectation(board, play, cold, net, mode, phase);

  return {
    board,
    play,
    upstream,
    stages,
    expect,
    seriesFeed(net, phase) {
      if (phase === 'cold') return null;
      for (const part of board.parts) {
        if (!isSeriesPart(part) && !(part.fitted && isFet(part))) continue;
        const ends = part.pins.filter((pin) => pin.name !== 'G');
        const here = ends.find((pin) => pin.net === net);
        const other = ends.find((pin) => pin.net !== net);
        if (!here || !other || !(upstream.distance(other.net) < upstream.distance(net))) continue;
        if (netById(board, other.net)?.kind === 'switch') continue;
        return {
          part: part.ref,
          kind: part.kind,
          from: other.net,
          diodePasses: isFet(part) && (part.kind === 'pfet') === (other.name === 'D'),
          dropVolts: Math.max(0, voltsIn(other.net, phase) - voltsIn(net, phase)),
        };
      }
      return null;
    },
    across: (at) => healthyAcross(board, play, cold, at),
    charge: (net) => chargeAt(board, net),
    drive(net) {
      const amps = makerLimit(board, upstream, net);
      const volts = Math.max(voltsIn(net, 'standby'), voltsIn(net, 'run'));
      return amps !== null && volts > somethingVolts ? { volts, amps } : null;
    },
    path(goalId) {
      if (goalId === commonGoals.answers) {
        const first = stages.findIndex((one) => one.phase === 'pressed' || one.phase === 'run');
        return first < 0 ? stages : stages.slice(0, first + 1);
      }
      const goal = board.goals.find((one) => one.id === goalId);
      if (!goal) return stages;
      const onPath = new Set<StageId>();
      const seen = new Set<NetId>();
      const queue = goal.reached.map((one) => one.net);
      for (let net = queue.shift(); net !== undefined; net = queue.shift()) {
        if (seen.has(net)) continue;
        seen.add(net);
        const stage = givers.get(net);
        if (stage) {
          onPath.add(stage.id);
          queue.push(...stage.gives);
        }
        queue.push(...upstream.of(net).map((one) => one.net));
      }
      // A processor wants all its rails, whatever their power-goods say.
      wanted ??= goalNets(board, play);
      for (const net of wanted[goalId] ?? []) {
        const stage = givers.get(net);
        if (stage) onPath.add(stage.id);
      }
      return stages.filter(({ stage }) => onPath.has(stage.id));
    },
    stageOfNet: (net) => givers.get(net) ?? null,
    onBench: ({ source, ...bench }) =>
      study(benchSetup(board, { ...bench, source: source ?? setup.source })),
  };
}

function expectation(
  board: Board,
  play: Play,
  cold: () => ColdMeter,
  netId: NetId,
  mode: Mode,
  phase: Phase,
): Expectation {
  const net = netById(board, netId);
  if (!net) return { kind: 'unknown', because: `${netId} is not on the sheet` };
  if (net.isUnnamed) return { kind: 'unknown', because: `nobody knows yet which net ${netId} is` };
  const upVolts = Math.max(
    ...(['standby', 'run'] as const).map((one) => play.phases.get(one)?.volts.get(netId) ?? 0),
  );

  if (mode === 'ohms' || mode === 'diode')
    return coldExpectation(board, net, mode, cold(), upVolts);
  if (mode !== 'volts') return { kind: 'unknown', because: `no expected ${mode} for ${netId}` };
  if (play.status === 'invalid') {
    return { kind: 'unknown', because: `the sheet does not play: ${play.because}` };
  }
  if (phase === 'cold') return { kind: 'unknown', because: 'volts need a source' };
  if (net.kind === 'switch') {
    return { kind: 'unknown', because: 'a switch node pulses: a meter shows little of it' };
  }
  const good = net.good?.volts[phase];
  if (good) return goodExpectation(net, good, upVolts);
  const snapshot = play.phases.get(phase);
  const unloaded = snapshot?.volts.get(netId) ?? 0;
  const shown = snapshot?.lowered.get(netId);
  const played = shown ?? unloaded;
  const isOff = Math.abs(played) < 0.2 && (net.volts === null || net.volts > nothingVolts);
  if (isOff) {
    const undriven = undrivenBecause(board, netId);
    if (undriven) return { kind: 'unknown', because: undriven };
    return {
      kind: 'value',
      mode,
      value: 0,
      low: -nothingVolts,
      high: net.kind === 'signal' ? lowLevelVolts : nothingVolts,
      off: true,
      origin: 'play',
      upVolts,
    };
  }
  const [low, high] = net.rangeVolts ?? [NaN, NaN];
  // The range is that of the net when it is up: a boost that is off passes its feed.
  if (played >= low * 0.97 && played <= high * 1.03) {
    return {
      kind: 'value',
      mode,
      value: played,
      low: low * 0.97,
      high: high * 1.03,
      off: false,
      origin: net.origin,
      upVolts,
    };
  }
  const isStated = net.volts !== null && Math.abs(net.volts - played) <= 0.03 * net.volts;
  const value = isStated ? (net.volts as number) : played;
  const origin = isStated ? net.origin : 'play';
  const tolerance = net.tolerance ?? usualTolerance(origin, net.kind === 'rail' ? 'rail' : 'other');
  const stray = Math.max(0.03, Math.abs(value) * tolerance);
  return {
    kind: 'value',
    mode,
    value,
    low: value - stray,
    high: value + stray,
    off: false,
    origin,
    upVolts,
    ...(shown !== undefined && unloaded - shown > stray / 2 ? { unloadedVolts: unloaded } : {}),
  };
}

/** Spreads of good boards that are still good: three in a hundred of normal ones lie further out. */
const goodSpreads = 3;

/** What good boards read in this phase: within the usual of such figures, or within what they differ by. */
function goodExpectation(
  net: Net,
  { volts, spread, boards }: NonNullable<Net['good']>['volts'][string],
  upVolts: number,
): Expectation {
  const usual = usualTolerance('known-good', net.kind === 'rail' ? 'rail' : 'other');
  const stray = Math.max(0.03, Math.abs(volts) * usual, goodSpreads * spread);
  return {
    kind: 'value',
    mode: 'volts',
    value: volts,
    low: volts - stray,
    high: volts + stray,
    off: false,
    origin: 'known-good',
    upVolts: Math.max(upVolts, volts),
    goodBoards: boards,
  };
}

/** From the unpowered board under the meter, where enough of it is known. */
function coldExpectation(
  board: Board,
  net: Net,
  mode: 'ohms' | 'diode',
  meter: ColdMeter,
  upVolts: number,
): Expectation {
  const stated = mode === 'ohms' ? net.coldOhms : net.coldDiodeVolts;
  // Ohms of drawn resistors are known without a word about the chips; a junction is not.
  if (stated === null && (mode === 'diode' || board.depth !== 'full')) {
    return { kind: 'unknown', because: `the sheet gives no ${mode} for ${net.id}` };
  }
  const played = mode === 'ohms' ? meter.ohms(net.id) : meter.diode(net.id, 'black-on-point');
  if (played.kind !== 'value') {
    return { kind: 'unknown', because: `the cold play gives no ${mode} for ${net.id}` };
  }
  const { value } = played;
  // Ohms to ground differ by a factor between good boards; a junction by some tens of millivolts.
  const isKnownGood = net.good?.[mode] !== undefined || net.origin === 'known-good';
  const factor = stated !== null && isKnownGood ? 2 : 3;
  const [low, high] =
    mode === 'ohms' ? [value / factor, value * factor] : [value - 0.08, value + 0.08];
  const boards = net.good?.[mode];
  const origin = boards !== undefined ? 'known-good' : stated === null ? 'play' : net.origin;
  return {
    kind: 'value',
    mode,
    value,
    low,
    high,
    off: false,
    origin,
    upVolts,
    ...(boards === undefined ? {} : { goodBoards: boards }),
  };
}

/** Most amps the maker of a rail can give; null for signals and what nothing makes. */
function makerLimit(board: Board, upstream: UpstreamMap, net: NetId): number | null {
  const source = board.sources.find((one) => one.net === net);
  if (source) return source.limitAmps;
  for (const chip of board.chips) {
    for (const behaviour of chip.behaviours) {
      if (behaviour.do !== 'regulator') continue;
      if (chip.pins.get(behaviour.out) === net || chip.pins.get(behaviour.sense) === net) {
        return behaviour.limitAmps;
      }
    }
  }
  const feed = upstream.of(net).find((one) => {
    const part = findPart(board, one.via);
    return one.role === 'feed' && part && (isSeriesPart(part) || isFet(part));
  });
  return feed ? makerLimit(board, upstream, feed.net) : null;
}
