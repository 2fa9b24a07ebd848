import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { loadSheet, type Board } from '@jiko/core/board';
import { faultName } from '@jiko/core/faults';
import { benchSetup, type BenchSetup } from '@jiko/core/play';
import {
  makeDictionary,
  takeRows,
  wholeDictionary,
  type Dictionary,
  type RowsPacket,
} from '@jiko/core/dictionary';
import { usualMeter } from '@jiko/core/readings';
import {
  playersFor,
  searchDictionary,
  type DictionarySearch,
  type Making,
  type Player,
} from './dictionary-search.ts';
import type { DictionaryStore } from './dictionary-store.ts';

const text = readFileSync(new URL('../../../../sheets/wren-5.yaml', import.meta.url), 'utf8');
const boardOf = (sheetText: string): Board => {
  const loaded = loadSheet(sheetText);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return loaded.value;
};
const board = boardOf(text);
const bench: BenchSetup = { source: board.sources[0]!.id, attached: [], lifted: [] };
const whole = wholeDictionary(board, benchSetup(board, bench));

/** A player that plays its share when it is told to, so many rows at a time. */
interface ByHand extends Player {
  ended: boolean;
  held: boolean;
  /** Rows in the order it was asked to play them. */
  order: number[];
  play(rows?: number): void;
  finish(): void;
  fail(because: string): void;
}

function byHand(): ByHand {
  let next: (rows: number) => RowsPacket | null = () => null;
  let report: (packet: RowsPacket) => void = () => undefined;
  let settle = { done: (): void => undefined, fail: (_: Error): void => undefined };
  const player: ByHand = {
    ended: false,
    held: false,
    hold: (isHeld) => (player.held = isHeld),
    order: [],
    make(on, setup, order, share, tell) {
      player.order = [...order];
      const making = makeDictionary(on, benchSetup(on, setup), usualMeter, { order, share });
      report = tell;
      next = (count) => {
        const rows: number[] = [];
        for (;;) {
          const step = making.next();
          if (!step.done && step.value.row !== null) rows.push(step.value.row);
          if (step.done) return rows.length > 0 ? takeRows(step.value, rows) : null;
          if (rows.length === count) return takeRows(step.value.dictionary, rows);
        }
      };
      return new Promise((done, fail) => (settle = { done, fail }));
    },
    end: () => (player.ended = true),
    play(rows = 10) {
      const packet = next(rows);
      if (packet) report(packet);
    },
    finish() {
      player.play(Infinity);
      settle.done();
    },
    fail: (because) => settle.fail(new Error(because)),
  };
  return player;
}

interface Bed {
  search: DictionarySearch;
  players: ByHand[];
  told: Making[];
  kept: Dictionary[];
  unreadable: number;
  /** Milliseconds that have gone by. */
  clock: number;
  /** What looking for it comes to. */
  find(found: Dictionary | 'unreadable' | null): Promise<void>;
}

function bed(of = board, key = whole.key): Bed {
  let answer: (found: Dictionary | 'unreadable' | null) => void = () => undefined;
  const found = new Promise<Dictionary | 'unreadable' | null>((done) => (answer = done));
  const store: DictionaryStore = {
    find: (asked) => {
      expect(asked).toBe(key);
      return found;
    },
    keep: (dictionary) => Promise.resolve(void one.kept.push(dictionary)),
  };
  const one: Bed = {
    players: [],
    told: [],
    kept: [],
    unreadable: 0,
    clock: 0,
    find: async (what) => {
      answer(what);
      await settled();
    },
    search: null as never,
  };
  one.search = searchDictionary({
    sheet: of,
    board: of,
    bench,
    store,
    newPlayer: () => {
      const player = byHand();
      one.players.push(player);
      return player;
    },
    threads: 4,
    tell: (making) => one.told.push(making),
    tellUnreadable: () => one.unreadable++,
    now: () => one.clock,
  });
  return one;
}

const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 5; turn++) await Promise.resolve();
};
const stateOf = ({ told }: Bed): string => told.at(-1)?.state ?? 'nothing told';

describe('making a dictionary', () => {
  it('says once a second how far it is, however often the players report', () => {
    const one = bed();
    one.search.start();
    const { told } = one;
    one.clock = 510;
    one.players[0]!.play(7);
    expect(told).toHaveLength(2);
    expect(told[1]).toMatchObject({ state: 'working', done: 7 });
    one.clock = 1500;
    one.players[0]!.play(7);
    one.players[1]!.play(7);
    expect(told).toHaveLength(2);
    one.clock = 1510;
    one.players[1]!.play(7);
    expect(told).toHaveLength(3);
    // Row 0 is every player's.
    expect(told[2]).toMatchObject({ state: 'working', done: 27 });
    one.search.end();
  });

  it('by two players, each its share: the same as by one, kept for the next time', async () => {
    const { search, players, told, kept } = bed();
    search.start();
    expect(players).toHaveLength(2);
    expect(told).toEqual([
      { state: 'working', done: 0, total: whole.rows, sofar: null, enough: false },
    ]);
    players.forEach((one) => one.finish());
    await settled();
    const last = told.at(-1)!;
    if (last.state !== 'ready') throw new Error(last.state);
    expect([...last.dictionary.volts]).toEqual([...whole.volts]);
    expect([...last.dictionary.ohms]).toEqual([...whole.ohms]);
    expect(last.dictionary.key).toBe(whole.key);
    expect(kept).toEqual([last.dictionary]);
    expect(players.every((one) => one.ended)).toBe(true);
  });

  it('what there is so far is shown after half a second, again after two, then after four', () => {
    const one = bed();
    const sofar = (): Dictionary | null => {
      const last = one.told.at(-1)!;
      return last.state === 'working' ? last.sofar : null;
    };
    one.search.start();
    one.clock = 490;
    one.players[0]!.play();
    expect(sofar()).toBeNull();
    one.clock = 510;
    one.players[0]!.play();
    const first = sofar();
    expect(first?.key).toBe(`${whole.key} 20`);
    one.clock = 2500;
    one.players[1]!.play();
    expect(sofar()).toBe(first);
    one.clock = 2520;
    one.players[1]!.play();
    // The healthy board is played by both.
    const second = sofar();
    expect(second?.key).toBe(`${whole.key} 39`);
    one.clock = 6510;
    one.players[1]!.play();
    expect(sofar()).toBe(second);
    one.clock = 6530;
    one.players[1]!.play();
    expect(sofar()?.key).toBe(`${whole.key} 59`);
  });

  it('with something known, it is enough when all that could still be it is played', () => {
    const { search, players, told } = bed();
    // One fault has all the weight: its row and the healthy one are enough.
    const byFault = new Float32Array(whole.faults.length);
    byFault[17] = 1;
    search.start({ left: { faults: whole.faults, byFault } });
    players[0]!.play(1);
    expect(told.at(-1)).toMatchObject({ enough: false });
    players[1]!.play(2);
    expect(told.at(-1)).toMatchObject({ enough: true, done: 2 });
    const { sofar } = told.at(-1) as Extract<Making, { state: 'working' }>;
    const place = whole.rowOf[17]! * whole.nets.length;
    expect(sofar?.ohms[place]).toBe(whole.ohms[place]);
  });

  it('after a change of the sheet, what was left of a fault goes along by its name', () => {
    // One more resistor, drawn before all others, moves every fault to another place.
    const longer = text.replace(
      /^ {2}R1: /m,
      '  R0: { kind: resistor, pins: [3V3, PG33], value: 47k }\n  R1: ',
    );
    const changed = boardOf(longer);
    const plays = wholeDictionary(changed, benchSetup(changed, bench));
    const rowOf = (name: string): number =>
      plays.rowOf[plays.faults.findIndex((one) => faultName(one) === name)]!;
    const byFault = new Float32Array(whole.faults.length);
    byFault[whole.faults.findIndex((one) => faultName(one) === 'U3 dead')] = 0.9;
    byFault[whole.faults.findIndex((one) => faultName(one) === 'R3 open')] = 0.05;
    const { search, players } = bed(changed, plays.key);
    search.start({ left: { faults: whole.faults, byFault } });
    // The healthy board first; then by what was left; what is new before what was ruled out.
    expect(players[0]!.order.slice(0, 3)).toEqual([0, rowOf('U3 dead'), rowOf('R3 open')]);
    const placeOf = (name: string): number => players[0]!.order.indexOf(rowOf(name));
    expect(placeOf('R0 open')).toBeLessThan(placeOf('U2 dead'));
  });

  it('with something known what there is so far is shown at once, then as ever', () => {
    const one = bed();
    const keyOf = (): string | undefined => {
      const last = one.told.at(-1)!;
      return last.state === 'working' ? last.sofar?.key : undefined;
    };
    // Any fault may still be it: it is never enough before all are played.
    const byFault = new Float32Array(whole.faults.length).fill(1 / whole.faults.length);
    one.search.start({ left: { faults: whole.faults, byFault } });
    one.clock = 290;
    one.players[0]!.play();
    expect(keyOf()).toBeUndefined();
    one.clock = 310;
    one.players[0]!.play();
    expect(keyOf()).toBe(`${whole.key} 20`);
    one.clock = 2300;
    one.players[0]!.play();
    expect(keyOf()).toBe(`${whole.key} 20`);
    one.clock = 2320;
    one.players[0]!.play();
    expect(keyOf()).toBe(`${whole.key} 40`);
  });

  it.each([
    [0, 2],
    [2, 2],
    [5, 2],
    [6, 3],
    [12, 6],
    [32, 6],
  ])('on a machine of %d threads there are %d players', (threads, players) => {
    expect(playersFor(threads)).toBe(players);
  });

  it('players wait and go on as they are told', () => {
    const { search, players } = bed();
    search.hold(true);
    search.start();
    search.hold(true);
    expect(players.map((one) => one.held)).toEqual([true, true]);
    search.hold(false);
    expect(players.map((one) => one.held)).toEqual([false, false]);
  });

  it('nobody is told anything before what touches the nets in doubt is played', () => {
    const one = bed();
    const sofar = (): Dictionary | null => {
      const last = one.told.at(-1)!;
      return last.state === 'working' ? last.sofar : null;
    };
    one.search.start({ near: [board.nets.find((net) => net.id === '3V3_SD')!.id] });
    one.clock = 5000;
    one.players[0]!.play(40);
    // The other half is still missing.
    expect(sofar()).toBeNull();
    one.players[1]!.play(40);
    expect(sofar()).not.toBeNull();
  });

  it('asked for twice it is made once', () => {
    const { search, players } = bed();
    search.start();
    search.start();
    expect(players).toHaveLength(2);
  });

  it('cancelled it stops, tells nothing more, and can be made again', async () => {
    const one = bed();
    one.search.start();
    const [first, second] = one.players;
    first!.play();
    one.search.cancel();
    expect(stateOf(one)).toBe('none');
    expect([first!.ended, second!.ended]).toEqual([true, true]);
    const count = one.told.length;
    first!.play();
    first!.finish();
    second!.finish();
    await settled();
    expect(one.told).toHaveLength(count);
    one.search.start();
    one.players.slice(2).forEach((player) => player.finish());
    await settled();
    expect(stateOf(one)).toBe('ready');
  });

  it('a player that fails is said with why, and it can be tried again', async () => {
    const one = bed();
    one.search.start();
    one.players[1]!.fail('out of memory');
    await settled();
    expect(one.told.at(-1)).toEqual({ state: 'failed', because: 'out of memory' });
    expect(one.players.every((player) => player.ended)).toBe(true);
    expect(one.kept).toEqual([]);
    one.search.start();
    expect(stateOf(one)).toBe('working');
  });
});

describe('a dictionary that is found', () => {
  it('before it is made, is not made at all', async () => {
    const one = bed();
    await one.find(whole);
    expect(one.told).toEqual([{ state: 'ready', dictionary: whole }]);
    one.search.start();
    one.search.cancel();
    expect(one.players).toEqual([]);
    expect(one.told).toHaveLength(1);
  });

  it('while it is made, stops the making', async () => {
    const one = bed();
    one.search.start();
    one.players[0]!.play();
    await one.find(whole);
    expect(one.told.at(-1)).toEqual({ state: 'ready', dictionary: whole });
    expect(one.players.every((player) => player.ended)).toBe(true);
    const count = one.told.length;
    one.players.forEach((player) => player.finish());
    await settled();
    expect(one.told).toHaveLength(count);
    expect(one.kept).toEqual([]);
  });

  it('after it was made, changes nothing', async () => {
    const one = bed();
    one.search.start();
    one.players.forEach((player) => player.finish());
    await settled();
    const made = one.told.at(-1);
    await one.find(whole);
    expect(one.told.at(-1)).toBe(made);
  });

  it('that nobody made it yet is told at once, unless it is being made already', async () => {
    const idle = bed();
    await idle.find(null);
    expect(idle.told).toEqual([{ state: 'none', isMissing: true }]);
    const busy = bed();
    busy.search.start();
    await busy.find(null);
    expect(stateOf(busy)).toBe('working');
  });

  it('when nobody looks any more, is told to nobody', async () => {
    const one = bed();
    one.search.start();
    one.search.end();
    expect(one.players.every((player) => player.ended)).toBe(true);
    const count = one.told.length;
    await one.find(whole);
    one.players.forEach((player) => player.finish());
    await settled();
    one.search.start();
    expect(one.told).toHaveLength(count);
    expect(one.players).toHaveLength(2);
  });

  it('and cannot be read, is said, and made all the same', async () => {
    const one = bed();
    await one.find('unreadable');
    expect([one.unreadable, one.told.length]).toEqual([1, 0]);
    one.search.start();
    expect(stateOf(one)).toBe('working');
  });
});
