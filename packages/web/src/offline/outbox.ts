import { useSyncExternalStore } from 'react';
import { api, appendedSchema, type JobDetail } from '@jiko/contract';
import { eventBodySchema, type EventBody, type EventInput, type JobEvent } from '@jiko/core/record';
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

// One entry of the browser's storage per event, written before anything else happens: it is there
// even when the page goes away at once, and two tabs do not write over each other.
const waitingPrefix = 'jiko-outbox ';
const refusedPrefix = 'jiko-refused ';

let outbox: Outbox = {
  waiting: kept<Waiting>(waitingPrefix),
  refused: kept<Refused>(refusedPrefix),
};
const listeners = new Set<() => void>();
let sending = false;
let serial = 0;
let timer: ReturnType<typeof setTimeout> | undefined;
queueMicrotask(() => void send());

/** What the storage holds under a prefix, oldest first. */
function kept<T>(prefix: string): T[] {
  try {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(prefix))
      .sort()
      .map((key) => JSON.parse(localStorage.getItem(key) ?? '') as T);
  } catch {
    // a browser without storage still sends; only a reload would lose what waits
    return [];
  }
}

function write(key: string, value: unknown): void {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // see kept
  }
}

function erase(prefix: string, ids: ReadonlySet<string>): void {
  try {
    for (const key of Object.keys(localStorage)) {
      const id = key.split(' ').at(-1) ?? '';
      if (key.startsWith(prefix) && ids.has(id)) localStorage.removeItem(key);
    }
  } catch {
    // see kept
  }
}

function update(change: Partial<Outbox>): void {
  outbox = { ...outbox, ...change };
  listeners.forEach((listener) => listener());
}

/** Lets go of what the server refused, once the user has seen why. */
export function forgetRefused(): void {
  erase(refusedPrefix, new Set(outbox.refused.map((one) => one.entry.event.id)));
  update({ refused: [] });
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
  bodies: readonly EventInput[],
  opens = false,
): string[] {
  const events = bodies.map((written): JobEvent => {
    const whole = eventBodySchema.safeParse(written);
    // What is not valid goes as it is: the server says why it is refused.
    const body = whole.success ? whole.data : (written as EventBody);
    return { id: crypto.randomUUID(), who, at: new Date().toISOString(), body };
  });
  const added = events.map((event, index) => ({ job, event, opens: opens && index === 0 }));
  for (const one of added) {
    const order = `${String(Date.now()).padStart(14, '0')}-${String(serial++).padStart(6, '0')}`;
    write(`${waitingPrefix}${order} ${one.event.id}`, one);
  }
  update({ waiting: [...outbox.waiting, ...added] });
  void send();
  return events.map((event) => event.id);
}

async function send(): Promise<void> {
  if (sending) return;
  sending = true;
  clearTimeout(timer);
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
        await settle(job, events, first.opens);
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
  const { id } = entry.event;
  write(`${refusedPrefix}${id}`, { entry, words });
  erase(waitingPrefix, new Set([id]));
  update({
    waiting: outbox.waiting.filter((one) => one !== entry),
    refused: [...outbox.refused, { entry, words }],
  });
}

/**
 * Puts what the server now has into the cache, then lets it leave the outbox: no flicker between. An
 * answer on its way may be older than what was sent, so it is called off; a job not loaded yet is
 * loaded whole.
 */
async function settle(job: string, events: readonly JobEvent[], opens: boolean): Promise<void> {
  const queryKey = ['job', job];
  await queryClient.cancelQueries({ queryKey });
  const old = queryClient.getQueryData<JobDetail>(queryKey);
  if (old || opens) {
    const base = old ?? { id: job, createdAt: events[0]?.at ?? '', events: [] };
    const known = new Set(base.events.map((event) => event.id));
    const fresh = events.filter((one) => !known.has(one.id));
    queryClient.setQueryData<JobDetail>(queryKey, { ...base, events: [...base.events, ...fresh] });
  } else {
    await queryClient.invalidateQueries({ queryKey });
  }
  const gone = new Set(events.map((event) => event.id));
  erase(waitingPrefix, gone);
  update({ waiting: outbox.waiting.filter((one) => !gone.has(one.event.id)) });
  void queryClient.invalidateQueries({ queryKey: ['jobs'] });
}
