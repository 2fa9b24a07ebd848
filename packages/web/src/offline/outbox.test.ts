import { describe, expect, it } from 'vitest';
import type { JobEvent } from '@jiko/core/record';
import { pauseAfter, sendAll, type Sent } from './sender.ts';
import { sentElsewhere } from './sent-elsewhere.ts';
import { makeWaitingStore, type Refused, type Storage, type Waiting } from './waiting-store.ts';

/** A browser's storage with so many characters of room. */
function fakeStorage(room = 1e6): Storage & { items: Map<string, string>; room: number } {
  const items = new Map<string, string>();
  return {
    items,
    room,
    get length() {
      return items.size;
    },
    key: (at) => [...items.keys()][at] ?? null,
    getItem: (key) => items.get(key) ?? null,
    setItem(key, value) {
      const used = [...items].reduce((sum, [k, v]) => sum + k.length + v.length, 0);
      if (used + key.length + value.length > this.room) throw new Error('QuotaExceededError');
      items.set(key, value);
    },
    removeItem: (key) => void items.delete(key),
  };
}
const entry = (id: string, job = 'a', opens = false): Waiting => ({
  job,
  opens,
  event: {
    id,
    who: 'Bench 1',
    at: '2026-01-05T10:00:00Z',
    body: { type: 'note', text: id },
  } as JobEvent,
});
const ids = (list: readonly Waiting[]): string[] => list.map((one) => one.event.id);

describe('what waits in the browser', () => {
  it('keeps its order by a counter, over a reload and a clock set back', () => {
    const storage = fakeStorage();
    const store = makeWaitingStore(storage);
    for (const id of ['one', 'two', 'three']) store.keep(entry(id));
    // Another tab, or the same after a reload: it goes on counting.
    const other = makeWaitingStore(storage);
    other.keep(entry('four'));
    store.keep(entry('five'));
    expect(ids(other.read().waiting)).toEqual(['one', 'two', 'three', 'four', 'five']);
    // The counter itself lost: what waits is counted.
    storage.items.delete('jiko-outbox-counter');
    store.keep(entry('six'));
    expect(ids(store.read().waiting).at(-1)).toBe('six');
  });

  it('says where there is no room or no storage, and loses nothing it has', () => {
    const storage = fakeStorage(500);
    const store = makeWaitingStore(storage);
    const kept = Array.from({ length: 9 }, (_, at) => store.keep(entry(`e${at}`)));
    expect(kept[0]).toBe(true);
    expect(kept.at(-1)).toBe(false);
    expect(store.read().waiting).toHaveLength(kept.filter(Boolean).length);
    expect(makeWaitingStore(null).keep(entry('x'))).toBe(false);
    expect(makeWaitingStore(null).read().waiting).toEqual([]);
  });

  it('keeps a damaged entry as it is, shows it, and reads the others', () => {
    const storage = fakeStorage();
    const store = makeWaitingStore(storage);
    store.keep(entry('good'));
    storage.items.set('jiko-outbox 0000000000000000 torn', '{"job":"a","event":{"id":');
    storage.items.set('jiko-outbox 0000000000000001 empty', '{}');
    const { waiting, damaged } = store.read();
    expect(ids(waiting)).toEqual(['good']);
    expect(damaged.map((one) => one.text)).toEqual(['{"job":"a","event":{"id":', '{}']);
    store.forgetDamaged(damaged[0]!.key);
    expect(store.read().damaged).toHaveLength(1);
  });

  it('sets one aside and lets go of one, never of the others', () => {
    const store = makeWaitingStore(fakeStorage());
    for (const id of ['one', 'two', 'three']) store.keep(entry(id));
    for (const id of ['one', 'two']) store.setAside({ entry: entry(id), words: 'no' });
    expect(ids(store.read().waiting)).toEqual(['three']);
    store.forget('one');
    expect(store.read().refused.map((one) => one.entry.event.id)).toEqual(['two']);
    // No room to set it aside: it stays where it is.
    const full = fakeStorage();
    const last = makeWaitingStore(full);
    last.keep(entry('x'));
    full.room = 0;
    expect(last.setAside({ entry: entry('x'), words: 'no' })).toBe(false);
    expect(ids(last.read().waiting)).toEqual(['x']);
  });
});

describe('sending what waits', () => {
  /** A server that answers by job and entry; what it got, in order, and what was set aside. */
  const run = async (entries: Waiting[], answer: (batch: readonly Waiting[]) => Sent) => {
    let waiting = entries;
    const got: string[] = [];
    const refused: Refused[] = [];
    let calls = 0;
    const isDone = await sendAll({
      waiting: () => waiting,
      send(_job, batch) {
        calls++;
        if (calls > 500) throw new Error('never ends');
        return Promise.resolve(answer(batch));
      },
      taken(_job, batch) {
        got.push(...ids(batch));
        waiting = waiting.filter((one) => !batch.includes(one));
        return Promise.resolve();
      },
      refused(one, words) {
        refused.push({ entry: one, words });
        waiting = waiting.filter((other) => other !== one);
      },
    });
    return {
      isDone,
      got,
      refused: refused.map((one) => one.entry.event.id),
      left: ids(waiting),
      calls,
    };
  };
  const has = (batch: readonly Waiting[], id: string): boolean => ids(batch).includes(id);

  it('one refused entry holds nothing up, in its own job or another', async () => {
    const entries = [entry('1'), entry('bad'), entry('2', 'b'), entry('3'), entry('4', 'b')];
    const done = await run(entries, (batch) =>
      has(batch, 'bad') ? { kind: 'refused', words: 'no' } : { kind: 'taken' },
    );
    expect(done).toMatchObject({ isDone: true, refused: ['bad'], left: [] });
    expect(done.got.toSorted()).toEqual(['1', '2', '3', '4']);
    expect(done.got.indexOf('1')).toBeLessThan(done.got.indexOf('3'));
  });

  it('a job the server is in trouble with waits; the others go on', async () => {
    const entries = [entry('1'), entry('2', 'b'), entry('3'), entry('4', 'c')];
    const done = await run(entries, ([first]) =>
      first?.job === 'a' ? { kind: 'busy' } : { kind: 'taken' },
    );
    expect(done).toMatchObject({ isDone: false, got: ['2', '4'], left: ['1', '3'], calls: 3 });
  });

  it('with the server away nothing is tried on and nothing is dropped', async () => {
    const done = await run([entry('1'), entry('2', 'b')], () => ({ kind: 'unreachable' }));
    expect(done).toMatchObject({ isDone: false, left: ['1', '2'], calls: 1 });
  });

  it('a thousand entries go in batches, in order', async () => {
    const entries = Array.from({ length: 1000 }, (_, at) => entry(String(at)));
    const done = await run(entries, () => ({ kind: 'taken' }));
    expect(done.calls).toBe(10);
    expect(done.got).toEqual(ids(entries));
  });

  it('pauses grow and end growing', () => {
    expect([1, 2, 3, 4, 5, 6, 7, 100].map(pauseAfter)).toEqual([2, 4, 8, 15, 30, 60, 60, 60]);
  });
});

describe('what another tab sent', () => {
  const before = ['one', 'two', 'three', 'four'].map((id) => entry(id));
  it('is what left the storage without this page: not what it sent, waits still or was refused', () => {
    const refused: Refused[] = [{ entry: entry('three'), words: 'no' }];
    const now = { waiting: [entry('two'), entry('five')], refused };
    expect(ids(sentElsewhere(before, now, new Set(['four'])))).toEqual(['one']);
    expect(sentElsewhere(before, { waiting: before, refused: [] }, new Set())).toEqual([]);
  });
});
