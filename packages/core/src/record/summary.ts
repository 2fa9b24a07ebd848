import { z } from 'zod';
import { waitReasons } from './kinds.ts';
import type { Job } from './job.ts';

/** The steps of a job in the order they are worked; none is forced. */
export const jobSteps = ['door', 'signs', 'safe', 'look', 'cold', 'power', 'trace'] as const;
export type JobStep = (typeof jobSteps)[number];

/** What the list of jobs says of one: small, and kept beside the job by the server. */
export const jobSummarySchema = z.strictObject({
  readings: z.number().int().min(0),
  done: z.array(z.enum(jobSteps)),
  waits: z.array(
    z.strictObject({
      reason: z.enum(waitReasons),
      until: z.string().nullable(),
      text: z.string(),
    }),
  ),
  /** Parts to order, and parts on their way. */
  toOrder: z.array(z.string()),
  ordered: z.array(z.string()),
  minutes: z.number().min(0),
  /** What its parts cost so far, and what may be spent on them. */
  money: z.number().min(0).default(0),
  limitMoney: z.number().min(0).nullable().default(null),
  /** What the owner was asked and has not answered. */
  asks: z.array(z.string()),
  /** What the owner said no to. */
  refused: z.array(z.string()),
  /** Closed, and back with its owner. */
  handedOver: z.boolean().default(false),
});
export type JobSummary = z.output<typeof jobSummarySchema>;

/** Steps something was recorded of. The others were not done, whatever is known by now. */
export function stepsDone(job: Job): JobStep[] {
  const stands = (list: readonly { struck: string | null }[]): boolean =>
    list.some((one) => one.struck === null);
  const powered = job.readings.some(
    ({ standing, reading }) => standing.kind !== 'struck' && reading.phase !== 'cold',
  );
  const cold = job.readings.some(
    ({ standing, reading }) => standing.kind !== 'struck' && reading.phase === 'cold',
  );
  const is: Record<JobStep, boolean> = {
    door: job.intake !== null,
    signs: stands(job.signs) || job.tried.length > 0,
    safe: job.safety.some(({ body }) => body.state !== 'open'),
    look: stands(job.findings) || stands(job.pictures),
    cold,
    power: stands(job.powered),
    trace: powered,
  };
  return jobSteps.filter((step) => is[step]);
}

/** Minutes written down in a job, and those agreed on with what the owner granted since. */
export function timeOf(job: Job): { minutes: number; limitMinutes: number | null } {
  const sum = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0);
  const minutes = sum(
    job.times.filter((one) => one.struck === null).map(({ body }) => body.minutes),
  );
  const limit = job.intake?.limitMinutes ?? null;
  const granted = sum(
    job.approvals
      .filter((one) => one.struck === null && one.answer?.yes)
      .map(({ body }) => body.minutes ?? 0),
  );
  return { minutes, limitMinutes: limit === null ? null : limit + granted };
}

/** What parts cost that were ordered and not dropped, and what was agreed on with what the owner granted since. */
export function moneyOf(job: Job): { spent: number; limit: number | null } {
  const sum = (list: readonly number[]): number =>
    Number(list.reduce((a, b) => a + b, 0).toFixed(2));
  const limit = job.intake?.limitMoney ?? null;
  const granted = job.approvals
    .filter((one) => one.struck === null && one.answer?.yes)
    .map(({ body }) => body.money ?? 0);
  return {
    spent: sum(
      job.orders
        .filter((one) => one.struck === null && one.step !== 'dropped')
        .map(({ body }) => body.price ?? 0),
    ),
    limit: limit === null ? null : sum([limit, ...granted]),
  };
}

export function summaryOf(job: Job): JobSummary {
  const standing = <T extends { struck: string | null }>(list: readonly T[]): T[] =>
    list.filter((one) => one.struck === null);
  const approvals = standing(job.approvals);
  const orders = standing(job.orders);
  const { spent, limit } = moneyOf(job);
  return {
    readings: job.readings.length,
    done: stepsDone(job),
    waits: standing(job.waits)
      .filter((one) => one.over === null)
      .map(({ body: { reason, until, text } }) => ({ reason, until, text })),
    toOrder: orders.filter((one) => one.step === 'to-order').map(({ body }) => body.what),
    ordered: orders.filter((one) => one.step === 'ordered').map(({ body }) => body.what),
    minutes: timeOf(job).minutes,
    money: spent,
    limitMoney: limit,
    asks: approvals.filter((one) => one.answer === null).map(({ body }) => body.asks),
    refused: approvals.filter((one) => one.answer?.yes === false).map(({ body }) => body.asks),
    handedOver: job.handedOver !== null,
  };
}

/** Whether a job can be worked on now, and if not what it waits for. */
export type Due =
  | { kind: 'now'; because: string }
  | { kind: 'waits'; because: string; until: string | null };

const reasonText: Record<(typeof waitReasons)[number], string> = {
  part: 'a part',
  owner: "the owner's yes",
  cooling: 'cooling',
  drying: 'drying',
  soak: 'the soak test',
  other: 'something else',
};

/**
 * A job waits while the owner has not answered, or while any of its waits is not over; what had an
 * end that is past is over by itself (`now`, an ISO moment in UTC). Waiting for a part or the owner has no
 * end of its own.
 */
export function dueOf(summary: JobSummary, now: string): Due {
  const [ask] = summary.asks;
  if (ask) return { kind: 'waits', because: `the owner's yes: ${ask}`, until: null };
  const passed = (until: string | null): boolean => until !== null && until <= now;
  const endsItself = ['cooling', 'drying', 'soak'];
  const standing = summary.waits.filter(
    (one) => !(endsItself.includes(one.reason) && passed(one.until)),
  );
  // The longest wait decides; one without an end outlasts all.
  const last = standing.toSorted((a, b) => endOf(b.until).localeCompare(endOf(a.until)))[0];
  if (last) {
    const text = last.text ? `${reasonText[last.reason]}: ${last.text}` : reasonText[last.reason];
    return { kind: 'waits', because: text, until: last.until };
  }
  const over = summary.waits.at(-1);
  return { kind: 'now', because: over ? `${reasonText[over.reason]} is over` : '' };
}

/** Moments in UTC sort as text; no end comes after all of them. */
const endOf = (until: string | null): string => until ?? '9999';
