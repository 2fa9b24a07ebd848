import type { Board, StageId } from '../board/index.ts';
import { priorWeight, type Diagnosis } from '../diagnosis/index.ts';
import { outcomeOf, type Dictionary } from '../dictionary/index.ts';
import type { OrderedStage } from '../expectations/index.ts';
import { formatAmps, formatChance } from '../units/index.ts';

/** Amps as most boards that stop there draw them: the middle four fifths, and the median. */
export interface AmpsRange {
  low: number;
  mid: number;
  high: number;
}

/** What a board draws that stops at a stage. */
export interface DrawStop {
  /** Null: every stage comes. */
  stage: StageId | null;
  title: string;
  standby: AmpsRange;
  trying: AmpsRange;
}

/** What boards with one fault draw, by the first stage that does not come; in the order of waking. */
export function drawStops(
  board: Board,
  stages: readonly OrderedStage[],
  dictionary: Dictionary,
): DrawStop[] {
  const byStage = new Map<StageId | null, { weight: number; standby: number; trying: number }[]>();
  const weights = new Map<number, number>();
  const nothing = { findings: [], tried: [], habits: [] };
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (row > 0) weights.set(row, (weights.get(row) ?? 0) + priorWeight(board, fault, nothing));
  });
  for (const [row, weight] of weights) {
    if (dictionary.invalid.has(row) || weight <= 0) continue;
    const { firstMissing, standbyAmps, tryingAmps } = outcomeOf(board, stages, dictionary, row);
    const list = byStage.get(firstMissing) ?? [];
    list.push({ weight, standby: standbyAmps, trying: tryingAmps });
    byStage.set(firstMissing, list);
  }
  const order: (StageId | null)[] = [...stages.map((one) => one.stage.id), null];
  return order.flatMap((stage) => {
    const list = byStage.get(stage);
    if (!list) return [];
    const title = stages.find((one) => one.stage.id === stage)?.stage.title ?? 'none: all come';
    return [
      {
        stage,
        title,
        standby: rangeOf(list.map((one) => [one.standby, one.weight])),
        trying: rangeOf(list.map((one) => [one.trying, one.weight])),
      },
    ];
  });
}

function rangeOf(weighted: readonly (readonly [number, number])[]): AmpsRange {
  const sorted = weighted.toSorted((a, b) => a[0] - b[0]);
  const total = sorted.reduce((sum, [, weight]) => sum + weight, 0);
  const at = (share: number): number => {
    let sum = 0;
    for (const [value, weight] of sorted) {
      sum += weight;
      if (sum >= share * total) return value;
    }
    return sorted.at(-1)?.[0] ?? 0;
  };
  return { low: at(0.1), mid: at(0.5), high: at(0.9) };
}

/** Fewer than this, and a region is not worth a word. */
const leastShare = 0.05;
const mostNamed = 4;

/** What signs alone say: how far the board gets, in words for a technician. */
export interface DrawMeaning {
  /** The last stage sure to come before all it may stop at; null where it may stop at the first. */
  after: string | null;
  stops: { title: string; probability: number }[];
  text: string;
}

/** `regions` are those of a diagnosis that was told of nothing but the signs; `path` leads to the goal. */
export function drawMeaning(
  stages: readonly OrderedStage[],
  path: readonly OrderedStage[],
  regions: Diagnosis['regions'],
): DrawMeaning | null {
  const named = regions.filter((one) => one.probability > leastShare).slice(0, mostNamed);
  if (named.length === 0) return null;
  const placeOf = (stage: StageId | null): number =>
    stage === null ? stages.length : stages.findIndex((one) => one.stage.id === stage);
  const first = Math.min(...named.map((one) => placeOf(one.stage)));
  // Branches come in between: a technician counts by the way to the goal.
  const before = stages.slice(0, first).filter((one) => path.includes(one));
  const after = before.at(-1)?.stage.title ?? null;
  const stops = stages.flatMap(({ stage: { id, title } }) => {
    const one = named.find(({ stage }) => stage === id);
    return one ? [{ title, probability: one.probability }] : [];
  });
  stops.sort((a, b) => b.probability - a.probability);
  const whole = named.find(({ stage }) => stage === null);
  const list = stops.map((one) => `${one.title} (${formatChance(one.probability)})`);
  const where = list.length > 1 ? `${list.slice(0, -1).join(', ')} or ${list.at(-1)}` : list[0];
  const stopText = where && `${after ? `Comes as far as ${after}; stops` : 'Stops'} at ${where}.`;
  const wholeText =
    whole && `${where ? 'Or every' : 'Every'} stage comes (${formatChance(whole.probability)}).`;
  return { after, stops, text: [stopText, wholeText].filter(Boolean).join(' ') };
}

export const ampsRangeText = ({ low, mid, high }: AmpsRange): string => {
  const text = (amps: number): string => formatAmps(Number(amps.toPrecision(2)));
  return high - low < 0.1 * mid + 0.002 ? text(mid) : `${text(low)} to ${text(high)}`;
};
