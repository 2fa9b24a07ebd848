import type { NetId, PartRef } from '../../board/index.ts';
import type { Phase } from '../../readings/index.ts';
import { entropy, expectedGain, readingErrors } from '../../inference/index.ts';
import { crossable, measurable, valuesOf } from '../weighing/across.ts';
import { faultAt, listedRow, type Table, type valuesAt } from '../weighing/table.ts';
import { diodeSigma, ohmsSigmaDecades } from '../weighing/cold-likelihood.ts';
import type { Where } from '../weighing/densities.ts';
import { voltsSigma } from '../weighing/volts-likelihood.ts';
import { probePlace } from '../../trace/index.ts';

export type ProbeMode = 'volts' | 'ohms' | 'diode';

/** A reading that could be taken, and what it would tell. */
export interface Proposal {
  net: NetId;
  /** Null: against ground. Else the net the black lead goes to, across `across`. */
  reference: NetId | null;
  across: PartRef | null;
  mode: ProbeMode;
  phase: Phase;
  place: ReturnType<typeof probePlace>;
  /** The point was read so before: this time it only rules out a slip. */
  isRepeat: boolean;
  /** Bits expected about which group it is. */
  gainBits: number;
  /** Seconds it takes from how the bench stands now. */
  seconds: number;
  /** What could be read, most likely first, and the classes that would then stand. */
  outcomes: Outcome[];
}

export interface Outcome {
  /** Range of readings, in the unit of the mode; Infinity is OL. */
  low: number;
  high: number;
  probability: number;
  /** Whether the healthy board reads so. */
  isHealthy: boolean;
  /** Numbers of the classes behind it, most likely first. */
  classes: number[];
}

/** How the bench stands: what changing it costs. */
export interface BenchNow {
  phase: Phase;
  side: string;
}

// Seconds by common practice, no source.
const readSeconds = 20;
/** Two tips to be kept still under the microscope instead of one and a clip. */
const acrossSeconds = 26;
const powerSeconds = 25;
const pressSeconds = 10;
const coldSeconds = 40;
const flipSeconds = 10;
/** A slip of the probe beside a high rail costs more than the reading. */
const highRailSeconds = 4;
const highVolts = 15;

/** Rows lighter than this together with all lighter ones do not decide where to probe. */
export const leastWeight = 1e-4;
const mostRows = 120;

/** Once more is worth it where a slip would decide; a third time tells little. */
export const mostTimes = 2;

/** A reading that was taken: how often, and its log-likelihood by row; null where nothing speaks of it. */
export interface Taken {
  times: number;
  /**
   * A tip that did not touch would have read the same: a row this much worse than the best, in natural
   * logarithms, has it for that. Null where it would not have.
   */
  slipLog: number | null;
  byRow: Float64Array | null;
}

/** Volts convict by far, or they are no slip; OL says little where nobody knows what stands there. */
export const slipLogs = { volts: 3, over: 1 } as const;

/** 0 for rows that explain what was read, 1 for those to which it was a slip. */
function explainedBy(byRow: Float64Array, rows: readonly number[], slipLog: number): Int32Array {
  let best = -Infinity;
  for (const row of rows) best = Math.max(best, byRow[row] ?? -Infinity);
  return Int32Array.from(rows, (row) => ((byRow[row] ?? best) < best - slipLog ? 1 : 0));
}

/** What a board may have, by the row that plays it, and the group it would be named in. */
export interface Hypothesis {
  row: number;
  weight: number;
  group: number;
}

/**
 * Every reading not taken yet, held against the hypotheses that still stand; best gain for its time
 * first. Weights are probabilities.
 */
export function proposeProbes(
  table: Table,
  hypotheses: readonly Hypothesis[],
  taken: ReadonlyMap<string, Taken>,
  bench: BenchNow,
  gone: readonly string[] = [],
): Proposal[] {
  const { board, dictionary } = table;
  const standing = hypotheses
    .filter((one) => one.weight > leastWeight)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, mostRows);
  if (standing.length < 2) return [];
  const rows = standing.map((one) => one.row);
  const rowWeights = Float64Array.from(standing, (one) => one.weight);
  const rowClasses = Int32Array.from(standing, (one) => one.group);
  const classes = standing.reduce((most, one) => Math.max(most, one.group), 0) + 1;
  const proposals: Proposal[] = [];
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  const seen = new Set<string>();

  const consider = (
    net: number,
    mode: ProbeMode,
    phase: Phase,
    other?: { part: PartRef; net: NetId },
  ): void => {
    const id = dictionary.nets[net]!;
    const before = taken.get(probeKey(id, mode, phase, other?.net));
    if (before && (before.slipLog === null || before.times >= mostTimes)) return;
    if (mode === 'volts' && kinds.get(id) === 'switch') return;
    const at = valuesOf(table, {
      at: { net: id, ref: null, pin: null },
      against: other ? { net: other.net, ref: null, pin: null } : null,
      mode,
      phase,
      polarity: mode === 'diode' ? 'black-on-point' : 'red-on-point',
    });
    const cut = cutOutcomes(
      rows,
      mode,
      at,
      other ? 'across' : table.where[net]!,
      table.tolerances[net]!,
    );
    if (!cut || cut.count < 2) return;
    // Neighbours that part the suspects alike are one probe: the handiest of them.
    const key = `${phase} ${other ? 'across' : ''} ${mode} ${cut.outcome.join()}`;
    if (seen.has(key)) return;
    const gainOf = (outcome: Int32Array, count: number): number =>
      expectedGain(rowWeights, rowClasses, classes, outcome, count, readingErrors.wrong);
    let gainBits = gainOf(cut.outcome, cut.count);
    // Read again, a point tells whether it was a slip, and nothing else.
    if (before?.byRow && before.slipLog !== null)
      gainBits = Math.min(gainBits, gainOf(explainedBy(before.byRow, rows, before.slipLog), 2));
    if (gainBits < 0.01) return;
    const place = probePlace(board, id, gone);
    const seconds =
      (other ? acrossSeconds : readSeconds) +
      changeSeconds(bench.phase, phase) +
      (place.side && bench.side && place.side !== bench.side ? flipSeconds : 0) +
      (mode === 'volts' && Math.abs(cut.highest) > highVolts ? highRailSeconds : 0);
    seen.add(key);
    proposals.push({
      net: id,
      reference: other?.net ?? null,
      across: other?.part ?? null,
      mode,
      phase,
      place,
      isRepeat: before !== undefined,
      gainBits,
      seconds,
      outcomes: describe(cut, rowWeights, rowClasses, rows),
    });
  };
  // On a sheet of guesses nobody knows how long the button is held, and cold only a short tells.
  const isGuessed = board.guessed.length > 0;
  for (let net = 0; net < dictionary.nets.length; net++) {
    const id = dictionary.nets[net]!;
    for (const phase of ['standby', 'trying'] as const)
      if (!(isGuessed && phase === 'trying' && id === board.button?.net))
        consider(net, 'volts', phase);
    if (isGuessed && kinds.get(id) !== 'rail') continue;
    for (const mode of isGuessed ? (['ohms'] as const) : (['ohms', 'diode'] as const))
      consider(net, mode, 'cold');
  }
  if (isGuessed) return byGainPerSecond(proposals);
  const suspected = worthMeasuring(table, standing, proposals);
  for (const { part, net, reference } of crossable(board)) {
    if (gone.includes(part.ref)) continue;
    const place = table.placeOf.get(net)!;
    const other = { part: part.ref, net: reference };
    const isSwitch = [net, reference].some((one) => kinds.get(one) === 'switch');
    for (const phase of isSwitch ? [] : (['standby', 'trying'] as const))
      consider(place, 'volts', phase, other);
    if (suspected.has(part.ref)) consider(place, 'ohms', 'cold', other);
  }
  for (const { part, net, reference } of measurable(board))
    if (suspected.has(part.ref) && !gone.includes(part.ref))
      consider(table.placeOf.get(net)!, 'ohms', 'cold', { part: part.ref, net: reference });
  return byGainPerSecond(proposals);
}

/**
 * Parts of which the part itself may be measured, unpowered: where that could tell a tenth of what the
 * best reading so far tells in its time. It tells at most whether it is the part.
 */
function worthMeasuring(
  table: Table,
  standing: readonly Hypothesis[],
  proposals: readonly Proposal[],
): ReadonlySet<string> {
  const best = proposals.reduce((most, one) => Math.max(most, one.gainBits / one.seconds), 0);
  const weights = new Map<string, number>();
  let all = 0;
  for (const { row, weight } of standing) {
    all += weight;
    const listed = listedRow(table, row);
    const fault = listed === null || listed === 0 ? null : faultAt(table, listed);
    if (fault && 'part' in fault) weights.set(fault.part, (weights.get(fault.part) ?? 0) + weight);
  }
  return new Set(
    [...weights].flatMap(([part, weight]) =>
      entropy(weight / all) / acrossSeconds >= best / 10 ? [part] : [],
    ),
  );
}

const byGainPerSecond = (proposals: Proposal[]): Proposal[] =>
  proposals.sort((a, b) => b.gainBits / b.seconds - a.gainBits / a.seconds);

export const probeKey = (net: NetId, mode: string, phase: Phase, reference?: string): string =>
  `${net} ${mode} ${phase} ${reference ?? ''}`;

function changeSeconds(from: Phase, to: Phase): number {
  if (from === to) return 0;
  const afterPress = (phase: Phase): boolean =>
    phase === 'trying' || phase === 'run' || phase === 'pressed';
  if (afterPress(from) && afterPress(to)) return 0;
  if (to === 'cold') return coldSeconds;
  if (from === 'cold') return powerSeconds + (to === 'standby' ? 0 : pressSeconds);
  return to === 'standby' ? powerSeconds : pressSeconds;
}

interface Cut {
  /** Outcome of each row; -1 where it says nothing. */
  outcome: Int32Array;
  count: number;
  ranges: { low: number; high: number }[];
  healthy: number;
  highest: number;
}

/** Where what swings stands, beyond all that is steady. */
const swinging = 1000;

/** Predictions sorted and cut where a reading would tell the two sides apart. */
function cutOutcomes(
  rows: readonly number[],
  mode: ProbeMode,
  { value: valueOf, swings }: ReturnType<typeof valuesAt>,
  where: Where,
  tolerance: number,
): Cut | null {
  const values = new Float64Array(rows.length);
  const at = new Float64Array(rows.length);
  const order: number[] = [];
  let [least, most] = [Infinity, -Infinity];
  for (let index = 0; index < rows.length; index++) {
    const value = valueOf(rows[index]!);
    values[index] = value;
    // How high something swings hangs on limits nobody stated: that it does is all that tells.
    at[index] = swings(rows[index]!) ? swinging : scaled(mode, value);
    if (Number.isNaN(value)) continue;
    order.push(index);
    least = Math.min(least, at[index]!);
    most = Math.max(most, at[index]!);
  }
  // Most points read the same under all that is left: nothing to cut.
  if (!(most - least > 1e-6)) return null;
  order.sort((a, b) => at[a]! - at[b]!);
  const outcome = new Int32Array(rows.length).fill(-1);
  const ranges: Cut['ranges'] = [];
  let last = -Infinity;
  for (const index of order) {
    const value = values[index]!;
    const sigma =
      mode === 'ohms'
        ? ohmsSigmaDecades
        : mode === 'diode'
          ? diodeSigma
          : voltsSigma(value, where, tolerance);
    if (at[index]! - last > 3.2 * sigma) ranges.push({ low: value, high: value });
    const range = ranges.at(-1)!;
    range.low = Math.min(range.low, value);
    range.high = Math.max(range.high, value);
    last = at[index]!;
    outcome[index] = ranges.length - 1;
  }
  const highest = mode === 'volts' ? order.reduce((top, one) => Math.max(top, values[one]!), 0) : 0;
  return { outcome, count: ranges.length, ranges, healthy: valueOf(0), highest };
}

/** On the scale a reading is told apart on: decades for ohms; above the range stands beyond all. */
function scaled(mode: ProbeMode, value: number): number {
  if (mode === 'ohms') return value === Infinity ? 8.3 : Math.log10(Math.max(value, 0.3));
  return value === Infinity ? 3 : value;
}

function describe(
  { outcome, ranges, healthy }: Cut,
  weights: Float64Array,
  classes: Int32Array,
  rows: readonly number[],
): Outcome[] {
  const total = weights.reduce((sum, one) => sum + one, 0);
  return ranges
    .map(({ low, high }, index): Outcome => {
      const byClass = new Map<number, number>();
      let probability = 0;
      rows.forEach((_, place) => {
        if (outcome[place] !== index) return;
        probability += weights[place]!;
        const one = classes[place]!;
        byClass.set(one, (byClass.get(one) ?? 0) + weights[place]!);
      });
      return {
        low,
        high,
        probability: probability / total,
        isHealthy: healthy >= low && healthy <= high,
        classes: [...byClass].sort((a, b) => b[1] - a[1]).map(([one]) => one),
      };
    })
    .sort((a, b) => b.probability - a.probability);
}
