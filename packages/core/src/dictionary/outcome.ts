import type { Board, Goal, GoalId, NetId, StageId } from '../board/index.ts';
import { type PoweredPhase, somethingVolts } from '../readings/index.ts';
import { voltsPlace, type Dictionary } from './dictionary.ts';
import type { OrderedStage } from '../expectations/index.ts';

/** What a board with one fault looks like from outside. */
export interface Outcome {
  /** Goals it still reaches. */
  reached: GoalId[];
  /** The first stage, in the order of waking, that does not come; null where all do. */
  firstMissing: StageId | null;
  /** Amps at the source before the press, and after it or in the last moment before giving up. */
  standbyAmps: number;
  tryingAmps: number;
  /** Whether anything swings, in any phase. */
  swings: boolean;
  /** How many readings, of all nets in all phases and cold, differ from the healthy board's. */
  changed: number;
}

const phases = ['standby', 'pressed', 'trying', 'run'] as const;

/** The outcome of a row of a dictionary; `stages` in the order of waking, of the same setup. */
export function outcomeOf(
  board: Board,
  stages: readonly OrderedStage[],
  dictionary: Dictionary,
  row: number,
): Outcome {
  const { nets } = dictionary;
  const volts = (at: number, phase: PoweredPhase, net: number): number =>
    dictionary.volts[voltsPlace(dictionary, at, phase, net)]!;

  let changed = 0;
  let swings = false;
  for (const phase of phases) {
    for (let net = 0; net < nets.length; net++) {
      const swing = dictionary.swings.has(voltsPlace(dictionary, row, phase, net));
      if (swing) swings = true;
      if (swing || differ(volts(row, phase, net), volts(0, phase, net))) changed++;
    }
  }
  const readings = [dictionary.ohms, dictionary.diode] as const;
  for (let net = 0; net < nets.length; net++) {
    for (const list of readings) {
      const [here, healthy] = [list[row * nets.length + net]!, list[net]!];
      if (here !== healthy && !(Math.abs(here - healthy) <= 0.1 * Math.abs(healthy))) changed++;
    }
  }
  return {
    reached: board.goals
      .filter((goal) => reachesGoal(dictionary, goal, row))
      .map((goal) => goal.id),
    firstMissing: firstMissingIn(stages, dictionary, row),
    standbyAmps: dictionary.amps[row * phases.length]!,
    tryingAmps: dictionary.amps[row * phases.length + phases.indexOf('trying')]!,
    swings,
    changed,
  };
}

/** The first stage that does not come under a row, in the order given; null where all do. */
export function firstMissingIn(
  stages: readonly OrderedStage[],
  dictionary: Dictionary,
  row: number,
): StageId | null {
  const places = placesIn(dictionary.nets);
  const voltsAt = (of: number, phase: PoweredPhase, net: NetId): number =>
    dictionary.volts[voltsPlace(dictionary, of, phase, places.get(net) ?? 0)]!;
  const missing = stages.find(({ stage, phase }) => {
    if (phase === null) return false;
    // After giving up the evidence is gone: the last moment before it counts.
    const at = phase === 'standby' ? 'standby' : 'trying';
    return stage.gives.some((net) => {
      const healthy = voltsAt(0, 'run', net);
      return Math.abs(voltsAt(row, at, net) - healthy) > Math.max(0.1, healthy * 0.15);
    });
  });
  return missing?.stage.id ?? null;
}

/**
 * Whether a row reaches a goal: its nets are as they should be, and nothing on the way is missing. A
 * processor without one of its rails runs no code, whatever its power-goods say.
 */
export function reachesGoal(dictionary: Dictionary, goal: Goal, row: number): boolean {
  const places = placesIn(dictionary.nets);
  const at = (of: number, phase: PoweredPhase, net: NetId): number => {
    const place = places.get(net);
    return place === undefined ? NaN : dictionary.volts[voltsPlace(dictionary, of, phase, place)]!;
  };
  const isAsAsked = goal.reached.every(({ net, side, volts }) => {
    const here = at(row, goal.phase, net);
    return Number.isNaN(here) || (side === 'above' ? here > volts : here < volts);
  });
  if (!isAsAsked) return false;
  if (
    goal.shows === 'picture' &&
    [dictionary.codeless, dictionary.dark].some((rows) => rows.includes(row))
  )
    return false;
  return (dictionary.goalNets[goal.id] ?? []).every((net) => {
    const healthy = at(0, goal.phase, net);
    // Far enough up to be some use: a rail a fifth low is still there.
    return !(at(row, goal.phase, net) < healthy * leastPart);
  });
}

/**
 * Whether anything comes after the press that was not there before it. Of a row that starts by itself
 * nothing can be said, and it counts as an answer.
 */
export function answersButton(dictionary: Dictionary, row: number): boolean {
  const { nets, volts } = dictionary;
  const at = (of: number, phase: PoweredPhase, net: number): number =>
    volts[voltsPlace(dictionary, of, phase, net)]!;
  return nets.some((_, net) => {
    const up = at(0, 'run', net);
    const waits = up > somethingVolts && at(0, 'standby', net) < leastPart * up;
    return (
      waits && (at(row, 'trying', net) > leastPart * up || at(row, 'run', net) > leastPart * up)
    );
  });
}

/** Below this part of its volts a rail on the way to a goal counts as missing. */
export const leastPart = 0.7;

const placesOf = new WeakMap<readonly NetId[], Map<NetId, number>>();
function placesIn(nets: readonly NetId[]): Map<NetId, number> {
  let places = placesOf.get(nets);
  if (!places) placesOf.set(nets, (places = new Map(nets.map((net, place) => [net, place]))));
  return places;
}

/** By more than a meter shows apart from noise. */
const differ = (a: number, b: number): boolean =>
  Math.abs(a - b) > 0.03 + 0.02 * Math.max(Math.abs(a), Math.abs(b));
