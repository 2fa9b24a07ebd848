import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, foundJobsSchema, type FoundJobs } from '@jiko/contract';
import { plainReading } from '@jiko/testing';
import type { EventInput } from '@jiko/core/record';
import { event, startBench, type TestBench } from '../../test/test-server.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await startBench();
});
afterAll(() => bench.end());

const ask = (of: Record<string, string>): Promise<Response> =>
  fetch(`${bench.base}${api.jobSearch}?${new URLSearchParams(of)}`);
const found = async (of: Record<string, string>): Promise<FoundJobs> =>
  foundJobsSchema.parse(await (await ask(of)).json());
const idsOf = async (of: Record<string, string>): Promise<string[]> =>
  (await found(of)).rows.map(({ id }) => id);

/** A job with these entries behind its intake. */
async function job(...bodies: EventInput[]): Promise<string> {
  const id = await bench.openJob();
  const sent = await bench.post(api.events(id), { events: bodies.map((body) => event(body)) });
  expect(sent.status).toBe(201);
  return id;
}
const note = (text: string): EventInput => ({ type: 'note', text });
const read = (net: string): EventInput => ({
  type: 'reading',
  supersedes: [],
  reading: plainReading(net, 'volts', 'standby', { kind: 'number', value: 0, trend: 'steady' }),
});

describe('jobs are found', () => {
  it('by words of the record, nets and parts, the beginnings of them too, and all words together', async () => {
    const tea = await job(note('Tea under the keyboard'), read('3V3_SB'));
    const fall = await job(note('fell down the stairs'), {
      type: 'repair',
      action: 'replaced',
      parts: ['C17'],
      text: '',
    });
    expect(await idsOf({ q: 'tea' })).toEqual([tea]);
    expect(await idsOf({ q: 'STAIR' })).toEqual([fall]);
    expect(await idsOf({ q: 'c17' })).toEqual([fall]);
    expect(await idsOf({ q: '3v3_s' })).toEqual([tea]);
    expect(await idsOf({ q: 'sb keyb' })).toEqual([tea]);
    expect(await idsOf({ q: 'tea stairs' })).toEqual([]);
    expect((await idsOf({ q: '' })).sort()).toEqual([fall, tea].sort());
  });

  it('at once after an entry, and no more by what was erased', async () => {
    const id = await job(note('a Quince in the fan'));
    expect(await idsOf({ q: 'quince' })).toEqual([id]);
    await bench.post(api.events(id), { events: [event(note('and a medlar'))] });
    expect(await idsOf({ q: 'medlar quince' })).toEqual([id]);
    const erased = await bench.post(api.erase(id), { event: event({ type: 'erased' }) });
    expect(erased.status).toBe(200);
    expect(await idsOf({ q: 'quince' })).toEqual([]);
  });

  it('by board, whether they are open, and by day', async () => {
    const id = await job(note('walnut'), {
      type: 'close',
      outcome: 'not-found',
      cause: '',
      proof: 'not-found',
      reason: '',
    } as EventInput);
    expect(await idsOf({ q: 'walnut', state: 'closed' })).toEqual([id]);
    expect(await idsOf({ q: 'walnut', state: 'open' })).toEqual([]);
    expect(await idsOf({ q: 'walnut', board: 'beck-mini' })).toEqual([id]);
    expect(await idsOf({ q: 'walnut', board: 'fell-13' })).toEqual([]);
    const [{ createdAt = '', updatedAt = '' } = {}] = (await found({ q: 'walnut' })).rows;
    expect(await idsOf({ q: 'walnut', from: updatedAt.slice(0, 10) })).toEqual([id]);
    expect(await idsOf({ q: 'walnut', to: createdAt.slice(0, 10) })).toEqual([id]);
    expect(await idsOf({ q: 'walnut', from: '2999-01-01' })).toEqual([]);
    expect(await idsOf({ q: 'walnut', to: '1999-01-01' })).toEqual([]);
  });

  it('whatever is typed: marks of a query language are marks', async () => {
    const id = await job(note("O'Brien's \\ & | ! :* <-> book"));
    for (const q of ["o'brien's", "' OR 1=1", '\\', '&', '!!', ':*', '(', 'book & ', "''''"])
      expect((await ask({ q })).status, q).toBe(200);
    expect(await idsOf({ q: 'book' })).toEqual([id]);
  });

  it('not by what is no day, no state, no board', async () => {
    const odd: Record<string, string>[] = [
      { from: 'yesterday' },
      { state: 'lost' },
      { board: '../etc' },
      { q: 'x'.repeat(201) },
    ];
    for (const of of odd) expect((await ask(of)).status, JSON.stringify(of)).toBe(400);
  });
});
