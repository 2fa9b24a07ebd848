import { z } from 'zod';
import { leastGoodBoards, modes, phases, type Phase } from '../readings/index.ts';
import { pointOf, type Taught } from './taught.ts';

/** What good boards read at a point: from jobs that ended with the board doing what it should. */
export const knownGoodSchema = z.strictObject({
  net: z.string(),
  /** Against this net; ground where null. */
  against: z.string().nullable(),
  mode: z.enum(modes),
  phase: z.enum(phases),
  /** Which lead stood on the point, in diode-mode. */
  polarity: z.enum(['red-on-point', 'black-on-point']),
  count: z.number().int().min(1),
  median: z.number(),
  /** Half of them lie within so much of the median. */
  spread: z.number().min(0),
  meters: z.array(z.string()),
  sources: z.array(z.string()),
});
export type KnownGood = z.output<typeof knownGoodSchema>;

/**
 * Known-good values of a board from closed jobs: readings that stand after the last repair of jobs that
 * ended fixed and were not taken out. One job counts once for a point.
 */
export function knownGoodOf(jobs: readonly Taught[]): KnownGood[] {
  const found = new Map<
    string,
    { point: Omit<KnownGood, 'count' | 'median' | 'spread'>; values: number[] }
  >();
  for (const good of jobs.flatMap((job) => (job.teaches ? job.good : []))) {
    const { net, against, mode, phase, polarity, value, meter, source } = good;
    const key = pointOf(good);
    const known = found.get(key) ?? {
      point: { net, against, mode, phase, polarity, meters: [], sources: [] },
      values: [],
    };
    known.values.push(value);
    if (!known.point.meters.includes(meter)) known.point.meters.push(meter);
    if (source !== null && !known.point.sources.includes(source)) known.point.sources.push(source);
    found.set(key, known);
  }
  return [...found.values()]
    .map(({ point, values }): KnownGood => {
      const median = middle(values);
      return {
        ...point,
        count: values.length,
        median,
        spread: middle(values.map((one) => Math.abs(one - median))),
      };
    })
    .sort((a, b) => b.count - a.count || a.net.localeCompare(b.net));
}

function middle(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const at = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[at]! : (sorted[at - 1]! + sorted[at]!) / 2;
}

/** One of them as a sheet takes it: to ground, cold as the usual meter reads it, or in volts of a phase. */
type KnownNet = { net: string; median: number; count: number } & (
  | { mode: 'ohms' | 'diode' }
  | { mode: 'volts'; phase: Exclude<Phase, 'cold'>; spread: number }
);

/** What enough good boards read to ground; volts only where all were read on this source. */
export const knownNetsOf = (known: readonly KnownGood[], source: string): KnownNet[] =>
  known.flatMap(
    ({ net, against, mode, phase, polarity, median, spread, count, sources }): KnownNet[] => {
      if (against !== null || count < leastGoodBoards) return [];
      if (mode === 'volts' && phase !== 'cold')
        return sources.length === 1 && sources[0] === source
          ? [{ net, mode, phase, median, spread, count }]
          : [];
      return mode === 'ohms' || (mode === 'diode' && polarity === 'black-on-point')
        ? [{ net, mode, median, count }]
        : [];
    },
  );
