import { get, set } from 'idb-keyval';
import { useSyncExternalStore } from 'react';
import { api, appendedSchema, jobDetailSchema, type JobDetail } from '@jiko/contract';
import type { EventBody, JobEvent } from '@jiko/core/record';
import { postJson, request, RequestTrouble } from '../data/http.ts';
import { queryClient } from '../data/query-client.ts';

/**
 * Everything recorded goes in here first and leaves when the server has it. Ids are made here, so
 * sending twice is harmless; what cannot be sent waits, over a reload too.
 */
interface Waiting {
  job: string;
  event: JobEvent;
  /** The job itself is new: opened with this event. */
  opens: boolean;
}
interface Outbox {
  waiting: readonly Waiting[];
  /** Entries the server refused, with its words: sending them again would not help. */
  refused: readonly Refused[];
}
interface Refused {
  entry: Waiting;
  words: string;
}

const key = 'jiko-outbox';
const refusedKey = 'jiko-outbox-refused';
let outbox: Outbox = { waiting: [], refused: [] };
const listeners = new Set<() => void>();
let sending = false;
let timer: ReturnType<typeof setTimeout> | undefined;

const restored = Promise.all([get<Waiting[]>(key), get<Refused[]>(refusedKey)])
  .then(([kept = [], refused = []]) => {
    update({ waiting: [...kept, ...outbox.waiting], refused });
    void send();
  })
  .catch(() => undefined);

function update(change: Partial<Outbox>): void {
  outbox = { ...outbox, ...change };
  listeners.forEach((listener) => listener());
}

function keep(): void {
  // a browser without storage still sends; only a reload would lose what waits
  void set(key, outbox.waiting).catch(() => undefined);
  void set(refusedKey, outbox.refused).catch(() => undefined);
}

/** Lets go of what the server refused, once the user has seen why. */
export function forgetRefused(): void {
  update({ refused: [] });
  keep();
}

export function useOutbox(): Outbox {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => outbox,
  );
}

/** Records events of a job; returns at once with their ids. */
export function record(
  job: string,
  who: string,
  bodies: readonly EventBody[],
  opens = false,
): string[] {
  const events = bodies.map((body): JobEvent => ({
    id: crypto.randomUUID(),
    who,
    at: new Date().toISOString(),
    body,
  }));
  const added = events.map((event, index) => ({ job, event, opens: opens && index === 0 }));
  update({ waiting: [...outbox.waiting, ...added] });
  keep();
  void send();
  return events.map((event) => event.id);
}

async function send(): Promise<void> {
  if (sending) return;
  sending = true;
  clearTimeout(timer);
  await restored;
  // After a refusal entries go one at a time, so that one bad entry holds nothing else up.
  let most = 100;
  try {
    for (let first = outbox.waiting[0]; first; first = outbox.waiting[0]) {
      const job = first.job;
      const batch = outbox.waiting.filter((one) => one.job === job).slice(0, most);
      const events = batch.map((one) => one.event);
      try {
        if (first.opens) await request(appendedSchema, api.jobs, postJson({ id: job, events }));
        else await request(appendedSchema, api.events(job), postJson({ events }));
        settle(job, events);
      } catch (error) {
        if (!(error instanceof RequestTrouble) || error.isPassing) throw error;
        if (batch.length > 1) most = 1;
        else setAside(first, error.message);
      }
    }
  } catch {
    timer = setTimeout(() => void send(), 3000);
  } finally {
    sending = false;
  }
}

function setAside(entry: Waiting, words: string): void {
  update({
    waiting: outbox.waiting.filter((one) => one !== entry),
    refused: [...outbox.refused, { entry, words }],
  });
  keep();
}

/** Puts what the server now has into the cache, then lets it leave the outbox: no flicker between. */
function settle(job: string, events: readonly JobEvent[]): void {
  queryClient.setQueryData<JobDetail>(['job', job], (old) => {
    const base = old ?? { id: job, createdAt: events[0]?.at ?? '', events: [] };
    const known = new Set(base.events.map((event) => event.id));
    const next = {
      ...base,
      events: [...base.events, ...events.filter((one) => !known.has(one.id))],
    };
    return jobDetailSchema.safeParse(next).success ? next : old;
  });
  const gone = new Set(events.map((event) => event.id));
  update({ waiting: outbox.waiting.filter((one) => !gone.has(one.event.id)) });
  keep();
  void queryClient.invalidateQueries({ queryKey: ['jobs'] });
}
