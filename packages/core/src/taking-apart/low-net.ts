import { isSeriesPart, netOf, type Board, type NetId } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { usualMeter } from '../readings/index.ts';
import { phaseFor, statusOf, type JudgedReading } from '../trace/index.ts';
import { formatAmps, formatOhms, formatVolts } from '../units/index.ts';

// A divider or a gate that reads wrong, solved for the one part that would explain it.

/** A resistor from the net to volts that are known. */
export interface Leg {
  ref: string;
  /** Net at its other end. */
  to: NetId;
  volts: number;
  ohms: number;
}

/** One part alone that makes the net read what it reads. */
export interface Explains {
  /** The resistor it would be; null where something draws or gives current. */
  ref: string | null;
  text: string;
  /** The ohms the resistor would have; Infinity for open. */
  ohms: number | null;
  /** Where it draws: ohms to ground that would draw as much. */
  wantsOhms?: number;
  /** How to see it. */
  test: string;
}

export interface LowNet {
  net: NetId;
  read: number;
  /** What good legs make of it, with the meter on. */
  expected: number;
  legs: Leg[];
  explains: Explains[];
  /** What the meter itself takes. */
  meterOhms: number;
}

/** The largest factor a resistor is believed to have moved by before it is called open. */
const mostTimes = 1000;
/** Less is nothing. */
const leastAmps = 1e-9;
/** Two readings of one volt differ by so much of themselves. */
const blurPart = 0.003;
/** Above this a resistor is called open. */
const mostOhms = 100e6;

/**
 * Resistors on a net and what each alone would have to be for the net to read `read`. `voltsOf` gives the
 * volts at their other ends: as read, or as the healthy play has them. Null where no resistor sets the net.
 */
export function explainLowNet(
  board: Board,
  net: NetId,
  read: number,
  voltsOf: (net: NetId) => number | null,
  meterOhms: number,
): LowNet | null {
  const legs = board.parts.flatMap((part): Leg[] => {
    if (part.kind !== 'resistor' || !part.fitted || !part.value || isSeriesPart(part)) return [];
    const [a, b] = part.pins.map((pin) => pin.net);
    const to = a === net ? b : b === net ? a : undefined;
    if (to === undefined || to === net) return [];
    const volts = to === board.ground ? 0 : voltsOf(to);
    return volts === null ? [] : [{ ref: part.ref, to, volts, ohms: part.value }];
  });
  if (legs.length === 0) return null;
  const siemens = legs.reduce((sum, one) => sum + 1 / one.ohms, 1 / meterOhms);
  const pushed = legs.reduce((sum, one) => sum + one.volts / one.ohms, 0);
  return {
    net,
    read,
    expected: pushed / siemens,
    legs,
    explains: explain(net, legs, read, meterOhms),
    meterOhms,
  };
}

function explain(net: NetId, legs: readonly Leg[], read: number, meterOhms: number): Explains[] {
  const found: Explains[] = [];
  /** Amps into the net through a leg as it should be. */
  const into = (leg: Leg): number => (leg.volts - read) / leg.ohms;
  const all = legs.reduce((sum, leg) => sum + into(leg), 0) - read / meterOhms;
  // What the last figures of the readings and the meter itself may make of it.
  const blur = legs.reduce(
    (sum, leg) => sum + (blurPart * Math.max(Math.abs(leg.volts), Math.abs(read))) / leg.ohms,
    leastAmps + (2 * Math.abs(read)) / meterOhms,
  );
  for (const leg of legs) {
    const across = leg.volts - read;
    if (Math.abs(across) < 0.005 + blurPart * Math.abs(read)) continue;
    // What it would have to carry for the rest to balance.
    const carries = into(leg) - all;
    const isOpen = Math.abs(carries) < blur || carries / across < 1 / (leg.ohms * mostTimes);
    const ohms = isOpen ? Infinity : across / carries;
    const times = ohms / leg.ohms;
    if (carries / across < 0 && Math.abs(carries) > blur) continue;
    if (times > 0.9 && times < 1.1) continue;
    // The meter's own current through megohms is no open resistor.
    const high = across / carries;
    const isMegohms = isOpen && carries / across > 0 && high < mostOhms;
    found.push({
      ref: leg.ref,
      ohms: isMegohms ? high : ohms,
      text:
        isOpen && !isMegohms
          ? `${leg.ref} (${formatOhms(leg.ohms)} to ${leg.to}) is open`
          : `${leg.ref} (${formatOhms(leg.ohms)} to ${leg.to}) has gone to ${formatOhms(Number((isMegohms ? high : ohms).toPrecision(2)))}`,
      test: `Source off: read ${leg.ref} from end to end.`,
    });
  }
  const amps = Math.abs(all);
  if (amps > blur)
    found.push({
      ref: null,
      ohms: null,
      ...(all > 0 && read > 0 ? { wantsOhms: read / all } : {}),
      text:
        all > 0
          ? `what hangs on ${net} draws ${formatAmps(Number(amps.toPrecision(2)))}`
          : `something gives ${net} ${formatAmps(Number(amps.toPrecision(2)))}`,
      test:
        all > 0
          ? `Source off: ohms from ${net} to ground; then take what hangs on it off, the easiest first.`
          : `Source off: ohms from ${net} to the rails beside it: dirt or solder bridges them.`,
    });
  for (const leg of legs) {
    if (leg.volts === 0) continue;
    // The volts its other end would have to have.
    const volts = leg.volts - all * leg.ohms;
    if (volts < 0 || Math.abs(volts - leg.volts) < 0.05 * leg.volts || volts > leg.volts * 2)
      continue;
    found.push({
      ref: null,
      ohms: null,
      text: `${leg.to} behind ${leg.ref} has only ${formatVolts(Number(volts.toPrecision(2)))}`,
      test: `Read ${leg.to} at ${leg.ref} itself.`,
    });
  }
  return found;
}

/** Ohms read cold at a net: to ground, and from it to the net at the other end of a leg. */
export interface ColdAt {
  toGround: number | null;
  across: (to: NetId) => number | null;
}

/** Cold ohms this near to what would explain the volts do explain them; a leak so far above does not. A guess. */
const sameOhmsTimes = 1.6;
const tooManyTimes = 3;

/**
 * What cold readings leave of the ways to explain a level: ohms to ground that draw just what is drawn are
 * the answer and stand first; a leak that is not there, and a resistor that was measured whole, go.
 */
export function settledBy(low: LowNet, cold: ColdAt): LowNet {
  const { toGround } = cold;
  const explains = low.explains.flatMap((one): Explains[] => {
    if (one.wantsOhms !== undefined && toGround !== null) {
      if (toGround > tooManyTimes * one.wantsOhms) return [];
      if (toGround < sameOhmsTimes * one.wantsOhms && toGround > one.wantsOhms / sameOhmsTimes)
        return [
          {
            ...one,
            text: `${formatOhms(Number(toGround.toPrecision(2)))} to ground explains ${formatVolts(low.read)}: something on ${low.net} leaks`,
            test: `Source off: take what hangs on ${low.net} off one at a time, the easiest first, and read ohms to ground again.`,
          },
        ];
    }
    const leg = low.legs.find((each) => each.ref === one.ref);
    const read = leg ? cold.across(leg.to) : null;
    // Whatever lies beside it, open it would read more.
    if (leg && one.ohms !== null && read !== null && one.ohms > tooManyTimes * leg.ohms)
      return read < tooManyTimes * leg.ohms ? [] : [one];
    return [one];
  });
  const isAnswer = (one: Explains): boolean => one.text.includes(' explains ');
  return {
    ...low,
    explains: [...explains.filter(isAnswer), ...explains.filter((one) => !isAnswer(one))],
  };
}

/**
 * The net solved for the one part that explains what was read there, the other ends at what they were read
 * at in the same phase or as the healthy play has them. Null for rails, for what reads right, and where
 * nobody read it powered.
 */
export function lowNetAt(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  net: NetId,
): LowNet | null {
  const { board, play } = healthy;
  if (netOf(board, net).kind === 'rail') return null;
  const status = statusOf(readings, net, phaseFor(healthy, net));
  if (status.kind === 'unread' || status.kind === 'good') return null;
  const { value, phase, meter } = status.reading.reading;
  if (value.kind !== 'number' || phase === 'cold') return null;
  const voltsOf = (of: NetId): number | null => {
    const known = statusOf(readings, of, phase);
    const own = known.kind === 'unread' ? null : known.reading.reading.value;
    if (own?.kind === 'number') return own.value;
    return play.phases.get(phase === 'standby' ? 'standby' : 'run')?.volts.get(of) ?? null;
  };
  const low = explainLowNet(
    board,
    net,
    value.value,
    voltsOf,
    meter.inputOhms ?? usualMeter.inputOhms,
  );
  return low && settledBy(low, coldAt(board, readings, net));
}

/** The last ohms that stand at a net: to ground, and across to others. */
function coldAt(board: Board, readings: readonly JudgedReading[], net: NetId): ColdAt {
  const last = (other: NetId): number | null => {
    const found = readings.findLast(({ standing, reading: { mode, at, reference } }) => {
      if (standing.kind !== 'stands' || mode !== 'ohms') return false;
      const ends = [at.net, reference?.net ?? board.ground];
      return ends.includes(net) && ends.includes(other);
    })?.reading.value;
    return found?.kind === 'number' ? found.value : found?.kind === 'over' ? Infinity : null;
  };
  return { toGround: last(board.ground), across: last };
}
