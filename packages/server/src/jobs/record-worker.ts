import {
  deriveJob,
  foundBy,
  keptEventSchema,
  summaryOf,
  taughtBy,
  wordless,
  type Job,
  type JobSummary,
  type KeptEvent,
  type Taught,
} from '@jiko/core/record';

// What is worked out of all entries of a job, from their JSON; large jobs run aside.

/** What the list shows of a job, and what it teaches. */
export interface Told {
  summary: JobSummary;
  /** The intake as it stands now; null where this version cannot read it. */
  intake: unknown;
  /** How it ended; null while it is open. */
  closed: string | null;
  taught: Taught | null;
  /** Words it is found by. */
  words: string[];
}

export function tell(events: string): Told {
  const entries = JSON.parse(events) as KeptEvent[];
  const job = derived(entries);
  return {
    summary: summaryOf(job),
    intake: job.intake,
    closed: job.close?.body.outcome ?? null,
    taught: taughtBy(job),
    words: foundBy(entries),
  };
}

/** As the entries lie there; where one of them is too odd for that, each as far as it can be read. */
function derived(events: readonly KeptEvent[]): Job {
  try {
    return deriveJob(events);
  } catch {
    return deriveJob(events.map((event) => keptEventSchema.parse(event)));
  }
}

/**
 * JSON of the entries that lose a customer's words: their ids, and how they read without. The database
 * takes out of an entry what is erased there, and changes nothing else (`take_words_out`).
 */
export function withoutWords(events: string): string {
  const left = (JSON.parse(events) as KeptEvent[]).flatMap((raw) => {
    const { id, body } = keptEventSchema.parse(raw);
    if (body.type === 'strange') return [];
    const after = wordless(body);
    return JSON.stringify(after) === JSON.stringify(body) ? [] : [{ id, body: after }];
  });
  return JSON.stringify(left);
}
