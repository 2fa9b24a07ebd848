import type { Board, NetId } from '../board/index.ts';
import { makeSolver, type Circuit, type Device, type Solver } from '../circuit/index.ts';
import type { PoweredPhase } from '../readings/index.ts';
import { makeBlocks, type Block, type BlockContext } from './blocks.ts';
import { buildCircuit } from './netlist.ts';

/** How the board stands on the bench during a play. */
export interface PlaySetup {
  /** Id of the source that is connected. */
  source: string;
  /** Sources of the board that stay in place: a coin cell, a battery. */
  staying: readonly string[];
}

export interface Snapshot {
  volts: ReadonlyMap<NetId, number>;
  /** Amps out of the connected source. */
  sourceAmps: number;
  /** Nets that swing between two values in this phase. */
  swinging: ReadonlyMap<NetId, { low: number; high: number }>;
}

export interface PlayEvent {
  atSeconds: number;
  /** What did it: `U7 EN`, or a step of a sequence. */
  by: string;
  what: string;
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

const mostEvents = 3000;
const mostFiresOfOneBlock = 80;
/** The same discrete state this often within one phase: the board cycles. */
const sameStateTimes = 4;
/** Pins settle in a few looks; a ring of unpowered parts that never does is left as it is. */
const mostLooks = 10;
const longestStandbySeconds = 30;
const longestRunSeconds = 60;

/** Plays a healthy board: connect the source, settle, press, hold, release, settle. */
export function playBoard(board: Board, setup: PlaySetup): Play {
  return playWithCircuit(board, setup).play;
}

/** The same with the circuit as it stands at the end, for handing to other programs. */
export function playWithCircuit(
  board: Board,
  setup: PlaySetup,
): { play: Play; circuit: Circuit; volts: Float64Array } {
  const built = buildCircuit(board);
  const solver: Solver = makeSolver(built.circuit);
  const connected = built.sources.get(setup.source);
  if (!connected) throw new Error(`no source ${setup.source} on ${board.id}`);

  const events: PlayEvent[] = [];
  const history: { at: number; volts: Float64Array }[] = [];
  const found = new Map<PoweredPhase, Snapshot>();
  let now = 0;
  let volts: Float64Array = new Float64Array(built.circuit.nodes);
  let trouble: string | null = null;
  let gaveUp: Snapshot | null = null;
  let swinging: Snapshot['swinging'] = new Map();

  const devices = built.circuit.devices;
  const solvedFor = new Float64Array(devices.length).fill(NaN);
  /** Whether any switch, pin or source stands otherwise than at the last solve. */
  const isChanged = (): boolean => {
    let changed = false;
    for (let index = 0; index < devices.length; index++) {
      const device = devices[index] as Device;
      const now =
        device.kind === 'resistor'
          ? device.siemens
          : device.kind === 'source'
            ? (device.on ? 1 : -1) * device.volts
            : device.kind === 'regulator'
              ? Number(device.on)
              : 0;
      if (now === solvedFor[index]) continue;
      solvedFor[index] = now;
      changed = true;
    }
    return changed;
  };

  /** False when the circuit did not settle. Nothing is solved while only time went by. */
  const solve = (): boolean => {
    if (!isChanged()) {
      history.push({ at: now, volts });
      return true;
    }
    const point = solver.solve(volts);
    if (point.status === 'stalled') {
      const net = built.nets[point.worstNode - 1] ?? 'ground';
      trouble = `the circuit did not settle at ${net} (${point.worstDevice}) after ${now.toFixed(4)} s`;
      return false;
    }
    volts = point.volts;
    history.push({ at: now, volts });
    return true;
  };
  const snapshot = (): Snapshot => ({
    volts: new Map<NetId, number>([
      [board.ground, 0],
      ...built.nets.map((net, index) => [net, volts[index + 1] as number] as const),
    ]),
    sourceAmps: Math.max(
      0,
      solver.currents(volts)[built.circuit.devices.indexOf(connected)] as number,
    ),
    swinging,
  });

  const context: BlockContext = {
    voltsAt: (net) => volts[built.nodeOf(net)] as number,
    now: () => now,
    log: (by, what) => events.push({ atSeconds: now, by, what }),
    ask: (wanted) => {
      const source = board.sources.find((one) => one.id === setup.source);
      if (source?.kind === 'usb-c' && source.offersVolts.includes(wanted)) connected.volts = wanted;
    },
    givingUp: () => {
      gaveUp = snapshot();
    },
  };
  const blocks: Block[] = makeBlocks(board, built, context);
  const fires = new Map<Block, number>();
  const frozen = new Set<Block>();

  /** Lets every block look, and again while looking moved a pin: one that gains its supply does. */
  const lookAround = (): boolean => {
    for (let round = 0; round < mostLooks; round++) {
      for (const block of blocks) if (!frozen.has(block)) block.look();
      if (!isChanged()) return true;
      solvedFor.fill(NaN);
      if (!solve()) return false;
    }
    return true;
  };

  /** Runs events until nothing is left to do, the time is up, or the board cycles. */
  const settle = (until: number): void => {
    const seen = new Map<string, { moment: number; dues: (number | null)[] }[]>();
    fires.clear();
    swinging = new Map();
    for (let count = 0; count < mostEvents; count++) {
      if (!lookAround()) return;
      let next: Block | null = null;
      for (const block of blocks) {
        if (frozen.has(block) || block.dueAt() === null) continue;
        if (next === null || (block.dueAt() as number) < (next.dueAt() as number)) next = block;
      }
      const due = next?.dueAt() ?? null;
      if (next === null || due === null) return;
      if (due > until) {
        now = until;
        return;
      }
      now = Math.max(now, due);
      for (const block of blocks) {
        const at = block.dueAt();
        if (frozen.has(block) || at === null || at > now) continue;
        block.fire();
        const fired = (fires.get(block) ?? 0) + 1;
        fires.set(block, fired);
        if (fired > mostFiresOfOneBlock) {
          frozen.add(block);
          trouble = `${block.name} never comes to rest`;
        }
      }
      if (!solve()) return;
      const state = blocks.map((block) => block.state()).join();
      const times = seen.get(state) ?? [];
      times.push({ moment: history.length - 1, dues: blocks.map((block) => block.dueAt()) });
      seen.set(state, times);
      const [before, last] = times.slice(-2);
      if (times.length >= sameStateTimes && before && last) {
        // A time-out that still runs will end what looks like a cycle.
        const runsOut = last.dues.some((due, index) => due !== null && due === before.dues[index]);
        if (runsOut) continue;
        const first = before.moment;
        // Retrying into a dead short moves nothing a meter would see: it is at rest.
        if (!hasMoved(history, first)) return;
        const cycle = overCycle(built.nets, history.slice(first));
        swinging = cycle.swinging;
        volts = cycle.mean;
        context.log('the board', `tries again every ${cycle.seconds.toPrecision(2)} s`);
        return;
      }
    }
    trouble = 'the board never comes to rest';
  };

  connected.on = true;
  for (const id of setup.staying) {
    const source = built.sources.get(id);
    if (source) source.on = true;
  }
  context.log(connected.name, 'is connected');
  if (solve()) settle(longestStandbySeconds);
  found.set('standby', snapshot());

  const pressedAtSeconds = now;
  const hold = board.button?.holdSeconds ?? 0;
  if (!trouble && built.button) {
    built.button.siemens = 1;
    context.log(board.button?.title ?? 'button', 'is pressed');
    if (solve()) settle(now + hold);
    found.set('pressed', snapshot());
    now = Math.max(now, pressedAtSeconds + hold);
    built.button.siemens = 0;
    if (!trouble && solve()) settle(now + longestRunSeconds);
  } else {
    found.set('pressed', snapshot());
  }
  found.set('run', snapshot());
  found.set('trying', gaveUp ?? snapshot());

  const base = {
    setup,
    phases: found,
    events,
    settledAt: settlingTimes(built.nets, history, pressedAtSeconds),
    pressedAtSeconds,
  };
  const play: Play = trouble
    ? { ...base, status: 'invalid', because: trouble }
    : { ...base, status: 'settled' };
  return { play, circuit: built.circuit, volts };
}

/** Whether anything moved since the moment: a state that repeats in stillness is no cycle. */
function hasMoved(history: readonly { volts: Float64Array }[], first: number): boolean {
  const from = history[first]?.volts;
  return history
    .slice(first + 1)
    .some(({ volts }) => volts.some((value, node) => Math.abs(value - (from?.[node] ?? 0)) > 0.1));
}

/** Lowest, highest and time-weighted mean volts of every net over one cycle. */
function overCycle(
  nets: readonly NetId[],
  cycle: readonly { at: number; volts: Float64Array }[],
): { mean: Float64Array; seconds: number; swinging: Map<NetId, { low: number; high: number }> } {
  const start = cycle[0]?.at ?? 0;
  const seconds = Math.max((cycle.at(-1)?.at ?? 0) - start, 1e-9);
  const mean = new Float64Array(nets.length + 1);
  const swinging = new Map<NetId, { low: number; high: number }>();
  nets.forEach((net, index) => {
    let low = Infinity;
    let high = -Infinity;
    let area = 0;
    cycle.forEach(({ at, volts }, moment) => {
      const here = volts[index + 1] as number;
      low = Math.min(low, here);
      high = Math.max(high, here);
      area += here * ((cycle[moment + 1]?.at ?? at) - at);
    });
    mean[index + 1] = area / seconds;
    if (high - low > Math.max(0.1, Math.abs(high) * 0.05)) swinging.set(net, { low, high });
  });
  return { mean, seconds, swinging };
}

/**
 * For each net, the last time it came within a tenth of where it ended. What was there before the
 * press and is there after it counts from before: a button line dips while it is held.
 */
function settlingTimes(
  nets: readonly NetId[],
  history: readonly { at: number; volts: Float64Array }[],
  pressedAtSeconds: number,
): Map<NetId, number> {
  const standby = history.filter((moment) => moment.at < pressedAtSeconds || moment === history[0]);
  const times = new Map<NetId, number>();
  nets.forEach((_net, index) => {
    const voltsIn = (moments: typeof history, at: number): number =>
      moments.at(at)?.volts[index + 1] ?? 0;
    const end = voltsIn(history, -1);
    const near = Math.max(0.05, Math.abs(end) * 0.1);
    const wasThere = Math.abs(voltsIn(standby, -1) - end) <= near;
    const moments = wasThere ? standby : history;
    let at = 0;
    for (let i = moments.length - 1; i >= 0; i--) {
      if (Math.abs(voltsIn(moments, i) - end) > near) break;
      at = moments[i]?.at ?? 0;
    }
    times.set(nets[index] as NetId, at);
  });
  return times;
}
