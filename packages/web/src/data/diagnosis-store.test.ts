import { describe, expect, it } from 'vitest';
import type { Board } from '@jiko/core/board';
import { type BenchOf, type Diagnosis, type Evidence, speaksOf } from '@jiko/core/diagnosis';
import type { BenchSetup } from '@jiko/core/play';
import type { Dictionary } from '@jiko/core/dictionary';
import {
  benchesWaitedFor,
  benchKey,
  findMilliseconds,
  makeDiagnosisStore,
  type Question,
} from './diagnosis-store.ts';
import type { Making } from './dictionary-search.ts';
import type { Standing } from './shared-searches.ts';

// A bench of plays made by hand: what is asked for, when it is there, and what the weigher then says.

const adapter = (lifted: string[] = [], attached: string[] = []): BenchSetup => ({
  source: 'adapter',
  attached,
  lifted,
});
const board = {} as Board;
const evidence = {} as Evidence;
const plays = (bench: BenchSetup, played = 'whole'): Dictionary =>
  ({ key: `${benchKey(bench)} ${played}`, faults: [] }) as unknown as Dictionary;

function bench() {
  const seats = new Map<
    string,
    { bench: BenchSetup; listen: (standing: Standing) => void; started: number; joined: number }
  >();
  const timers: { at: number; run: () => void }[] = [];
  const asked: { bench: string; plays: string; others: string[] }[] = [];
  /** What was read, by the bench it was read on. */
  let taken: BenchOf[] = [];
  let isBroken = false;
  const store = makeDiagnosisStore({
    join(_sheet, _board, setup, listen) {
      const key = benchKey(setup);
      const known = seats.get(key);
      const seat = { bench: setup, listen, started: 0, joined: (known?.joined ?? 0) + 1 };
      seats.set(key, seat);
      listen({ making: { state: 'none' }, note: null });
      return {
        start: () => void seat.started++,
        cancel: () => undefined,
        hold: () => undefined,
        leave: () => undefined,
      };
    },
    desk: {
      async diagnose(of, others) {
        asked.push({
          bench: benchKey(of.bench),
          plays: of.dictionary.key,
          others: others.map((one) => one.dictionary.key),
        });
        await Promise.resolve();
        if (isBroken) throw new Error('no room');
        // As the core does: a reading is used where plays of a bench speak of it.
        const here = { source: null, ...of.bench, lifted: of.bench.lifted ?? [] } as BenchOf;
        const at = [here, ...others.map((one) => one.bench)];
        const unused = taken
          .filter((one) => !at.some((known) => speaksOf(known, one)))
          .map((one, index) => ({ id: String(index), why: 'taken otherwise', bench: one }));
        return { unused, byFault: new Float32Array(), suspects: [] } as unknown as Diagnosis;
      },
    },
    after(milliseconds, run) {
      const timer = { at: milliseconds, run };
      timers.push(timer);
      return () => void timers.splice(timers.indexOf(timer), 1);
    },
  });
  const settle = async (): Promise<void> => {
    for (let turn = 0; turn < 50; turn++) await Promise.resolve();
  };
  return {
    store,
    seats,
    timers,
    asked,
    settle,
    read: (...benches: BenchOf[]) => (taken = benches),
    breakDown: () => (isBroken = true),
    tell: (of: BenchSetup, making: Making) =>
      seats.get(benchKey(of))!.listen({ making, note: null }),
    whole: (of: BenchSetup) =>
      seats.get(benchKey(of))!.listen({
        making: { state: 'ready', dictionary: plays(of) },
        note: null,
      }),
    ask: (of: BenchSetup, more: Partial<Question> = {}) =>
      store.ask({
        sheet: { id: 'cairn', hash: 'one' },
        board,
        bench: of,
        evidence,
        evidenceKey: 'nothing yet',
        now: { phase: 'cold', side: '' },
        near: [],
        ...more,
      }),
  };
}

const on = (source: string | null, lifted: string[] = [], attached: string[] = []): BenchOf => ({
  source,
  attached,
  lifted,
});

describe('benches that readings wait for', () => {
  it('are one for cold and powered readings with the same things attached and lifted', () => {
    const unused = [on(null), on('adapter'), on('adapter'), on(null, ['PL1']), on('usb-c')].map(
      (one) => ({ bench: one }),
    );
    expect(benchesWaitedFor([...unused, { bench: null }], 'adapter').map(benchKey)).toEqual([
      benchKey(adapter()),
      benchKey(adapter(['PL1'])),
      benchKey({ source: 'usb-c', attached: [], lifted: [] }),
    ]);
  });
});

describe('a part taken off after a cold and a powered reading', () => {
  it('comes to rest: each other bench is played once, and every reading counts', async () => {
    const { store, seats, asked, settle, read, whole, ask } = bench();
    const off = adapter(['PC1']);
    read(on(null), on('adapter'));
    ask(off);
    whole(off);
    await settle();
    expect(store.state().diagnosis?.unused).toHaveLength(2);
    // One bench speaks of both: the one with the part still on.
    whole(adapter());
    await settle();
    expect(store.state().diagnosis?.unused).toEqual([]);
    const asks = asked.length;
    await settle();
    expect(asked).toHaveLength(asks);
    expect(asks).toBeLessThanOrEqual(3);
    expect([...seats.values()].map((one) => one.joined)).toEqual([1, 1]);
  });

  it('uses what was played before it was taken off, without playing it again', async () => {
    const { store, seats, asked, settle, read, whole, ask } = bench();
    read(on(null), on('adapter'));
    ask(adapter());
    whole(adapter());
    await settle();
    ask(adapter(['PC1']), { evidenceKey: 'off' });
    whole(adapter(['PC1']));
    await settle();
    expect(store.state().diagnosis?.unused).toEqual([]);
    expect(asked.at(-1)?.others).toEqual([plays(adapter()).key]);
    expect(seats.get(benchKey(adapter()))?.joined).toBe(1);
  });

  it('gives up a bench that cannot be played, and says what is left out', async () => {
    const { store, seats, settle, read, whole, tell, ask } = bench();
    read(on('usb-c'));
    ask(adapter());
    whole(adapter());
    await settle();
    tell({ source: 'usb-c', attached: [], lifted: [] }, { state: 'failed', because: 'no' });
    await settle();
    expect(store.state().diagnosis?.unused).toHaveLength(1);
    expect(seats.get(benchKey({ source: 'usb-c', attached: [], lifted: [] }))?.joined).toBe(1);
  });
});

describe('what stands while something is weighed', () => {
  it('is marked from the entry on, until it is weighed', async () => {
    const { store, settle, whole, ask } = bench();
    ask(adapter());
    whole(adapter());
    await settle();
    expect(store.state()).toMatchObject({ isWeighing: false, before: null });
    ask(adapter(), { evidenceKey: 'one more' });
    expect(store.state().isWeighing).toBe(true);
    expect(store.state().diagnosis).not.toBeNull();
    await settle();
    expect(store.state().isWeighing).toBe(false);
  });

  it('stays beside another bench or version of the sheet, as what was before; of another board nothing does', async () => {
    const { store, settle, whole, ask } = bench();
    ask(adapter());
    whole(adapter());
    await settle();
    const stood = store.state().diagnosis;
    ask(adapter(['PC1']));
    expect(store.state()).toMatchObject({ diagnosis: null, before: stood, isWeighing: true });
    ask(adapter(), { sheet: { id: 'cairn', hash: 'two' } });
    expect(store.state()).toMatchObject({ diagnosis: null, before: stood, isWeighing: true });
    ask(adapter(), { sheet: { id: 'otter', hash: 'three' } });
    expect(store.state()).toMatchObject({ diagnosis: null, before: null, isWeighing: false });
  });

  it('is told of a question that was not asked yet', async () => {
    const { store, settle, whole, ask } = bench();
    ask(adapter());
    whole(adapter());
    await settle();
    const question = {
      sheet: { id: 'cairn', hash: 'one' },
      board,
      bench: adapter(),
      evidence,
      evidenceKey: 'one more',
      now: { phase: 'cold', side: '' } as const,
      near: [],
    };
    expect(store.of(question)).toMatchObject({ isWeighing: true, before: null });
    const off = store.of({ ...question, bench: adapter(['PC1']) });
    expect(off).toMatchObject({ diagnosis: null, before: store.state().diagnosis });
  });

  it('is asked once more with newer plays, and not again where it cannot be weighed', async () => {
    const { asked, settle, whole, tell, ask, breakDown } = bench();
    ask(adapter());
    const sofar = plays(adapter(), 'half');
    tell(adapter(), { state: 'working', done: 1, total: 2, sofar, enough: false });
    await settle();
    whole(adapter());
    await settle();
    expect(asked.map((one) => one.plays)).toEqual([sofar.key, plays(adapter()).key]);
    breakDown();
    ask(adapter(), { evidenceKey: 'one more' });
    await settle();
    expect(asked).toHaveLength(3);
  });
});

describe('plays', () => {
  it('are begun at once where they are known to be missing, else after a while', () => {
    const { seats, timers, tell, ask } = bench();
    ask(adapter());
    const seat = seats.get(benchKey(adapter()))!;
    expect(timers.map((one) => one.at)).toEqual([findMilliseconds]);
    tell(adapter(), { state: 'none', isMissing: true });
    expect(timers.map((one) => one.at)).toEqual([0]);
    timers[0]!.run();
    expect(seat.started).toBe(1);
  });

  it('are not begun where they are there', () => {
    const { timers, whole, ask } = bench();
    ask(adapter());
    whole(adapter());
    expect(timers).toEqual([]);
  });

  it('are left when nobody looks, and what was weighed stays', async () => {
    const { store, settle, seats, whole, ask, asked } = bench();
    ask(adapter());
    whole(adapter());
    await settle();
    const stood = store.state().diagnosis;
    store.rest();
    ask(adapter());
    expect(store.state().diagnosis).toBe(stood);
    expect(seats.get(benchKey(adapter()))?.joined).toBe(2);
    whole(adapter());
    await settle();
    expect(asked).toHaveLength(1);
  });
});
