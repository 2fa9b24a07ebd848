import { z } from 'zod';
import { modes, phases } from '../readings/index.ts';
import { isMended } from './habits.ts';
import type { Job } from './job.ts';

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

/** Values below this are noise of a meter: nothing is learned from a dead net. */
const leastVolts = 0.05;

/**
 * Known-good values of a board from closed jobs: readings that stand after the last repair of jobs that
 * ended fixed and were not taken out. One job counts once for a point.
 */
export function knownGoodOf(jobs: readonly Job[]): KnownGood[] {
  const found = new Map<
    string,
    { point: Omit<KnownGood, 'count' | 'median' | 'spread'>; values: number[] }
  >();
  for (const job of jobs) {
    if (!job.close || !job.teaches || !isMended(job.close.body.outcome)) continue;
    const own = new Map<string, (typeof job.readings)[number]['reading']>();
    for (const { reading, standing } of job.readings) {
      const { value, mode, at, reference, phase, polarity, lifted } = reading;
      if (standing.kind !== 'stands' || value.kind !== 'number' || lifted.length > 0) continue;
      if (value.trend !== 'steady' || (mode === 'volts' && Math.abs(value.value) < leastVolts))
        continue;
      own.set(
        [at.net, reference?.net ?? '', mode, phase, mode === 'diode' ? polarity : ''].join(' '),
        reading,
      );
    }
    for (const [key, { at, reference, mode, phase, polarity, value, meter, source }] of own) {
      if (value.kind !== 'number') continue;
      const known = found.get(key) ?? {
        point: {
          net: at.net,
          against: reference?.net ?? null,
          mode,
          phase,
          polarity,
          meters: [],
          sources: [],
        },
        values: [],
      };
      known.values.push(value.value);
      if (!known.point.meters.includes(meter.name)) known.point.meters.push(meter.name);
      if (source && !known.point.sources.includes(source.id)) known.point.sources.push(source.id);
      found.set(key, known);
    }
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
