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
  /** The server's words where it refused an entry: sending again would not help. */
  refused: string | null;
}

const key = 'jiko-outbox';
let outbox: Outbox = { waiting: [], refused: null };
const listeners = new Set<() => void>();
let sending = false;
let timer: ReturnType<typeof setTimeout> | undefined;

const restored = get<Waiting[]>(key)
  .then((kept) => {
    if (kept && kept.length > 0) update({ waiting: [...kept, ...outbox.waiting] });
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
  try {
    for (;;) {
      const first = outbox.waiting[0];
      if (!first || outbox.refused) break;
      const batch = outbox.waiting.filter((one) => one.job === first.job).slice(0, 100);
      const events = batch.map((one) => one.event);
      if (first.opens) {
        await request(appendedSchema, api.jobs, postJson({ id: first.job, events }));
      } else {
        await request(appendedSchema, api.events(first.job), postJson({ events }));
      }
      settle(first.job, events);
    }
  } catch (error) {
    if (error instanceof RequestTrouble && !error.isPassing) update({ refused: error.message });
    else timer = setTimeout(() => void send(), 3000);
  } finally {
    sending = false;
  }
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
