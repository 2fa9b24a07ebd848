import { draw, seeded } from '@jiko/core/base';
import { findPart, type Board, type GoalId, type NetId } from '@jiko/core/board';
import { guessedWeight, makeDiagnoser, type Diagnoser } from '@jiko/core/diagnosis';
import type { Fault } from '@jiko/core/faults';
import { hideFaults, type HiddenBoard, type HidingSettings } from '@jiko/bench';
import { leastPart, outcomeOf, type Dictionary } from '@jiko/core/dictionary';
import { studyHealthyBoard, type HealthyBoard } from '@jiko/core/expectations';
import { usualSetup, type Play, type PlaySetup } from '@jiko/core/play';
import { usualMeter } from '@jiko/core/readings';
import { wilson } from './rates.ts';

/** A sheet with its dictionary, ready for faults to be hidden and found. */
export interface Bench {
  board: Board;
  dictionary: Dictionary;
  setup: PlaySetup;
  healthy: HealthyBoard;
  diagnoser: Diagnoser;
  chance: () => number;
  /** From here on all that is drawn is drawn anew from this seed: what was drawn before changes nothing. */
  seed(number: number): void;
  hide(faults: readonly Fault[], sheet?: Board, more?: Partial<HidingSettings>): HiddenBoard;
  /** A fault of the list that keeps a goal from being reached, and that goal. */
  drawBlocker(passed?: (kind: 'degrader' | 'silent') => void, drawn?: Drawn): Blocker;
  /** The same, hidden. Drawn again where the board, with values of its own, reaches the goal for all that. */
  hideBlocker(drawing?: Drawing): Blocker & { hidden: HiddenBoard };
  /** Whether a hidden board reaches a goal though the listed fault keeps the sheet's from it. */
  reachesAllTheSame(hidden: HiddenBoard, blocker: Blocker): boolean;
}

export interface Drawing {
  drawn?: Drawn;
  /** Hears of faults that were drawn and are no case. */
  passed?: (kind: Passed) => void;
  more?: Partial<HidingSettings>;
}

/** It takes something else away; no reading shows it; or the drawn board does without what it takes. */
export type Passed = 'degrader' | 'silent' | 'harmless';

/**
 * Every fault of the list as often as any other; or as they happen: by the guesses of the diagnosis,
 * but each way of failing and each part more or less often than guessed, by twice as much in a third
 * of them (normal in the logarithm).
 */
export type Drawn = 'evenly' | 'as they happen';
const frequencyOff = Math.log(2);

export interface Blocker {
  fault: Fault;
  goal: GoalId;
  row: number;
}

/**
 * A joint at a part's pin reads on every net as the part open, which is drawn: it is not drawn once more. (Runs
 * of versions without these faults can be paired so.)
 */
const isOpenAtPin = (board: Board, fault: Fault): boolean =>
  fault.kind === 'trace-open' && fault.pin !== 'G' && findPart(board, fault.part) !== undefined;

export function makeBench(board: Board, dictionary: Dictionary): Bench {
  const setup = usualSetup(board);
  const healthy = studyHealthyBoard(board, setup);
  const diagnoser = makeDiagnoser(board, healthy.stages, dictionary, setup);
  let source = seeded(2026);
  const chance = (): number => source();
  const whole = outcomeOf(board, healthy.stages, dictionary, 0);
  const drawable = dictionary.faults.filter((fault) => !isOpenAtPin(board, fault));
  const often = drawAsTheyHappen(board, drawable, seeded(77));
  const bench: Bench = {
    board,
    dictionary,
    setup,
    healthy,
    diagnoser,
    chance,
    seed: (number) => (source = seeded(number)),
    hide: (faults, sheet = board, more = {}) => {
      const hidden = hideFaults(sheet, setup, faults, chance, {
        badContact: 0.02,
        meter: usualMeter,
        ...more,
      });
      // The board's first cold reading is the simulated bench's work, not the diagnosis's.
      const first = board.nets.find((net) => net.id !== board.ground);
      if (first) hidden.read(first.id, 'ohms', 'cold');
      return hidden;
    },
    drawBlocker(passed, drawn = 'evenly') {
      for (;;) {
        const fault = drawn === 'evenly' ? draw(drawable, chance) : often();
        const row = dictionary.rowOf[dictionary.faults.indexOf(fault)] as number;
        const outcome = outcomeOf(board, healthy.stages, dictionary, row);
        const goal = whole.reached.find((one) => !outcome.reached.includes(one));
        if (goal !== undefined) return { fault, goal, row };
        passed?.(outcome.changed === 0 ? 'silent' : 'degrader');
      }
    },
    hideBlocker: ({ drawn, passed, more } = {}) => {
      for (;;) {
        const blocker = bench.drawBlocker(passed, drawn);
        const hidden = bench.hide([blocker.fault], board, more);
        if (!bench.reachesAllTheSame(hidden, blocker)) return { ...blocker, hidden };
        passed?.('harmless');
      }
    },
    reachesAllTheSame: ({ play }, { goal: id, row }) => {
      const goal = board.goals.find((one) => one.id === id);
      // That no code runs is to be seen at no net.
      if (!goal || dictionary.codeless.includes(row)) return false;
      const voltsAt = (one: Play, net: NetId): number =>
        one.phases.get(goal.phase)?.volts.get(net) ?? 0;
      return (
        goal.reached.every(({ net, side, volts }) =>
          side === 'above' ? voltsAt(play, net) > volts : voltsAt(play, net) < volts,
        ) &&
        (dictionary.goalNets[id] ?? []).every(
          (net) => voltsAt(play, net) > leastPart * voltsAt(healthy.play, net),
        )
      );
    },
  };
  return bench;
}

function drawAsTheyHappen(
  board: Board,
  faults: readonly Fault[],
  chance: () => number,
): () => Fault {
  const off = new Map<string, number>();
  const factorOf = (key: string): number => {
    let factor = off.get(key);
    if (factor === undefined) {
      // Box and Muller's transform.
      const normal = Math.sqrt(-2 * Math.log(1 - chance())) * Math.cos(2 * Math.PI * chance());
      off.set(key, (factor = Math.exp(frequencyOff * normal)));
    }
    return factor;
  };
  const ends: number[] = [];
  let total = 0;
  for (const fault of faults) {
    const place = 'part' in fault ? fault.part : '';
    total += guessedWeight(board, fault) * factorOf(`way ${fault.kind}`) * factorOf(`at ${place}`);
    ends.push(total);
  }
  return () => {
    const at = chance() * total;
    return faults[
      Math.max(
        0,
        ends.findIndex((end) => at < end),
      )
    ]!;
  };
}

export const mean = (values: readonly number[]): number =>
  values.reduce((sum, one) => sum + one, 0) / Math.max(1, values.length);
/** A share with its interval (Wilson, 95 %). */
export function percent(part: number, whole: number): string {
  const { rate, low, high } = wilson(part, whole);
  return whole === 0
    ? 'no run'
    : `${(100 * rate).toFixed(1)} % (${(100 * low).toFixed(1)} to ${(100 * high).toFixed(1)})`;
}
/** A row of the table of figures: what, aim, measured. */
export type Figure = [string, string, string];
