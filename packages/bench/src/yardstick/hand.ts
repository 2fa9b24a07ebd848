import { draw, seeded } from '@jiko/core/base';
import type { Board, NetId } from '@jiko/core/board';
import type { HiddenBoard } from '@jiko/bench';
import { usualMeter, type Phase, type ReadingValue } from '@jiko/core/readings';

// A hand and a meter of their own, that err as hands and meters do and not as the diagnosis believes they
// do: its model of errors stands in diagnosis/, and nothing of it is used here.

/** Shares of all readings, and of all runs for the meter; guesses of a bench, no source. */
export const slips = {
  /** The meter is off by one factor for all its readings: in so many runs by up to `farOff`. */
  farOffRuns: 1 / 3,
  farOff: 0.05,
  nearOff: 0.01,
  /** The tip stands on the pin or part beside. */
  neighbour: 0.02,
  /** The tip does not touch. */
  noTouch: 0.05,
  /** The range was read wrong: ten times or a tenth. */
  decade: 0.005,
  /** One digit was read wrong. */
  digit: 0.01,
  /** The value of a reading before was written down again. */
  old: 0.01,
  /** Read while the board was still warm, and taken for cold. */
  warm: 0.03,
};
export type Slip = keyof Pick<
  typeof slips,
  'neighbour' | 'noTouch' | 'decade' | 'digit' | 'old' | 'warm'
>;

/** Thirty kelvin above the room: a junction loses 2 mV for each (textbook value). */
const warmDiodeVolts = -0.06;
/** What a die's ohms fall to at that; common practice, no source. */
const warmDieOhms = 0.8;

/** A hidden board read by such a hand, and what went wrong at each reading. */
export interface Handled extends HiddenBoard {
  /** Part by which the meter is off. */
  factor: number;
  slipped: { at: number; slip: Slip }[];
}

/**
 * The same board read by such a hand. Each reading errs by its own place and how often it was read, not by
 * the order of the readings (`begin` hears the seed of what is drawn next): two ways of judging that ask in
 * different orders see the same readings.
 */
export function inHand(
  hidden: HiddenBoard,
  sheet: Board,
  seed: number,
  begin: (seed: number) => void = () => undefined,
): Handled {
  let chance = seeded(seed);
  const most = chance() < slips.farOffRuns ? slips.farOff : slips.nearOff;
  const factor = 1 + most * (2 * chance() - 1);
  const slipped: Handled['slipped'] = [];
  const before: { mode: string; value: ReadingValue }[] = [];
  const times = new Map<string, number>();
  const read: HiddenBoard['read'] = (net, mode, phase, against) => {
    const place = [net, mode, phase, against ?? ''].join();
    const time = (times.get(place) ?? 0) + 1;
    times.set(place, time);
    const own = seedOf(`${seed} ${place} ${time}`);
    chance = seeded(own);
    begin(own);
    const slip = drawSlip(chance);
    const touchedNet = slip === 'neighbour' ? neighbourOf(sheet, net, chance) : net;
    const touched =
      slip === 'noTouch' ? untouched(mode) : hidden.read(touchedNet, mode, phase, against ?? null);
    const old = before.filter((reading) => reading.mode === mode).at(-1);
    const shown =
      slip === 'old' && old ? old.value : misread(touched, mode, phase, slip, factor, chance);
    if (slip) slipped.push({ at: before.length, slip });
    before.push({ mode, value: shown });
    return shown;
  };
  return { ...hidden, read, factor, slipped };
}

/** A number for what is drawn at a reading (FNV-1a, 32 bits). */
export function seedOf(words: string): number {
  let hash = 0x811c9dc5;
  for (const letter of words) hash = Math.imul(hash ^ (letter.codePointAt(0) ?? 0), 0x01000193);
  return hash >>> 0;
}

function drawSlip(chance: () => number): Slip | null {
  let at = chance();
  for (const slip of ['neighbour', 'noTouch', 'decade', 'digit', 'old', 'warm'] as const) {
    at -= slips[slip];
    if (at < 0) return slip;
  }
  return null;
}

function untouched(mode: 'volts' | 'ohms' | 'diode'): ReadingValue {
  if (mode === 'volts') return { kind: 'number', value: 0, trend: 'steady' };
  const limit = mode === 'ohms' ? usualMeter.mostOhms : usualMeter.mostDiodeVolts;
  return { kind: 'over', limit };
}

/** A net on the pin beside, or on a part that lies within three millimetres; the same where there is none. */
export function neighbourOf(board: Board, net: NetId, chance: () => number): NetId {
  const beside: NetId[] = [];
  for (const chip of board.chips) {
    const nets = [...chip.pins.values()];
    nets.forEach((beneath, at) => {
      if (beneath === net)
        beside.push(...[nets[at - 1], nets[at + 1]].filter((next) => next !== undefined));
    });
  }
  const on = board.parts.filter((part) => part.pins.some((pin) => pin.net === net));
  for (const part of on) {
    beside.push(...part.pins.map((pin) => pin.net));
    for (const other of board.parts)
      if (
        part.side !== null &&
        part.side === other.side &&
        Math.hypot((part.x ?? 1e9) - (other.x ?? -1e9), (part.y ?? 1e9) - (other.y ?? -1e9)) <= 3
      )
        beside.push(...other.pins.map((pin) => pin.net));
  }
  const others = beside.filter((other) => other !== net);
  return others.length > 0 ? draw(others, chance) : net;
}

function misread(
  value: ReadingValue,
  mode: 'volts' | 'ohms' | 'diode',
  phase: Phase,
  slip: Slip | null,
  factor: number,
  chance: () => number,
): ReadingValue {
  const of = (shown: number): number => {
    let one = shown * factor;
    if (slip === 'warm' && phase === 'cold') {
      if (mode === 'diode') one = Math.max(0, one + warmDiodeVolts);
      if (mode === 'ohms') one *= warmDieOhms;
    }
    if (slip === 'decade') one *= chance() < 0.5 ? 10 : 0.1;
    if (slip === 'digit') one = otherDigit(one, chance);
    return Number(one.toPrecision(4));
  };
  switch (value.kind) {
    case 'number':
      return { ...value, value: of(value.value) };
    case 'swinging': {
      const [a, b] = [of(value.low), of(value.high)];
      return { ...value, low: Math.min(a, b), high: Math.max(a, b) };
    }
    case 'over':
    case 'beep':
    case 'unreached':
      return value;
  }
}

/** One of the first three digits is another one. */
function otherDigit(value: number, chance: () => number): number {
  if (value === 0) return value;
  const step = 10 ** (Math.floor(Math.log10(Math.abs(value))) - Math.floor(3 * chance()));
  const digit = Math.floor(Math.abs(value) / step) % 10;
  const other = (digit + 1 + Math.floor(9 * chance())) % 10;
  return value + Math.sign(value) * (other - digit) * step;
}
