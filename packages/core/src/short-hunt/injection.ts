import {
  isFet,
  isSeriesPart,
  netOf,
  type Board,
  type NetId,
  findPart,
  joinedTo,
} from '../board/index.ts';
import type { Fault } from '../faults/index.ts';
import { playFed, type PlaySetup } from '../play/index.ts';
import { lowByNature } from '../readings/index.ts';
import {
  drivenVolts,
  gentleVolts,
  leakOhms,
  liveAmps,
  mostInjectedAmps,
  mostPartWatts,
  offVolts,
  overVolts,
} from '../safety/index.ts';
import { formatAmps, formatOhms, formatVolts } from '../units/index.ts';
import { seenWord, expectedRise, type Seen } from './heat.ts';

/** A limited injection as it is to be set, what it does, and why it may not be done. */
export interface Injection {
  net: NetId;
  /** What the supply is set to. */
  volts: number;
  limitAmps: number;
  /** What it will show with the short there. */
  shownVolts: number;
  shownAmps: number;
  /** Heat in the short. */
  watts: number;
  rise: number;
  seen: Seen;
  /** Other nets it lifts, once the short is gone: through body diodes and switches. */
  backwards: { net: NetId; volts: number }[];
  /** Never set more than these. */
  mostVolts: number;
  mostAmps: number;
  /** What it would hurt; empty where it may be done. */
  harms: string[];
  says: string[];
}

const ampSteps = [1, 2, 3, 5];
const voltSteps = [1, 1.5, 2, 3, 5, 9, 12, 20, 24];

/**
 * The least injection that would show the short to a camera, within what the rail and all it feeds
 * backwards can bear; `asked` tries other settings. Played on the healthy board: a short may burn open and
 * then the whole of the supply stands on the rail.
 */
export function planInjection(
  board: Board,
  setup: PlaySetup,
  net: NetId,
  ohms: number,
  asked?: { volts: number; limitAmps: number },
): Injection {
  const rail = netOf(board, net);
  const mostVolts = lowestVolts(board, net);
  const mostAmps = Math.min(mostInjectedAmps, makerAmps(board, net) ?? mostInjectedAmps);
  const shortOhms = Math.max(ohms, 0.01);
  const given = asked ?? gentlest(shortOhms, mostVolts, mostAmps);
  const shownAmps = Math.min(given.limitAmps, given.volts / shortOhms);
  const watts = shownAmps * shownAmps * shortOhms;
  const harms: string[] = [];
  const says: string[] = [];
  if (rail.kind !== 'rail' && rail.kind !== 'switch')
    harms.push(`${net} is a signal: no current is to be driven into it.`);
  if (given.volts > mostVolts + 1e-9)
    harms.push(
      `${formatVolts(given.volts)} is more than ${net} ever has (${formatVolts(mostVolts)}): should the short burn open, all that hangs on it gets them.`,
    );
  if (given.limitAmps > mostAmps + 1e-9)
    harms.push(
      `${formatAmps(given.limitAmps)} is more than what makes ${net} may carry (${formatAmps(mostAmps)}).`,
    );
  if (watts > mostPartWatts)
    harms.push(`${watts.toPrecision(2)} W in one part: it burns, and the board below it.`);
  const fed = harms.length === 0 ? playFed(board, setup, { net, ...given }, []) : null;
  const joined = joinedTo(board, [net]);
  const backwards = fed
    ? board.nets
        .filter((one) => one.kind === 'rail' && !joined.has(one.id))
        .map((one) => ({ net: one.id, volts: fed.volts.get(one.id) ?? 0 }))
        .filter((one) => one.volts > drivenVolts)
        .sort((a, b) => b.volts - a.volts)
    : [];
  if (harms.length === 0 && fed === null)
    harms.push('What it does beside could not be played: it did not settle.');
  for (const one of backwards) {
    const most = highestVolts(board, one.net);
    if (most !== null && one.volts > most + overVolts)
      harms.push(
        `It lifts ${one.net} to ${formatVolts(one.volts)}, which never has more than ${formatVolts(most)}.`,
      );
  }
  const seen = seenWord(watts);
  if (ohms >= leakOhms)
    says.push(
      `${ohms.toFixed(0)} Ω is a leak, no short: so little current flows that nothing gets warm.`,
    );
  says.push(
    `${formatAmps(shownAmps)} into ${shortOhms < 1 ? `${Number((shortOhms * 1000).toPrecision(2))} mΩ` : `${Number(shortOhms.toPrecision(2))} Ω`} is ${wattsText(watts)} and ${seenText[seen]}.`,
  );
  if (backwards.length > 0)
    says.push(
      `Without the short it would also reach ${backwards
        .slice(0, 4)
        .map((one) => `${one.net} (${formatVolts(one.volts)})`)
        .join(', ')}.`,
    );
  if (lowByNature(rail) || rail.rangeVolts !== null)
    says.push(
      `${net} feeds a processor: a good one takes amps at these volts and gets warm by itself.`,
    );
  return {
    net,
    ...given,
    shownVolts: Math.min(given.volts, shownAmps * shortOhms),
    shownAmps,
    watts,
    rise: expectedRise(watts),
    seen,
    backwards,
    mostVolts,
    mostAmps,
    harms,
    says,
  };
}

const seenText: Record<Seen, string> = {
  clearly: 'shows under a camera',
  perhaps: 'may show under a camera; more amps within the limits, or millivolts, tell more',
  hardly: 'is probably not seen: more amps within the limits, or millivolts along the rail',
};

const wattsText = (watts: number): string =>
  watts < 1 ? `${Number((watts * 1000).toPrecision(2))} mW` : `${Number(watts.toPrecision(2))} W`;

/** Enough for a camera with the fewest volts, then the fewest amps. */
function gentlest(
  ohms: number,
  mostVolts: number,
  mostAmps: number,
): { volts: number; limitAmps: number } {
  const volts = [...voltSteps.filter((one) => one < mostVolts), mostVolts];
  const amps = [...ampSteps.filter((one) => one < mostAmps), mostAmps];
  let best = { volts: Math.min(gentleVolts, mostVolts), limitAmps: Math.min(1, mostAmps) };
  for (const v of volts)
    for (const a of amps) {
      const flows = Math.min(a, v / ohms);
      const watts = flows * flows * ohms;
      if (watts > mostPartWatts) continue;
      if (seenWord(watts) === 'clearly') return { volts: v, limitAmps: a };
      if (flows > Math.min(best.limitAmps, best.volts / ohms) + 1e-9)
        best = { volts: v, limitAmps: a };
    }
  return best;
}

/** The least the rail has when it is up: what joins it counts, a range by its lower end. */
function lowestVolts(board: Board, net: NetId): number {
  const volts = [...joinedTo(board, [net])].flatMap((id) => {
    const one = netOf(board, id);
    const least = one.rangeVolts?.[0] ?? one.volts;
    return least && one.kind === 'rail' ? [least] : [];
  });
  return volts.length > 0 ? Math.min(...volts) : gentleVolts;
}

function highestVolts(board: Board, net: NetId): number | null {
  const one = netOf(board, net);
  return (
    one.rangeVolts?.[1] ?? (one.volts === null ? null : one.volts * (1 + (one.tolerance ?? 0.05)))
  );
}

/** What makes the rail may give so much for good; null where the sheet names nothing. */
function makerAmps(board: Board, net: NetId): number | null {
  const joined = joinedTo(board, [net]);
  const limits = board.chips.flatMap((chip) =>
    chip.behaviours.flatMap((one) =>
      one.do === 'regulator' &&
      [one.out, one.sense].some((pin) => joined.has(chip.pins.get(pin) as NetId))
        ? [one.limitAmps]
        : [],
    ),
  );
  const sources = board.sources.filter((one) => joined.has(one.net)).map((one) => one.limitAmps);
  const all = [...limits, ...sources];
  return all.length > 0 ? Math.max(1, Math.min(...all)) : null;
}

/** Feeding a rail of a board that is on: only with its own regulator known to be off. */
export interface LiveFeed {
  /** Empty where it may be done. */
  harms: string[];
  volts: number;
  limitAmps: number;
}

/**
 * Whether a missing rail may be fed while the board's source is on, as a test: does all that follows come
 * up? Played with its source on and what makes the rail dead. `read` is what the rail was read at then, and
 * its ohms to ground cold with the same parts off; null where nobody read it.
 */
export function planLiveFeed(
  board: Board,
  setup: PlaySetup,
  net: NetId,
  read: { volts: number | null; ohms: number | null },
): LiveFeed {
  const rail = netOf(board, net);
  const volts = rail.volts ?? 0;
  const harms: string[] = [];
  if (lowByNature(rail) || rail.rangeVolts !== null || feedsProcessor(board, net))
    harms.push(
      `${net} is a rail of the processor: its volts are set while it runs, and nothing else is to feed it.`,
    );
  else if (rail.kind !== 'rail' || !volts) harms.push(`${net} is no rail whose volts are known.`);
  if (read.ohms === null)
    harms.push(`${net} is not known to be free of a short: read its ohms cold first.`);
  else if (read.ohms * liveAmps <= volts)
    harms.push(
      `${net} reads ${formatOhms(read.ohms)} cold: all that the feed gives would go into the short. Find that first.`,
    );
  if (read.volts === null || read.volts >= offVolts)
    harms.push(
      `What makes ${net} is not known to be off: read it first. Two supplies on one rail fight.`,
    );
  if (harms.length === 0) {
    const feed = { net, volts, limitAmps: liveAmps };
    const fed = playFed(board, setup, feed, deadMakers(board, net), true);
    if (!fed) harms.push('It could not be played: it did not settle.');
    else
      for (const one of board.nets) {
        const most = highestVolts(board, one.id);
        const has = fed.volts.get(one.id) ?? 0;
        if (one.kind === 'rail' && most !== null && has > most + overVolts)
          harms.push(`It lifts ${one.id} to ${formatVolts(has)}.`);
      }
  }
  return { harms, volts, limitAmps: liveAmps };
}

/** What makes a rail, giving nothing. */
function deadMakers(board: Board, net: NetId): Fault[] {
  const joined = joinedTo(board, [net]);
  return board.chips.flatMap((chip) =>
    chip.behaviours.flatMap((one): Fault[] =>
      one.do === 'regulator' && joined.has(chip.pins.get(one.sense) as NetId)
        ? [{ kind: 'output-dead', part: chip.ref, pin: one.out }]
        : [],
    ),
  );
}

const feedsProcessor = (board: Board, net: NetId): boolean =>
  board.chips.some(
    (chip) =>
      chip.kind === 'cpu-regulator' &&
      chip.behaviours.some(
        (one) => one.do === 'regulator' && joinedTo(board, [chip.pins.get(one.sense)]).has(net),
      ),
  );

/** A rail split at its coil is powered only with its feedback on the regulator's side. */
export function splitSense(board: Board, part: string): string | null {
  const coil = findPart(board, part);
  if (!coil || !isSeriesPart(coil) || isFet(coil)) return null;
  const nets = coil.pins.map((pin) => pin.net);
  for (const chip of board.chips)
    for (const one of chip.behaviours) {
      if (one.do !== 'regulator') continue;
      const [out, sense] = [chip.pins.get(one.out), chip.pins.get(one.sense)];
      if (out === undefined || sense === undefined) continue;
      const near = joinedTo(board, [out], part);
      if (nets.some((net) => near.has(net)) && !near.has(sense))
        return `With ${part} out, ${chip.ref} does not see ${sense} any more and drives as hard as it can: do not power the board with ${part} out.`;
    }
  return null;
}
