import { deriveJob, eventBodySchema, type Job, type JobEvent } from '@jiko/core/record';

let serial = 0;

/** Events as one bench writes them, checked like those of a browser; what has a usual value may be left away. */
export const plainEvents = (...bodies: unknown[]): JobEvent[] =>
  bodies.map((body) => ({
    id: `00000000-0000-4000-8000-${String(++serial).padStart(12, '0')}`,
    who: 'Bench 1',
    at: '2026-01-05T10:00:00Z',
    body: eventBodySchema.parse(body),
  }));

export const plainJob = (...bodies: unknown[]): Job => deriveJob(plainEvents(...bodies));

/** What came in, with nothing special about it but `more`. */
export const plainIntake = (more: object = {}): unknown => ({
  type: 'intake',
  intake: {
    board: 'cairn-14',
    device: 'd',
    complaint: 'c',
    history: '',
    goal: 'boots',
    source: 'adapter',
    keep: '',
    promised: null,
    ...more,
  },
});
