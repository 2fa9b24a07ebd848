import {
  outputPins,
  type Board,
  type Chip,
  type NetId,
  findChip,
  findPart,
} from '../board/index.ts';
import type { OrderCache } from '../circuit/index.ts';
import { flashOwner, withFaults, type Fault } from '../faults/index.ts';
import { playInFull, type Course, type Moment, type Play, type PlaySetup } from './play.ts';

/** A healthy play kept in such detail that plays with faults can begin where the fault does. */
export interface Rehearsal {
  board: Board;
  setup: PlaySetup;
  course: Course;
  orders: OrderCache;
}

export function rehearse(board: Board, setup: PlaySetup): Rehearsal {
  const orders: OrderCache = new Map();
  const course = playInFull(board, setup, { orders, keepMoments: true });
  return { board, setup, course, orders };
}

/** Plays a board with faults in it, from connecting on. */
export function playFaulty(board: Board, setup: PlaySetup, faults: readonly Fault[]): Play {
  const { play } = playInFull(withFaults(board, faults), setup);
  return faults.some((fault) => fault.kind === 'warm') ? warmed(play) : play;
}

/** Two nodes nearer than this are the same to a short between them, and a net this low is off. */
const sameVolts = 0.001;
/** Less than this through a part is nothing. */
const noAmps = 1e-6;

/**
 * Plays the board with faults in it: the same as `playFaulty`, but
 * what goes before the first fault can make a difference is taken from the healthy play. Most rails
 * come up late, and a shorted rail that is not up yet is no fault.
 */
export function playFault(rehearsal: Rehearsal, faults: readonly Fault[]): Play {
  return playFaultInFull(rehearsal, faults).play;
}

export function playFaultInFull(rehearsal: Rehearsal, faults: readonly Fault[]): Course {
  const { board, setup, course, orders } = rehearsal;
  const cold = faults.filter((fault) => fault.kind !== 'warm');
  if (cold.length < faults.length) {
    const begun = cold.length > 0 ? playFaultInFull(rehearsal, cold) : course;
    return { ...begun, play: warmed(begun.play) };
  }
  const moment = course.play.status === 'settled' ? lastDormant(rehearsal, faults) : null;
  return playInFull(withFaults(board, faults), setup, {
    orders,
    ...(course.play.status === 'settled' ? { healthy: { course, from: moment } } : {}),
  });
}

/** A board that warms up goes off after minutes; how many hangs on what is warm. */
export const warmSeconds = 300;

/** The same play until it is warm; then the board is off as it was before the press. */
function warmed(play: Play): Play {
  const standby = play.phases.get('standby');
  const running = play.phases.get('run');
  // What gave up by itself before never gets warm.
  const isRunning = running !== undefined && play.phases.get('trying') === running;
  if (!standby || !isRunning) return play;
  const atSeconds = play.pressedAtSeconds + warmSeconds;
  return {
    ...play,
    phases: new Map([...play.phases, ['run', standby]]),
    events: [
      ...play.events,
      { atSeconds, by: 'heat', what: 'gives up: too warm', kind: 'gives-up' },
    ],
  };
}

/** The last moment up to which no fault can have made a difference; null where one does from the start. */
function lastDormant({ board, course }: Rehearsal, faults: readonly Fault[]): Moment | null {
  const nodes = new Map<NetId, number>([[board.ground, 0]]);
  board.nets
    .filter((net) => net.id !== board.ground)
    .forEach((net, index) => nodes.set(net.id, index + 1));
  const tests = faults.map((fault) => dormancy(board, fault, (net) => nodes.get(net) ?? 0));
  let last: Moment | null = null;
  for (const moment of course.moments) {
    const sleeps = tests.every(
      (test) =>
        test.pins.every((pin) => !moment.lowPins.has(pin)) &&
        moment.solved.every(test.sleeps) &&
        (test.waits?.(moment) ?? true),
    );
    if (!sleeps) break;
    last = moment;
  }
  return last;
}

interface Dormancy {
  /** Pins that must not be driven low: what they hold down would rise. */
  pins: string[];
  sleeps(volts: Float64Array): boolean;
  /** What else must not have happened yet. */
  waits?(moment: Moment): boolean;
}

/** How far the sequence of a chip has got at a moment. */
function stepAt(moment: Moment, chip: Chip): number {
  const sequence = chip.behaviours.find((one) => one.do === 'sequence');
  const memory = moment.blocks.get(`${chip.ref} ${sequence?.name ?? ''}`);
  return (memory?.fields as { index?: number } | undefined)?.index ?? 0;
}

function dormancy(board: Board, fault: Fault, nodeOf: (net: NetId) => number): Dormancy {
  const off = (nets: readonly NetId[], pins: string[] = []): Dormancy => {
    const watched = nets.map(nodeOf).filter((node) => node > 0);
    return {
      pins,
      sleeps: (volts) => watched.every((node) => Math.abs(volts[node]!) < sameVolts),
    };
  };
  const bridged = (a: NetId, b: NetId): Dormancy => {
    const [from, to] = [nodeOf(a), nodeOf(b)];
    return { pins: [], sleeps: (volts) => Math.abs(volts[from]! - volts[to]!) < sameVolts };
  };
  const chip = 'part' in fault ? findChip(board, fault.part) : undefined;
  const part = 'part' in fault ? findPart(board, fault.part) : undefined;
  const netOf = (pin: string): NetId =>
    chip?.pins.get(pin) ?? part?.pins.find((one) => one.name === pin)?.net ?? board.ground;

  switch (fault.kind) {
    case 'short':
      return bridged(fault.net, board.ground);
    case 'pins-short':
      return bridged(netOf(fault.pins[0]), netOf(fault.pins[1]));
    case 'nets-joined':
      return bridged(...fault.nets);
    case 'all-short': {
      const nets = part?.pins.map((pin) => pin.net) ?? [];
      const tests = nets.map((net) => bridged(nets[0] ?? board.ground, net));
      return { pins: [], sleeps: (volts) => tests.every((one) => one.sleeps(volts)) };
    }
    case 'pin-short':
      return bridged(netOf(fault.pin), board.ground);
    case 'stuck':
      return fault.level === 'low'
        ? bridged(netOf(fault.pin), board.ground)
        : off([netOf(fault.pin)], [`${fault.part} ${fault.pin}`]);
    case 'output-dead':
    case 'weak':
    case 'off-value': {
      const regulator = chip?.behaviours.find(
        (one) => one.do === 'regulator' && one.out === fault.pin,
      );
      return off([
        netOf(fault.pin),
        ...(regulator?.do === 'regulator' ? [netOf(regulator.sense)] : []),
      ]);
    }
    case 'stops':
      return {
        pins: [],
        sleeps: () => true,
        waits: (moment) => chip !== undefined && stepAt(moment, chip) < fault.step,
      };
    case 'blank': {
      const owner = flashOwner(board, fault.part);
      return owner ? off([...owner.pins.values()], drivenPins(owner)) : off([]);
    }
    case 'warm':
      return { pins: [], sleeps: () => true };
    case 'source':
      // From the first moment on.
      return { pins: [], sleeps: () => false };
    case 'break': {
      const pins = board.chips.flatMap((one) =>
        [...one.pins].flatMap(([pin, net]) => (net === fault.net ? [`${one.ref} ${pin}`] : [])),
      );
      return off([fault.net], pins);
    }
    case 'trace-open':
      if (chip) return off([netOf(fault.pin)], [`${fault.part} ${fault.pin}`]);
      return off(part?.pins.map((pin) => pin.net) ?? []);
    case 'dead':
    case 'corrupt':
      return chip ? off([...chip.pins.values()], drivenPins(chip)) : off([]);
    case 'open':
    case 'high':
    case 'reversed':
    case 'drift': {
      // A part between two nets that are both off carries nothing. A crystal or a boost's diode is
      // missed by its chip.
      const leaning = board.chips.find(
        (one) => one.crystal === fault.part || one.diode === fault.part,
      );
      if (leaning) return off([...leaning.pins.values()], drivenPins(leaning));
      const quiet = off(part?.pins.map((pin) => pin.net) ?? []);
      const ohms = part?.kind === 'resistor' || part?.kind === 'jumper' ? (part.value ?? 0) : 0;
      const [a, b] = (part?.pins ?? []).map((pin) => nodeOf(pin.net));
      if (a === undefined || b === undefined) return quiet;
      const most = noAmps * Math.max(ohms, 0.001);
      return {
        pins: [],
        sleeps: (volts) => quiet.sleeps(volts) && Math.abs(volts[a]! - volts[b]!) < most,
      };
    }
  }
}

const drivenPins = (chip: Chip): string[] =>
  chip.behaviours.flatMap((behaviour) => outputPins(behaviour).map((pin) => `${chip.ref} ${pin}`));
