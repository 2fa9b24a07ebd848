import { useSyncExternalStore } from 'react';
import { api, appendedSchema, type JobDetail } from '@jiko/contract';
import {
  eventBodySchema,
  unkeepable,
  withoutUnkeepable,
  type EventBody,
  type EventInput,
  type JobEvent,
} from '@jiko/core/record';
import { postJson, request, RequestTrouble } from '../data/http.ts';
import { askAnew, queryClient } from '../data/query-client.ts';
import { keepAnswer } from './kept-answers.ts';
import { sentElsewhere } from './sent-elsewhere.ts';
import { pauseAfter, sendAll, type Sent } from './sender.ts';
import { makeWaitingStore, type Damaged, type Refused, type Waiting } from './waiting-store.ts';

/**
 * Everything recorded goes in here first and leaves when the server has it. Ids are made here, so
 * sending twice is harmless; what cannot be sent waits, over a reload and a closed tab too, and is
 * sent by whichever tab is open.
 */
interface Outbox {
  waiting: readonly Waiting[];
  /** Sent by another tab, and not yet in what this page knows of the job. */
  elsewhere: readonly Waiting[];
  refused: readonly Refused[];
  damaged: readonly Damaged[];
  /** Entries the browser had no room for: they are in this page only. */
  unkept: readonly Waiting[];
  /** Something that could not be kept was taken out of an entry. */
  cleaned: boolean;
}

/** A browser without storage still sends; only a reload would lose what waits. */
const store = makeWaitingStore(
  (() => {
    try {
      return localStorage;
    } catch {
      return null;
    }
  })(),
);

let outbox: Outbox = { ...store.read(), elsewhere: [], unkept: [], cleaned: false };
/** What this page sent itself. */
const settled = new Set<string>();
/** Refused with no room to write it down: in this page only. */
let looseRefused: readonly Refused[] = [];
const listeners = new Set<() => void>();
let sending = false;
let fails = 0;
let timer: ReturnType<typeof setTimeout> | undefined;
queueMicrotask(() => void send());
// Other tabs write and send as well.
if (typeof window !== 'undefined') {
  window.addEventListener('storage', () => {
    look();
    void send();
  });
  window.addEventListener('online', () => void send());
}

/** What the storage holds now, and what only this page does. */
function look(change: Partial<Outbox> = {}): void {
  const { unkept, cleaned } = { ...outbox, ...change };
  const read = store.read();
  const kept = new Set(read.waiting.map((one) => one.event.id));
  const loose = unkept.filter((one) => !kept.has(one.event.id));
  const own = new Set([...settled, ...outbox.unkept.map((one) => one.event.id)]);
  const gone = sentElsewhere(outbox.waiting, read, own);
  outbox = {
    ...read,
    elsewhere: [...outbox.elsewhere, ...gone].filter(isNotHeardOf),
    waiting: [...read.waiting, ...loose],
    refused: [...read.refused, ...looseRefused],
    unkept: loose,
    cleaned,
  };
  listeners.forEach((listener) => listener());
  for (const job of new Set(gone.map((one) => one.job)))
    void askAnew(queryClient, ['job', job]).then(() => look());
}

/** Of a job that is not loaded nothing is shown: it comes whole. */
function isNotHeardOf({ job, event }: Waiting): boolean {
  const known = queryClient.getQueryData<JobDetail>(['job', job]);
  return known !== undefined && !known.events.some((one) => one.id === event.id);
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

/** The server is there again: what waits need not wait for its turn. */
export function sendNow(): void {
  fails = 0;
  void send();
}

/** Lets go of one refused entry. */
export function forgetRefused(id: string): void {
  looseRefused = looseRefused.filter((one) => one.entry.event.id !== id);
  store.forget(id);
  look();
}

export const forgetCleaned = (): void => look({ cleaned: false });

export function forgetDamaged(key: string): void {
  store.forgetDamaged(key);
  look();
}

/** Sends a refused entry once more, mended or as it is, under an id of its own. */
export function tryAgain({ entry }: Refused, body: EventBody = entry.event.body): void {
  const { job, event, opens } = entry;
  add({ job, event: { ...event, id: crypto.randomUUID(), body }, opens });
  forgetRefused(event.id);
  void send();
}

/** Records events of a job; returns at once with their ids. */
export function record(
  job: string,
  who: string,
  bodies: readonly EventInput[],
  opens = false,
): string[] {
  const isClean = unkeepable(bodies) === null;
  const events = withoutUnkeepable(bodies).map((written): JobEvent => {
    const whole = eventBodySchema.safeParse(written);
    // What is not valid goes as it is: the server says why it is refused.
    const body = whole.success ? whole.data : (written as EventBody);
    return { id: crypto.randomUUID(), who, at: new Date().toISOString(), body };
  });
  const unkept = events.flatMap((event, index) => {
    const entry = { job, event, opens: opens && index === 0 };
    return store.keep(entry) ? [] : [entry];
  });
  look({ unkept: [...outbox.unkept, ...unkept], cleaned: !isClean });
  void send();
  return events.map((event) => event.id);
}

function add(entry: Waiting): void {
  if (store.keep(entry)) look();
  else look({ unkept: [...outbox.unkept, entry] });
}

/** One tab at a time: two would only send everything twice. */
async function alone(work: () => Promise<void>): Promise<void> {
  const { locks } = navigator as { locks?: LockManager };
  if (!locks) return work();
  await locks.request('jiko-outbox', { ifAvailable: true }, (lock) => (lock ? work() : undefined));
}

async function send(): Promise<void> {
  if (sending) return;
  sending = true;
  clearTimeout(timer);
  let isDone = false;
  try {
    await alone(async () => {
      look();
      isDone = await sendAll({
        waiting: () => outbox.waiting,
        send: post,
        taken: settle,
        refused(entry, words) {
          if (!store.setAside({ entry, words })) {
            looseRefused = [...looseRefused, { entry, words }];
            store.forget(entry.event.id);
          }
          look({ unkept: without(outbox.unkept, [entry.event.id]) });
        },
      });
    });
  } catch {
    // it is tried again like any other
  } finally {
    sending = false;
    fails = isDone ? 0 : fails + 1;
    // Another tab may hold the lock and be closed: look again.
    if (outbox.waiting.length > 0) timer = setTimeout(() => void send(), pauseAfter(fails) * 1000);
  }
}

async function post(job: string, batch: readonly Waiting[]): Promise<Sent> {
  const events = batch.map((one) => one.event);
  try {
    if (batch[0]?.opens) await request(appendedSchema, api.jobs, postJson({ id: job, events }));
    else await request(appendedSchema, api.events(job), postJson({ events }));
    return { kind: 'taken' };
  } catch (error) {
    if (!(error instanceof RequestTrouble)) throw error;
    if (error.kind === 'no-answer') return { kind: 'unreachable' };
    return error.isPassing ? { kind: 'busy' } : { kind: 'refused', words: error.message };
  }
}

const without = (entries: readonly Waiting[], ids: readonly string[]): Waiting[] =>
  entries.filter((one) => !ids.includes(one.event.id));

/** Entries that change what a job teaches. */
const teaching: readonly string[] = ['close', 'reopen', 'lesson', 'strike'];

/**
 * Puts what the server now has into the cache, then lets it leave the outbox: no flicker between. An
 * answer on its way may be older than what was sent, so it is called off; a job not loaded yet is
 * loaded whole.
 */
async function settle(job: string, batch: readonly Waiting[]): Promise<void> {
  const events = batch.map((one) => one.event);
  const opens = batch[0]?.opens ?? false;
  const queryKey = ['job', job];
  await queryClient.cancelQueries({ queryKey });
  const old = queryClient.getQueryData<JobDetail>(queryKey);
  if (old || opens) {
    const base = old ?? { id: job, createdAt: events[0]?.at ?? '', events: [] };
    const known = new Set(base.events.map((event) => event.id));
    const fresh = events.filter((one) => !known.has(one.id));
    const detail: JobDetail = { ...base, events: [...base.events, ...fresh] };
    queryClient.setQueryData(queryKey, detail);
    keepAnswer(api.job(job), detail);
  } else {
    await queryClient.invalidateQueries({ queryKey });
  }
  const gone = events.map((event) => event.id);
  gone.forEach((id) => settled.add(id));
  gone.forEach((id) => store.forget(id));
  look({ unkept: without(outbox.unkept, gone) });
  void askAnew(queryClient, ['jobs']);
  // What closed jobs teach reaches the others at once.
  if (events.some(({ body }) => teaching.includes(body.type)))
    for (const key of ['habits', 'history']) void askAnew(queryClient, [key]);
}
