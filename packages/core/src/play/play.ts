import { asOnBench, type Board, type NetId, type Source } from '../board/index.ts';
import { makeSolver, type Circuit, type OrderCache } from '../circuit/index.ts';
import { usualMeter, type PoweredPhase } from '../readings/index.ts';
import { makeBlocks, type Bench, type Block, type BlockMemory } from './blocks/index.ts';
import {
  hasMoved,
  isSame,
  meanAmps,
  overCycle,
  settlingTimes,
  wentAt,
  type Solved,
} from './course.ts';
import { buildCircuit } from './netlist.ts';
import { takeSnapshot, type Snapshot } from './snapshot.ts';

/** How the board stands on the bench during a play. */
export interface PlaySetup {
  /** Id of the source that is connected. */
  source: string;
  /** Sources of the board that stay in place: a coin cell, a battery. */
  staying: readonly string[];
  /** Attachments that are unplugged. */
  unplugged?: readonly string[];
  /** Parts lifted or taken off. */
  lifted?: readonly string[];
  /** What a bench supply is set to; else as the sheet says. */
  supply?: { volts: number; limitAmps: number };
}

export interface PlayEvent {
  atSeconds: number;
  /** What did it: `U7 EN`, or a step of a sequence. */
  by: string;
  what: string;
  /** That a sequence or a warm board goes off by itself. */
  kind?: 'gives-up';
}

export type Play = {
  setup: PlaySetup;
  phases: ReadonlyMap<PoweredPhase, Snapshot>;
  events: PlayEvent[];
  /** Seconds from connecting until each net last moved to where it ends. */
  settledAt: ReadonlyMap<NetId, number>;
  /** When the button was pressed, in seconds from connecting. */
  pressedAtSeconds: number;
} & (
  | { status: 'settled' }
  /** Some moment could not be solved, or the board never came to rest: nothing here may be trusted. */
  | { status: 'invalid'; because: string }
);

/** A moment of a play, complete enough to go on from with a like board. */
export interface Moment {
  stretch: Stretch;
  now: number;
  pressedAtSeconds: number;
  volts: Float64Array;
  /** All that was solved since the moment before, this one included. */
  solved: readonly Float64Array[];
  switches: ReadonlyMap<string, number>;
  blocks: ReadonlyMap<string, BlockMemory>;
  /** Pins driven low, as `ref pin`. */
  lowPins: ReadonlySet<string>;
  events: number;
  history: number;
  found: ReadonlyMap<PoweredPhase, Snapshot>;
}

/** The course of a play in full. */
export interface Course {
  play: Play;
  circuit: Circuit;
  volts: Float64Array;
  history: readonly Solved[];
  moments: readonly Moment[];
  /** Solutions by position of all switches. */
  solutions: ReadonlyMap<number, Float64Array>;
}

export interface PlayOptions {
  /** Elimination orders to be shared between plays of like boards. */
  orders?: OrderCache;
  /** Keeps the moments, so that plays with a fault can begin where the fault does. */
  keepMoments?: boolean;
  /** The healthy course, whose solutions are good guesses, and the moment of it to go on from. */
  healthy?: { course: Course; from: Moment | null };
}

/** Connected and settling, the button held, released. */
type Stretch = 'standby' | 'pressed' | 'run';
const stretches: readonly Stretch[] = ['standby', 'pressed', 'run'];

const mostEvents = 4000;
const mostFiresOfOneBlock = 200;
/** The same discrete state this often within one stretch: the board cycles. */
const sameStateTimes = 4;
/** Pins settle in a few looks; a ring of unpowered parts that never does is left as it is. */
const mostLooks = 10;
const longestStandbySeconds = 30;
const longestRunSeconds = 60;
/** A meter that takes less than this part of what it reads takes nothing. */
const leastLowered = 0.01;
/** Nearer than this to the healthy course, its solutions are the best guess. */
const onCourseVolts = 0.2;
/** The nets right around a fault may differ. */
const mostAstray = 6;

/** Plays a board: connect the source, settle, press, hold, release, settle. */
export function playBoard(board: Board, setup: PlaySetup, options?: PlayOptions): Play {
  return playInFull(board, setup, options).play;
}

/** The same with the circuit as it stands at the end and all that led there. */
export function playInFull(whole: Board, setup: PlaySetup, options: PlayOptions = {}): Course {
  const board = asOnBench(whole, setup);
  const built = buildCircuit(board);
  const { switchboard } = built;
  const solver = makeSolver(built.circuit, options.orders ? { orders: options.orders } : {});
  const connected = built.sources.get(setup.source);
  const source = board.sources.find((one) => one.id === setup.source) as Source;
  if (!connected) throw new Error(`no source ${setup.source} on ${board.id}`);

  const events: PlayEvent[] = [];
  const history: Solved[] = [];
  const moments: Moment[] = [];
  let found = new Map<PoweredPhase, Snapshot>();
  let solvedSince: Float64Array[] = [];
  const solutions = new Map<number, Float64Array>();
  const healthy = options.healthy?.course.solutions;
  let isOnCourse = healthy !== undefined;
  /** The healthy board's volts at the moment solved last. */
  let lastHealthy: Float64Array | undefined;
  let trouble: string | null = null;
  let gaveUp: Snapshot | null = null;
  let swinging: Snapshot['swinging'] = new Map();
  let pressedAtSeconds = 0;

  const bench: Bench = {
    volts: new Float64Array(built.circuit.nodes),
    now: 0,
    nodeOf: built.nodeOf,
    log: (by, what, kind) =>
      events.push({ atSeconds: bench.now, by, what, ...(kind ? { kind } : {}) }),
    ask: (wanted) => {
      if (source.kind === 'usb-c' && source.offersVolts.includes(wanted))
        connected.volts.set(wanted);
    },
    givingUp: () => {
      gaveUp = snapshot();
    },
  };
  /** What the source gives on average where the board repeats itself; null where it is at rest. */
  let cycleAmps: number | null = null;
  const snapshot = (): Snapshot => {
    const amps = solver.currents(bench.volts);
    const sourceAmps = cycleAmps ?? amps[built.circuit.devices.indexOf(connected.device)]!;
    // What swings was not solved as one moment, and nobody reads it to the tenth.
    const lowered =
      swinging.size > 0
        ? new Map<number, number>()
        : solver.underMeter(bench.volts, 1 / usualMeter.inputOhms, leastLowered);
    return takeSnapshot(board, built, bench.volts, amps, sourceAmps, swinging, lowered);
  };
  const blocks: Block[] = makeBlocks(board, source, built, bench);

  /** False when the circuit did not settle. Nothing is solved while only time went by. */
  const solve = (): boolean => {
    if (switchboard.isMoved) {
      const known = solutions.get(switchboard.position);
      if (known) bench.volts = known;
      else {
        const guess = isOnCourse ? healthy?.get(switchboard.position) : undefined;
        let point = solver.solve(guess ? alongside(guess, bench.volts, lastHealthy) : bench.volts);
        for (let look = 0; point.status === 'stalled' && look < mostLooks; look++) {
          if (!point.onTheWay) break;
          // A bus on its way down: whatever lets go of it by then does.
          const { position } = switchboard;
          bench.volts = point.onTheWay;
          for (const block of blocks) block.look();
          if (switchboard.position === position) break;
          point = solver.solve(bench.volts);
        }
        if (point.status === 'stalled') {
          const net = built.nets[point.worstNode - 1] ?? 'ground';
          trouble = `the circuit did not settle at ${net} (${point.worstDevice}) after ${bench.now.toFixed(4)} s`;
          return false;
        }
        bench.volts = point.volts;
        solutions.set(switchboard.position, point.volts);
      }
      switchboard.isMoved = false;
      if (healthy) {
        lastHealthy = healthy.get(switchboard.position);
        isOnCourse = isNear(bench.volts, lastHealthy);
      }
    }
    history.push({ at: bench.now, volts: bench.volts });
    if (options.keepMoments) solvedSince.push(bench.volts);
    return true;
  };

  /** Lets every block look, and again while looking moved a pin: one that gains its supply does. */
  const lookAround = (): boolean => {
    for (let round = 0; round < mostLooks; round++) {
      for (const block of blocks) block.look();
      if (!switchboard.isMoved) return true;
      if (!solve()) return false;
    }
    return true;
  };

  const keepMoment = (stretch: Stretch): void => {
    const lowPins = new Set<string>();
    for (const [pin, driver] of built.drivers) if (driver.low.value > 0) lowPins.add(pin);
    moments.push({
      stretch,
      now: bench.now,
      pressedAtSeconds,
      volts: bench.volts,
      solved: solvedSince,
      switches: switchboard.save(),
      blocks: new Map(blocks.map((block) => [block.name, block.save()])),
      lowPins,
      events: events.length,
      history: history.length,
      found: new Map(found),
    });
    solvedSince = [];
  };

  /** Runs events until nothing is left to do, the time is up, or the board cycles. */
  const settle = (stretch: Stretch, until: number): void => {
    const seen = new Map<string, { moment: number; dues: (number | null)[] }[]>();
    const fires = new Map<Block, number>();
    const begin = history.length;
    let mostFired = 0;
    swinging = new Map();
    cycleAmps = null;
    const swing = (first: number, what: string): void => {
      const cycle = overCycle(built.nets, history.slice(first));
      cycleAmps = meanAmps(connected.device, history.slice(first));
      swinging = cycle.swinging;
      bench.volts = cycle.mean;
      // The mean is no solution: the next move is solved anew.
      switchboard.isMoved = true;
      bench.log('the board', what || `tries again every ${cycle.seconds.toPrecision(2)} s`);
    };
    for (let count = 0; count < mostEvents; count++) {
      if (!lookAround()) return;
      if (options.keepMoments) keepMoment(stretch);
      let next: number | null = null;
      for (const block of blocks) {
        const due = block.dueAt();
        if (due !== null && (next === null || due < next)) next = due;
      }
      if (next === null) return;
      if (next > until) {
        bench.now = until;
        return;
      }
      bench.now = Math.max(bench.now, next);
      for (const block of blocks) {
        const due = block.dueAt();
        if (due === null || due > bench.now) continue;
        block.fire();
        const fired = (fires.get(block) ?? 0) + 1;
        fires.set(block, fired);
        mostFired = Math.max(mostFired, fired);
        if (fired > mostFiresOfOneBlock) {
          // Too irregular for a cycle to be found: what was seen in the latter half is what a meter shows.
          if (solve()) swing(begin + ((history.length - begin) >> 1), 'never comes to rest');
          return;
        }
      }
      if (!solve()) return;
      // A board cannot cycle before one of its blocks has acted this often.
      if (mostFired < sameStateTimes) continue;
      const state = blocks
        .map((block) => block.state() + (block.dueAt() === null ? '' : '!'))
        .join();
      const times = seen.get(state) ?? [];
      times.push({ moment: history.length - 1, dues: blocks.map((block) => block.dueAt()) });
      seen.set(state, times);
      const [before, last] = times.slice(-2);
      if (times.length >= sameStateTimes && before && last) {
        // A time-out that still runs will end what looks like a cycle.
        const runsOut = last.dues.some((due, index) => due !== null && due === before.dues[index]);
        if (runsOut || !isSame(history[before.moment], history[last.moment])) continue;
        // Retrying into a dead short moves nothing a meter would see: it is at rest.
        if (!hasMoved(history, before.moment)) {
          cycleAmps = meanAmps(connected.device, history.slice(before.moment));
          return;
        }
        swing(before.moment, '');
        return;
      }
    }
    trouble = 'the board never comes to rest';
  };

  const untilOf = (stretch: Stretch): number => {
    const hold = board.button?.holdSeconds ?? 0;
    if (stretch === 'standby') return longestStandbySeconds;
    return pressedAtSeconds + hold + (stretch === 'run' ? longestRunSeconds : 0);
  };
  const enter = (stretch: Stretch): void => {
    switch (stretch) {
      case 'standby':
        if (setup.supply) {
          connected.volts.set(setup.supply.volts);
          connected.limit.set(setup.supply.limitAmps);
        }
        connected.on.set(1);
        for (const id of setup.staying) built.sources.get(id)?.on.set(1);
        bench.log(connected.device.name, 'is connected');
        break;
      case 'pressed':
        pressedAtSeconds = bench.now;
        built.button?.set(1);
        bench.log(board.button?.title ?? 'button', 'is pressed');
        break;
      case 'run':
        bench.now = Math.max(bench.now, untilOf('pressed'));
        built.button?.set(0);
        break;
    }
  };

  let first = 0;
  const from = options.healthy?.from;
  if (options.healthy && from) {
    const { course } = options.healthy;
    first = stretches.indexOf(from.stretch);
    bench.now = from.now;
    bench.volts.set(from.volts);
    pressedAtSeconds = from.pressedAtSeconds;
    switchboard.restore(from.switches);
    switchboard.isMoved = true;
    for (const block of blocks) {
      const memory = from.blocks.get(block.name);
      if (memory) block.restore(memory);
    }
    events.push(...course.play.events.slice(0, from.events));
    history.push(...course.history.slice(0, from.history));
    found = new Map(from.found);
  }
  for (const stretch of stretches.slice(first)) {
    const isResumed = from?.stretch === stretch;
    if (!trouble && (stretch === 'standby' || built.button)) {
      if (!isResumed) enter(stretch);
      if (isResumed || solve()) settle(stretch, untilOf(stretch));
    } else if (stretch === 'pressed') pressedAtSeconds = bench.now;
    found.set(stretch, snapshot());
  }
  found.set('trying', gaveUp ?? (found.get('run') as Snapshot));
  if (swinging.size === 0 && !events.some((one) => one.kind === 'gives-up')) {
    const atSeconds = wentAt(history, pressedAtSeconds);
    if (atSeconds !== null)
      events.push({ atSeconds, by: 'the board', what: 'goes off', kind: 'gives-up' });
  }

  let settledAt: Map<NetId, number> | null = null;
  const base = {
    setup,
    phases: found,
    events,
    pressedAtSeconds,
  };
  // Worked out when first asked for: of thousands of plays with a fault, few are.
  const lazily = {
    get settledAt() {
      return (settledAt ??= settlingTimes(built.nets, history, pressedAtSeconds));
    },
  };
  const play: Play = trouble
    ? Object.assign(lazily, base, { status: 'invalid' as const, because: trouble })
    : Object.assign(lazily, base, { status: 'settled' as const });
  return { play, circuit: built.circuit, volts: bench.volts, history, moments, solutions };
}

/** The healthy board's next volts, but where a fault had led astray before, it still does. */
function alongside(
  next: Float64Array,
  volts: Float64Array,
  healthy: Float64Array | undefined,
): Float64Array {
  // A cut trace adds a net at the end.
  const start = volts.slice();
  for (let node = 0; node < next.length; node++) {
    const astray = healthy ? Math.abs(volts[node]! - healthy[node]!) : 0;
    if (astray <= onCourseVolts) start[node] = next[node]!;
  }
  return start;
}

function isNear(volts: Float64Array, healthy: Float64Array | undefined): boolean {
  if (!healthy) return false;
  let astray = 0;
  for (let node = 0; node < healthy.length; node++) {
    if (Math.abs(volts[node]! - healthy[node]!) > onCourseVolts && ++astray > mostAstray)
      return false;
  }
  return true;
}
