import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { dictionaryBytes, wholeDictionary, type Dictionary } from '@jiko/core/dictionary';
import { usualSetup } from '@jiko/core/play';
import { makeDictionaryStore, mostKept, type Elsewhere, type Shelf } from './dictionary-store.ts';

const loaded = loadSheet(
  readFileSync(new URL('../../../../sheets/wren-5.yaml', import.meta.url), 'utf8'),
);
if (!loaded.ok) throw new Error('the sheet does not load');
const made = wholeDictionary(loaded.value, usualSetup(loaded.value));
const of = { board: 'wren-5', hash: 'h', bench: '{}' };
const named = (key: string): Dictionary => ({ ...made, key });
const gone = (): Promise<never> => Promise.reject(new Error('not there'));

function shelfOf(...list: Dictionary[]): Shelf & { held: Map<string, Dictionary> } {
  const held = new Map(list.map((one) => [one.key, one]));
  return {
    held,
    get: (key) => Promise.resolve(held.get(key)),
    set: (key, dictionary) => Promise.resolve(void held.set(key, dictionary)),
    keys: () => Promise.resolve([...held.keys()]),
    remove: (keys) => Promise.resolve(keys.forEach((key) => held.delete(key))),
  };
}
function serverOf(...list: Dictionary[]): Elsewhere & { asked: string[]; sent: string[] } {
  const held = new Map(list.map((one) => [contentHash(one.key), dictionaryBytes(one)]));
  const server = {
    asked: [] as string[],
    sent: [] as string[],
    get: (hash: string) => {
      server.asked.push(hash);
      return Promise.resolve(held.get(hash) ?? null);
    },
    put: (hash: string) => Promise.resolve(void server.sent.push(hash)),
  };
  return server;
}

describe('looking for a dictionary', () => {
  it('what this browser has is not asked of the server', async () => {
    const server = serverOf(made);
    const found = await makeDictionaryStore(shelfOf(made), server).find(made.key);
    expect(found).toBe(made);
    expect(server.asked).toEqual([]);
  });

  it('what another browser made is read, and kept here for the next time', async () => {
    const shelf = shelfOf();
    const found = await makeDictionaryStore(shelf, serverOf(made)).find(made.key);
    if (!found || found === 'unreadable') throw new Error('not found');
    expect(found.faults).toEqual(made.faults);
    expect([...found.volts]).toEqual([...made.volts]);
    expect(shelf.held.get(made.key)).toBe(found);
  });

  it('a browser without a store, or without room, reads it all the same', async () => {
    const shelf: Shelf = { get: gone, set: gone, keys: gone, remove: gone };
    const found = await makeDictionaryStore(shelf, serverOf(made)).find(made.key);
    expect(found).toMatchObject({ key: made.key });
  });

  it('nobody has it, or nobody can be asked: nothing', async () => {
    expect(await makeDictionaryStore(shelfOf(), serverOf()).find(made.key)).toBeNull();
    const offline: Elsewhere = { get: gone, put: gone };
    expect(await makeDictionaryStore(shelfOf(), offline).find(made.key)).toBeNull();
  });

  it('what cannot be read, or is of something else, is said and not kept', async () => {
    const shelf = shelfOf();
    const cut: Elsewhere = {
      get: () => Promise.resolve(dictionaryBytes(made).slice(0, 500)),
      put: gone,
    };
    expect(await makeDictionaryStore(shelf, cut).find(made.key)).toBe('unreadable');
    const other: Elsewhere = {
      get: () => Promise.resolve(dictionaryBytes(named('another'))),
      put: gone,
    };
    expect(await makeDictionaryStore(shelf, other).find(made.key)).toBe('unreadable');
    expect(shelf.held.size).toBe(0);
  });
});

describe('keeping a dictionary', () => {
  it('here and for others, under the hash of its key', async () => {
    const [shelf, server] = [shelfOf(), serverOf()];
    await makeDictionaryStore(shelf, server).keep(made, of);
    expect(shelf.held.has(made.key)).toBe(true);
    expect(server.sent).toEqual([contentHash(made.key)]);
  });

  it('the oldest go, never the one just made', async () => {
    const shelf = shelfOf(...Array.from({ length: mostKept + 1 }, (_, at) => named(`old ${at}`)));
    await makeDictionaryStore(shelf, serverOf()).keep(made, of);
    expect(shelf.held.size).toBe(mostKept);
    expect(shelf.held.has('old 0')).toBe(false);
    expect(shelf.held.has('old 1')).toBe(false);
    expect(shelf.held.has('old 2')).toBe(true);
    expect(shelf.held.has(made.key)).toBe(true);
  });

  it('no room here still serves others; no network still serves here', async () => {
    const server = serverOf();
    const full: Shelf = { ...shelfOf(), set: gone };
    await makeDictionaryStore(full, server).keep(made, of);
    expect(server.sent).toHaveLength(1);
    const shelf = shelfOf();
    await makeDictionaryStore(shelf, { get: gone, put: gone }).keep(made, of);
    expect(shelf.held.has(made.key)).toBe(true);
  });
});
