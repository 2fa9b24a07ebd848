import { graceMinutes } from '../safety/index.ts';
import type { KeptEvent } from './event.ts';

/** All power was gone: a cell or a pack was out, settings were cleared, a flash was written. */
export interface PowerLoss {
  id: string;
  at: string;
  /** What it was, in words. */
  why: string;
  /** Its place in the record. */
  index: number;
}

/** After cell, battery or settings were gone a board restarts several times and stays dark for minutes. */
export function gracesOf(
  events: readonly KeptEvent[],
  struck: ReadonlyMap<string, string>,
): PowerLoss[] {
  return events.flatMap(({ id, at, body }, index): PowerLoss[] => {
    const why = struck.has(id) ? null : whyGone(body);
    return why === null ? [] : [{ id, at, why, index }];
  });
}

function whyGone(body: KeptEvent['body']): string | null {
  if (body.type === 'tried')
    return body.thing === 'settings' && body.result !== 'cannot' ? 'settings were cleared' : null;
  if (body.type !== 'repair') return null;
  if (body.action === 'reprogrammed') return 'the flash was written';
  if (body.action !== 'beside') return null;
  if (body.beside === 'coin-cell') return 'the coin cell was out';
  return body.beside === 'battery' ? 'the battery was out' : null;
}

// Reads a moment that was written down; no clock is asked.
// eslint-disable-next-line no-restricted-globals
const moment = (at: string): number => Date.parse(at);

/** Milliseconds left of the time in which restarts and a dark screen are normal; 0 when it is over. */
export function graceLeft({ at }: PowerLoss, now: string): number {
  // Clocks of two benches differ: a little before it by the clock is after it by the record.
  const gone = Math.abs(moment(now) - moment(at));
  return Math.max(0, graceMinutes * 60_000 - gone);
}

/** Whether an entry was made in such a time: after it in the record, and before its end by the clock. */
export const isInGrace = (graces: readonly PowerLoss[], index: number, at: string): boolean =>
  graces.some((loss) => index > loss.index && graceLeft(loss, at) > 0);
