import type { Reading } from '../readings/index.ts';
import type { EventBody, Intake, JobEvent } from './event.ts';

export type Standing =
  | { kind: 'stands' }
  | { kind: 'struck'; reason: string; by: string }
  | { kind: 'superseded'; by: string }
  /** Taken before a repair: it tells of the board as it was then. */
  | { kind: 'before-repair' };

export interface KeptReading {
  id: string;
  who: string;
  at: string;
  reading: Reading;
  standing: Standing;
}

type Of<T extends EventBody['type']> = Extract<EventBody, { type: T }>;
export interface Happened<T extends EventBody['type']> {
  id: string;
  who: string;
  at: string;
  body: Of<T>;
  struck: string | null;
}

/** A job as its events tell it. */
export interface Job {
  intake: Intake | null;
  readings: KeptReading[];
  signs: Happened<'sign'>[];
  findings: Happened<'finding'>[];
  repairs: Happened<'repair'>[];
  notes: Happened<'note'>[];
  pictures: Happened<'picture'>[];
  close: Happened<'close'> | null;
}

/** Derives a job's state from its events, in the order they were recorded. */
export function deriveJob(events: readonly JobEvent[]): Job {
  const struck = new Map<string, string>();
  const superseded = new Map<string, string>();
  for (const { body } of events) {
    if (body.type === 'strike') struck.set(body.event, body.reason);
  }
  let lastRepair = -1;
  events.forEach(({ id, body }, index) => {
    if (struck.has(id)) return;
    if (body.type === 'reading') body.supersedes.forEach((old) => superseded.set(old, id));
    // Lifting a part to see is no repair: what was read before speaks of the board with it on.
    if (body.type === 'repair' && body.action !== 'removed' && body.action !== 'refitted')
      lastRepair = index;
  });

  const job: Job = {
    intake: null,
    readings: [],
    signs: [],
    findings: [],
    repairs: [],
    notes: [],
    pictures: [],
    close: null,
  };
  events.forEach((event, index) => {
    const { id, who, at, body } = event;
    const reason = struck.get(id) ?? null;
    const base = { id, who, at, struck: reason };
    switch (body.type) {
      case 'intake':
        if (reason === null) job.intake = body.intake;
        break;
      case 'reading': {
        const over = superseded.get(id);
        const standing: Standing =
          reason !== null
            ? { kind: 'struck', reason, by: who }
            : over !== undefined
              ? { kind: 'superseded', by: over }
              : index < lastRepair
                ? { kind: 'before-repair' }
                : { kind: 'stands' };
        job.readings.push({ id, who, at, reading: body.reading, standing });
        break;
      }
      case 'sign':
        job.signs.push({ ...base, body });
        break;
      case 'finding':
        job.findings.push({ ...base, body });
        break;
      case 'repair':
        job.repairs.push({ ...base, body });
        break;
      case 'note':
        job.notes.push({ ...base, body });
        break;
      case 'picture':
        job.pictures.push({ ...base, body });
        break;
      case 'close':
        if (reason === null) job.close = { ...base, body };
        break;
      case 'strike':
        break;
    }
  });
  return job;
}

/** Parts that are off the board now: removed, and neither refitted nor replaced since. */
export function liftedParts(job: Job): string[] {
  const off = new Set<string>();
  for (const { body, struck } of job.repairs) {
    if (struck !== null) continue;
    for (const part of body.parts) {
      if (body.action === 'removed') off.add(part);
      else if (body.action === 'refitted' || body.action === 'replaced') off.delete(part);
    }
  }
  return [...off];
}
