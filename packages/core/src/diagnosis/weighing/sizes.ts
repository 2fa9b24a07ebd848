import { type Fault, groundedNet } from '../../faults/index.ts';
import { isPlayed, voltsPlace } from '../../dictionary/index.ts';
import type { Observation } from './observation.ts';
import { sizeLogPrior } from './row-priors.ts';
import { fitOf, leastScore, type Candidate, type Size, type Way } from './candidate.ts';
import { faultAt, type Table } from './table.ts';

// Shorts, leaks and drifts come in any size. Between two listed ones a source may just hold or give
// up, an enable just be reached or not: what a board does there is no mean of both ends, it is played.

/** Beyond the mildest listed size lies the healthy board, beyond the hardest it is open or dead: so far is looked. */
const beyond = 10;

type Sized = Extract<Fault, { ohms: number } | { factor: number }>;

const isSized = (fault: Fault): fault is Sized => 'ohms' in fault || 'factor' in fault;
const sizeOf = (fault: Sized): number => ('ohms' in fault ? fault.ohms : fault.factor);

/**
 * The fault in a size on the way to another severity of it, `part` of the way (0 to 1) by its
 * logarithm; `other` is null where that is the healthy board. Null where it has no size.
 */
export function sizeOnTheWay(fault: Fault, other: Fault | null, part: number): Fault | null {
  if (!isSized(fault)) return null;
  const own = sizeOf(fault);
  const end = other === null ? healthyEnd(fault) : isSized(other) ? sizeOf(other) : openEnd(fault);
  if (!(own > 0 && end > 0) || own === end) return null;
  const size = own * (end / own) ** part;
  return 'ohms' in fault ? { ...fault, ohms: size } : { ...fault, factor: size };
}

/** A short so weak that nothing is pulled down, a wire hardly gone high, a part at its own value. */
function healthyEnd(fault: Sized): number {
  if ('factor' in fault) return 1;
  return fault.kind === 'high' ? fault.ohms / beyond : fault.ohms * beyond;
}

/** A wire all but open, an output all but dead. */
function openEnd(fault: Sized): number {
  if ('ohms' in fault) return fault.ohms * beyond;
  return fault.factor > 1 ? fault.factor * beyond : fault.factor / beyond;
}

/** Ways from one size to the next looked at a time, and one whose net was itself read in between; of rivals one. */
const mostWays = 2;
/** An end of the way that explains this much less, by natural logarithm, than both ends together is not the size. */
const leastTorn = 2;
/** Parts of the way played at first. */
const firstParts = [0.25, 0.5, 0.75] as const;
/** Rows that are played at a time, at most. */
export const mostSizesAtATime = (mostWays + 1) * firstParts.length;
/** Nearer than this, of the way from one listed size to the next, is the same size to a meter. */
const leastStep = 0.04;

/** Where so much stands on sizes in between, what else stands this much has its own looked at as closely. */
const sizesMatter = 0.05;
const rivalShare = 0.003;

export type Ways = Map<string, Way>;

/**
 * Sizes between two listed ones of which each explains readings that the other does not: neither
 * alone, both together all of them. Once some were played, the middle of
 * the two that do so best. What was looked at closely fits better than what was not: rivals of a size
 * that stands are looked at as well, and where all is explained, they alone.
 */
export function sizeCandidates(
  table: Table,
  weights: Float64Array,
  logPriors: Float64Array,
  used: readonly Observation[],
  ways: Ways,
  isExplained: boolean,
): Candidate[] {
  const ofSizes = table.sets.reduce(
    (sum, members, index) =>
      members.length === 1 ? sum + (weights[table.singles + index] ?? 0) : sum,
    0,
  );
  const haveRivals = ofSizes > sizesMatter;
  if (isExplained && !haveRivals) return [];
  const fit = fitOf(table.dictionary.rows, used);
  const bar = leastScore(weights, logPriors, fit);
  const found: { score: number; isDirect: boolean; way: Way; parts: number[] }[] = [];
  for (const way of waysOf(table)) {
    const { from, to } = way;
    if (!(logPriors[from]! > -Infinity) || !isPlayed(table.dictionary, from)) continue;
    const known = ways.get(wayKey(way));
    const prior = logPriors[from]! + sizeLogPrior;
    const best = bestBetween((known ?? way).sizes, used);
    if (!best || best.fits + prior < bar) continue;
    const isRival = haveRivals && weights[from]! > rivalShare && tellApart(from, to, used);
    if (isExplained && !isRival) continue;
    const score = best.fits + prior;
    const isDirect = isReadBetween(table, way, used);
    if (known) found.push({ score, isDirect, way: known, parts: [best.middle] });
    else if (isRival || best.fits > Math.max(fit[from]!, fit[to]!) + leastTorn)
      found.push({ score, isDirect, way, parts: [...firstParts] });
  }
  const toPlay = found
    .sort((a, b) => b.score - a.score)
    .map(({ score, isDirect, way, parts }) => ({
      isDirect,
      sizes: played(table, way, parts, score),
    }))
    .filter(({ sizes }) => sizes.length > 0);
  const chosen = toPlay.slice(0, isExplained ? 1 : mostWays);
  const direct = isExplained ? undefined : toPlay.find((one) => one.isDirect);
  if (direct && !chosen.includes(direct)) chosen.push(direct);
  return chosen.flatMap(({ sizes }) => sizes);
}

/** Both ends of a way that explain all alike have nothing between them to be looked at. */
const leastApart = 1;
const tellApart = (from: number, to: number, used: readonly Observation[]): boolean =>
  used.some(({ byRow }) => Math.abs(byRow[from]! - byRow[to]!) > leastApart);

/** So far from the harder end of a way, of what lies between both, and from the milder one, of its volts. */
const leastAbove = 0.05;
const leastBelow = 0.15;

/** Whether the net itself that a fault drags was read in between: nothing else gives a line volts of its own. */
export function isReadBetween(
  table: Table,
  { from, to }: Way,
  used: readonly Observation[],
): boolean {
  const { board, dictionary } = table;
  const net = groundedNet(board, faultAt(table, from));
  if (net === null) return false;
  return used.some(({ at }) => {
    const [place] = at?.nets ?? [];
    if (!at?.steady || place === undefined || dictionary.nets[place] !== net) return false;
    const { phase, volts } = at.steady;
    const [low, high] = [from, to]
      .map((row) => dictionary.volts[voltsPlace(dictionary, row, phase, place)]!)
      .sort((a, b) => a - b) as [number, number];
    return volts > low + leastAbove * (high - low) && volts < (1 - leastBelow) * high;
  });
}

const wayKey = ({ from, to }: Way): string => `${from} ${to}`;

/** Every way from a listed size to the next milder one; to open or dead from the size before. */
function waysOf(table: Table): Way[] {
  return table.neighbours.flatMap((near, row): Way[] => {
    const milder = near[0];
    if (row === 0 || milder === undefined) return [];
    const isEnd = sizeOnTheWay(faultAt(table, row), null, 0.5) === null;
    const [from, to] = isEnd ? [milder, row] : [row, milder];
    const ends = [
      { part: 0, row: from },
      { part: 1, row: to },
    ];
    return from === 0 ? [] : [{ from, to, sizes: ends }];
  });
}

/** The two sizes next to each other that together explain most: the middle between them, and how well they fit. */
function bestBetween(
  sizes: readonly Size[],
  used: readonly Observation[],
): { middle: number; fits: number } | null {
  let best: { middle: number; fits: number } | null = null;
  sizes.slice(0, -1).forEach((one, place) => {
    const next = sizes[place + 1]!;
    if (next.part - one.part < leastStep) return;
    let fits = 0;
    for (const { byRow } of used) fits += Math.max(byRow[one.row]!, byRow[next.row]!);
    if (!best || fits > best.fits) best = { middle: (one.part + next.part) / 2, fits };
  });
  return best;
}

/** Another size of the fault for each part of the way. */
function played(table: Table, way: Way, parts: readonly number[], score: number): Candidate[] {
  const own = faultAt(table, way.from);
  const other = way.to === 0 ? null : faultAt(table, way.to);
  return parts.flatMap((part): Candidate[] => {
    const fault = sizeOnTheWay(own, other, part);
    const key = `${wayKey(way)} ${part}`;
    return fault ? [{ key, members: [way.from], faults: [fault], score, size: { way, part } }] : [];
  });
}

/** Writes down which rows sizes stand in. */
export function noteSizes(ways: Ways, chosen: readonly Candidate[], firstRow: number): void {
  chosen.forEach(({ size }, index) => {
    if (!size) return;
    const { way, part } = size;
    way.sizes = [...way.sizes, { part, row: firstRow + index }].sort((a, b) => a.part - b.part);
    ways.set(wayKey(way), way);
  });
}
