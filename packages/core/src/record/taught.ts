import type { Reading } from '../readings/index.ts';
import type { Job } from './job.ts';
import type { EventBody } from './event.ts';
import type { Outcome } from './kinds.ts';

type Close = Extract<EventBody, { type: 'close' }>;

/** Jobs that ended with the board doing what it should. */
export const isMended = (outcome: Outcome): boolean =>
  outcome === 'fixed' || outcome === 'repaired';

/** A reading of a board that did what it should afterwards, with what is needed to hold it against others. */
export interface GoodReading {
  net: string;
  against: string | null;
  mode: Reading['mode'];
  phase: Reading['phase'];
  polarity: Reading['polarity'];
  value: number;
  meter: string;
  source: string | null;
}

/** What a closed job leaves to the next ones, small enough to be kept beside it. */
export interface Taught {
  device: string;
  /** When it was closed. */
  at: string;
  outcome: Close['outcome'];
  proof: Close['proof'];
  how: NonNullable<Close['how']> | null;
  cause: string;
  scheme: string | null;
  roles: string[];
  /** Parts it was mended at, were it not taken out. */
  parts: string[];
  /** False: it was taken out, and teaches nothing. */
  teaches: boolean;
  /** The last good reading at each point; none where it was not mended. */
  good: GoodReading[];
}

/** Values below this are noise of a meter: nothing is learned from a dead net. */
const leastVolts = 0.05;

/** What a job teaches; null while it is open. */
export function taughtBy(job: Job): Taught | null {
  if (!job.close) return null;
  const { at, body } = job.close;
  return {
    device: job.intake?.device ?? '',
    at,
    outcome: body.outcome,
    proof: body.proof,
    how: body.how ?? null,
    cause: body.cause,
    scheme: body.scheme ?? null,
    roles: [...new Set(body.roles)],
    parts: lessonOf({ ...job, teaches: true }),
    teaches: job.teaches,
    good: isMended(body.outcome) ? goodReadings(job) : [],
  };
}

/** Readings that stand after the last repair, with all parts on and something there; the last at each point. */
function goodReadings(job: Job): GoodReading[] {
  const own = new Map<string, GoodReading>();
  for (const { reading, standing } of job.readings) {
    const { value, mode, at, reference, phase, polarity, lifted, meter, source } = reading;
    if (standing.kind !== 'stands' || value.kind !== 'number' || lifted.length > 0) continue;
    if (value.trend !== 'steady' || (mode === 'volts' && Math.abs(value.value) < leastVolts))
      continue;
    const good: GoodReading = {
      net: at.net,
      against: reference?.net ?? null,
      mode,
      phase,
      polarity,
      value: value.value,
      meter: meter.name,
      source: source?.id ?? null,
    };
    own.set(pointOf(good), good);
  }
  return [...own.values()];
}

/** Readings of one point are held against each other; which lead stood where tells in diode-mode alone. */
export const pointOf = ({
  net,
  against,
  mode,
  phase,
  polarity,
}: Omit<GoodReading, 'value'>): string =>
  [net, against ?? '', mode, phase, mode === 'diode' ? polarity : ''].join(' ');

/** What several jobs teach; open ones nothing. */
export const taughtOf = (jobs: readonly Job[]): Taught[] =>
  jobs.flatMap((job) => taughtBy(job) ?? []);

/** Parts a closed job was mended at; none where it teaches nothing. */
export function lessonOf({ close, repairs, teaches }: Job): string[] {
  if (!close || !teaches || !isMended(close.body.outcome)) return [];
  if (close.body.proof !== 'proven' && close.body.proof !== 'supported') return [];
  if (close.body.parts) return [...new Set(close.body.parts)];
  return [
    ...new Set(
      repairs.flatMap(({ struck, body }) =>
        struck === null && (body.action === 'replaced' || body.action === 'reflowed')
          ? body.parts
          : [],
      ),
    ),
  ];
}
