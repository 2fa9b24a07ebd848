import { readingErrors, shares } from '../inference/index.ts';
import { leastStepVolts } from '../readings/index.ts';
import { asOnBench, type Board, type NetId, joinedTo } from '../board/index.ts';
import type { Candidate } from './candidates.ts';
import { stillShort, shortOhms, type OhmsRead } from '../trace/index.ts';
import { sharedOhms, type Copper } from './copper.ts';
import { cameraFloorKelvin, expectedRise, seenChance } from './heat.ts';

// What was done and read on a shorted rail, and what it makes of each candidate.

/** A time the rail was fed, and what was seen and read meanwhile. */
export interface FedRail {
  id: string;
  net: NetId;
  /** The part at which the current goes in; null where nobody said. */
  at: string | null;
  amps: number;
  /** Volts the supply showed; null where nobody wrote them down. */
  volts: number | null;
  /** Hottest first; null: looked, and nothing was warm. */
  warm: { part: string | null; rise: number | null }[];
  drops: { part: string; volts: number }[];
}

export interface HuntLog {
  ohms: readonly OhmsRead[];
  fed: readonly FedRail[];
}

export interface WeighedCandidate extends Candidate {
  probability: number;
  /** Split or lifted away from it, with what showed it; null while it is in question. */
  cleared: string | null;
}

/** Plane or thin trace: the copper differs from the one assumed by so much, each as likely. */
const copperScales = [0.3, 0.55, 1, 1.8, 3.2];
const copperPart = 0.3;
/** A slip, in any single observation. */
const slip = readingErrors.inHunt;
/** How far the warmest part is named from the one that heats, in millimetres. */
const namedSpread = 4;
const riseSigma = 0.8;

/** Every candidate with its probability after all that was done. */
export function weighHunt(
  board: Board,
  candidates: readonly Candidate[],
  copper: Copper,
  log: HuntLog,
): WeighedCandidate[] {
  const first = shortOhms(log.ohms) ?? 1;
  const logs = candidates.map((one) => Math.log(one.share));
  const cleared: (string | null)[] = candidates.map(() => null);
  for (const read of log.ohms) {
    if (read.lifted.length === 0) continue;
    const there = joinedTo(asOnBench(board, { lifted: read.lifted }), [read.net]);
    const isShort = stillShort(read.ohms, first);
    candidates.forEach((one, index) => {
      const isOn = there.has(one.net) && !read.lifted.includes(one.name);
      if (isOn === isShort) return;
      logs[index]! += Math.log(slip / 2);
      const off = read.lifted.join(', ');
      cleared[index] ??= isShort
        ? read.lifted.includes(one.name)
          ? `off, and ${read.net} still reads ${ohmsWord(read.ohms)}`
          : `with ${off} out it is not on ${read.net}, which still reads ${ohmsWord(read.ohms)}`
        : `with ${off} out ${read.net}, which it is on, reads ${ohmsWord(read.ohms)}`;
    });
  }
  for (const fed of log.fed) {
    candidates.forEach((one, index) => {
      logs[index]! += warmLog(one, copper, fed, first);
    });
    const drops = dropLogs(candidates, copper, fed, log.fed);
    drops.forEach((value, index) => (logs[index]! += value));
  }
  const { weights } = shares(logs);
  return candidates
    .map((one, index) => ({
      ...one,
      probability: weights[index]!,
      cleared: cleared[index]!,
    }))
    .sort((a, b) => b.probability - a.probability);
}

const ohmsWord = (ohms: number): string =>
  Number.isFinite(ohms) ? `${Number(ohms.toPrecision(3))} Ω` : 'OL';

/** Ohms of the short alone, as the supply showed them; else as the meter did. */
export const fedOhms = (fed: FedRail, first: number): number =>
  fed.volts !== null && fed.amps > 0 ? fed.volts / fed.amps : first;

function warmLog(one: Candidate, copper: Copper, fed: FedRail, first: number): number {
  const watts = fed.amps * fed.amps * Math.max(0.005, fedOhms(fed, first));
  // The rail itself spreads its heat over its whole length.
  const chance = one.isNet ? 0.1 * seenChance(watts) : seenChance(watts);
  return fed.warm.reduce((sum, { part, rise }) => {
    if (part === null) return sum + Math.log(1 - (1 - slip) * chance);
    const seen = (1 - slip) * chance;
    const away = one.isNet ? Infinity : distance(copper, one.name, part);
    const near = Math.exp(-0.5 * (away / namedSpread) ** 2);
    const anywhere = 1 / Math.max(4, copper.pads.length);
    const size =
      rise === null || rise < cameraFloorKelvin
        ? 1
        : 0.2 +
          0.8 *
            Math.exp(-0.5 * (Math.log(rise / Math.max(0.1, expectedRise(watts))) / riseSigma) ** 2);
    return sum + Math.log(seen * (0.95 * near * size + 0.05 * anywhere) + slip * anywhere);
  }, 0);
}

/** Millimetres between two parts, on whichever side; a part by itself is at none. */
function distance(copper: Copper, a: string, b: string): number {
  if (a === b) return 0;
  const [from, to] = [copper.padOf(a), copper.padOf(b)];
  if (!from || !to) return 25;
  return Math.hypot(from.x - to.x, from.y - to.y);
}

/** So many standard deviations off, a drop is none of this rail. */
const farSigmas = 3.5;

/**
 * Whether this rail could have given these drops. Between two places stands no more than the whole current
 * makes along the copper between them (in a network of resistors |Va - Vb| <= I R_ab), and for some candidate
 * each drop is within `farSigmas` of what the copper makes of the current leaving there. Fewer than three
 * drops always fit.
 */
function dropsFit(candidates: readonly Candidate[], copper: Copper, fed: FedRail): boolean {
  const read = placedDrops(copper, fed);
  if (read.length < 3) return true;
  const thinnest = Math.max(...copperScales);
  const isWithinCopper = read.every((a) =>
    read.every(
      (b) =>
        Math.abs(a.volts - b.volts) <=
        fed.amps * copper.ohms(a.part, b.part) * thinnest + mostNoise,
    ),
  );
  if (!isWithinCopper) return false;
  return candidates.some(
    ({ isNet, name }) =>
      !isNet &&
      copper.padOf(name) !== null &&
      isLowest(name, read) &&
      offByScale(copper, fed, name, read).some((drops) =>
        drops.every(({ off }) => Math.abs(off) <= farSigmas),
      ),
  );
}

/**
 * Whether the drops of a feed count: they fit, or were read again and found the same (the rail has a narrow
 * place then that nobody knows of).
 */
export const dropsCount = (
  candidates: readonly Candidate[],
  copper: Copper,
  fed: FedRail,
  all: readonly FedRail[],
): boolean =>
  dropsFit(candidates, copper, fed) ||
  all.slice(0, all.indexOf(fed)).some((earlier) => readAlike(earlier, fed));

/** The same places at about the same current, each as far above the first as before. */
function readAlike(a: FedRail, b: FedRail): boolean {
  const first = (fed: FedRail): number => fed.drops[0]?.volts ?? 0;
  return (
    a.at === b.at &&
    a.drops.length === b.drops.length &&
    Math.abs(a.amps - b.amps) <= 0.1 * b.amps &&
    b.drops.every(({ part, volts }) => {
      const earlier = a.drops.find((drop) => drop.part === part);
      if (!earlier) return false;
      const [was, is] = [earlier.volts - first(a), volts - first(b)];
      return Math.abs(was - is) <= mostNoise + 0.1 * Math.abs(is);
    })
  );
}

/** What the meter and its tip add to the difference of two drops at most. */
const mostNoise = farSigmas * Math.hypot(leastStepVolts, leastStepVolts);

/** Whether the current may leave here by what was read: nothing stands below the place where it does. */
const isLowest = (name: string, read: FedRail['drops']): boolean => {
  const own = read.find((drop) => drop.part === name);
  return own === undefined || read.every(({ volts }) => own.volts <= volts + mostNoise);
};

/** Drops at places the sheet knows, where it is known where the current goes in. */
const placedDrops = (copper: Copper, { at, drops }: FedRail): FedRail['drops'] =>
  at === null || copper.padOf(at) === null
    ? []
    : drops.filter((drop) => copper.padOf(drop.part) !== null);

/**
 * For each thickness of copper, how far every drop is, in standard deviations, from what the current leaving at
 * `short` would give; the volts across the short itself are free.
 */
function offByScale(
  copper: Copper,
  { at, amps }: FedRail,
  short: string,
  read: FedRail['drops'],
): { off: number; sigma: number }[][] {
  const shared = read.map((drop) => amps * sharedOhms(copper, at!, short, drop.part));
  return copperScales.map((scale) => {
    const expected = shared.map((volts) => volts * scale);
    const sigmas = expected.map((volts) =>
      Math.hypot(leastStepVolts, leastStepVolts, copperPart * volts),
    );
    const weight = sigmas.map((sigma) => 1 / sigma ** 2);
    const total = weight.reduce((sum, part) => sum + part, 0);
    const offset =
      read.reduce((sum, drop, i) => sum + weight[i]! * (drop.volts - expected[i]!), 0) / total;
    return read.map((drop, i) => ({
      off: (drop.volts - expected[i]! - offset) / sigmas[i]!,
      sigma: sigmas[i]!,
    }));
  });
}

/** Log-likelihood of the drops under each candidate; drops that do not count say nothing. */
function dropLogs(
  candidates: readonly Candidate[],
  copper: Copper,
  fed: FedRail,
  all: readonly FedRail[],
): number[] {
  const read = placedDrops(copper, fed);
  if (read.length < 2 || !dropsCount(candidates, copper, fed, all)) return candidates.map(() => 0);
  return candidates.map((one) => {
    if (one.isNet || copper.padOf(one.name) === null) return Math.log(0.05) * 0.5;
    const byScale = offByScale(copper, fed, one.name, read).map((drops) =>
      drops.reduce((sum, { off, sigma }) => {
        const density = Math.exp(-0.5 * off * off) / sigma;
        return sum + Math.log((1 - slip) * density + slip / 0.01);
      }, 0),
    );
    const best = Math.max(...byScale);
    return (
      (isLowest(one.name, read) ? 0 : Math.log(slip)) +
      best +
      Math.log(byScale.reduce((sum, value) => sum + Math.exp(value - best), 0) / byScale.length)
    );
  });
}
