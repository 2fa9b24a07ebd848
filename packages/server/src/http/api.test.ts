import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, shelfSchema, type BoardRow } from '@jiko/contract';
import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { benchSetup } from '@jiko/core/play';
import { dictionaryBytes, dictionaryFrom, wholeDictionary } from '@jiko/core/dictionary';
import type { EventBody } from '@jiko/core/record';
import {
  event,
  intake,
  reading,
  sheet,
  startBench,
  type TestBench,
} from '../../test/test-server.ts';

let bench: TestBench;
let base: string;
beforeAll(async () => {
  bench = await startBench();
  ({ base } = bench);
});
afterAll(() => bench.end());
const post = (path: string, body: unknown) => bench.post(path, body);
const openJob = () => bench.openJob();
const stored = (id: string) => bench.stored(id);

describe('jobs', () => {
  it('keep a reading exactly as it was sent', async () => {
    const id = await openJob();
    const sent = event(reading(0.2));
    expect((await post(api.events(id), { events: [sent] })).status).toBe(201);
    expect((await stored(id))[1]).toEqual(sent);
  });

  it('take the same events again without a second copy', async () => {
    const id = randomUUID();
    const first = intake();
    const more = event(reading(1));
    await post(api.jobs, { id, events: [first] });
    expect((await post(api.jobs, { id, events: [first] })).status).toBe(200);
    await post(api.events(id), { events: [more] });
    const again = await post(api.events(id), { events: [more, event(reading(2))] });
    expect(((await again.json()) as { known: string[] }).known).toEqual([more.id]);
    expect(await stored(id)).toHaveLength(3);
  });

  it('keep the order of arrival when many write at once', async () => {
    const id = await openJob();
    const batches = Array.from({ length: 12 }, (_, batch) => [
      event(reading(batch)),
      event(reading(batch + 0.5)),
    ]);
    await Promise.all(batches.map((events) => post(api.events(id), { events })));
    const ids = (await stored(id)).slice(1).map((one) => one.id);
    expect(new Set(ids).size).toBe(24);
    for (const [a, b] of batches)
      expect(ids.indexOf(b?.id ?? '')).toBe(ids.indexOf(a?.id ?? '') + 1);
  });

  it('list what lies on the bench, with the corrected intake', async () => {
    const id = await openJob();
    const corrected = intake();
    if (corrected.body.type === 'intake') corrected.body.intake.device = 'Station 8';
    await post(api.events(id), { events: [corrected, event(reading(1))] });
    const rows = (await (await fetch(base + api.jobs)).json()) as { id: string }[];
    expect(rows.find((row) => row.id === id)).toMatchObject({
      summary: { readings: 1, done: ['door', 'trace'] },
      boardTitle: 'Beck mini',
      closed: null,
      intake: { device: 'Station 8' },
    });
  });

  it('say in the list what a job waits for, as it stands after every entry', async () => {
    const id = await openJob();
    const summary = async () => {
      const rows = (await (await fetch(base + api.jobs)).json()) as {
        id: string;
        summary: object;
      }[];
      return rows.find((row) => row.id === id)?.summary;
    };
    expect(await summary()).toMatchObject({ waits: [], asks: [] });
    const wait = event({ type: 'wait', reason: 'part', until: null, text: 'coil' });
    const ask = event({ type: 'approval', found: 'two shorts', asks: 'a new coil' });
    await post(api.events(id), { events: [wait, ask] });
    expect(await summary()).toMatchObject({
      waits: [{ reason: 'part', text: 'coil' }],
      asks: ['a new coil'],
    });
    const over = event({ type: 'wait-over', wait: wait.id });
    const yes = event({ type: 'answer', approval: ask.id, yes: true });
    await post(api.events(id), { events: [over, yes] });
    expect(await summary()).toMatchObject({ waits: [], asks: [] });
    expect(await summary()).toMatchObject({ waits: [], asks: [] });
  });

  it.each([
    [
      'a job without an intake',
      async () => post(api.jobs, { id: randomUUID(), events: [event(reading(1))] }),
      400,
      'events.0.body.type',
    ],
    [
      'a board that is not there',
      async () => post(api.jobs, { id: randomUUID(), events: [intake('nowhere')] }),
      400,
      'events.0.body.intake.board',
    ],
    ['an id that is no id', async () => post(api.jobs, { id: '7', events: [intake()] }), 400, 'id'],
    [
      'negative ohms',
      async () =>
        post(api.events(await openJob()), {
          events: [
            event({
              ...reading(0),
              reading: {
                ...(reading(0) as never as { reading: object }).reading,
                mode: 'ohms',
                phase: 'cold',
                value: { kind: 'number', value: -5, trend: 'steady' },
              },
            } as EventBody),
          ],
        }),
      400,
      'events.0.body.reading.value',
    ],
    [
      'ohms on a live board',
      async () =>
        post(api.events(await openJob()), {
          events: [
            event({
              ...reading(0),
              reading: { ...(reading(0) as never as { reading: object }).reading, mode: 'ohms' },
            } as EventBody),
          ],
        }),
      400,
      'events.0.body.reading.phase',
    ],
    [
      'an unknown word',
      async () => post(api.jobs, { id: randomUUID(), events: [intake()], extra: 1 }),
      400,
      '',
    ],
  ])('refuse %s and name the field', async (_name, send, status, field) => {
    const response = await send();
    expect(response.status).toBe(status);
    expect(response.headers.get('content-type')).toContain('application/problem+json');
    const problem = (await response.json()) as {
      title: string;
      errors: { field: string; message: string }[];
    };
    expect(problem.title).toBeTruthy();
    expect(problem.errors.map((one) => one.field)).toContain(field);
  });

  it('answer 404 for what is not there and 409 for an event of another job', async () => {
    expect((await fetch(base + api.job(randomUUID()))).status).toBe(404);
    expect((await post(api.events(randomUUID()), { events: [event(reading(1))] })).status).toBe(
      404,
    );
    expect((await fetch(`${base}/api/nothing`)).status).toBe(404);
    const other = event(reading(1));
    await post(api.events(await openJob()), { events: [other] });
    const id = await openJob();
    expect((await post(api.events(id), { events: [other] })).status).toBe(409);
    expect(await stored(id)).toHaveLength(1);
  });

  it('refuse unreadable and oversized bodies without telling their insides', async () => {
    const broken = await post(api.jobs, '{"id": ');
    expect(broken.status).toBe(400);
    expect(await broken.text()).not.toContain('at ');
    const huge = await post(api.boards, { base: null, text: 'x'.repeat(3_000_000) });
    expect(huge.status).toBe(413);
    expect(await huge.text()).toContain('too large');
  });
});

describe('boards', () => {
  it('keep every version, and serve the newest or a named one', async () => {
    const first = sheet('beck-mini');
    const old = (await (await fetch(base + api.board('beck-mini'))).json()) as { hash: string };
    const saved = await post(api.boards, {
      base: old.hash,
      text: first.replace('revision: B', 'revision: C'),
    });
    expect(saved.status).toBe(201);
    const newest = (await (await fetch(base + api.board('beck-mini'))).json()) as {
      revision: string;
    };
    expect(newest.revision).toBe('C');
    const named = (await (await fetch(base + api.board('beck-mini', old.hash))).json()) as {
      text: string;
    };
    expect(named.text).toBe(first);
  });
  it('are not saved over a version nobody looked at: of two made from one, the second is refused', async () => {
    const text = sheet('scree-lp');
    const first = await post(api.boards, { base: null, text });
    expect(first.status).toBe(201);
    const { hash } = (await first.json()) as BoardRow;
    const changed = (words: string): Promise<Response> =>
      post(api.boards, { base: hash, text: `${text}\n# ${words}\n` });
    const both = await Promise.all([changed('one'), changed('two')]);
    expect(both.map((one) => one.status).sort()).toEqual([201, 409]);
    const refused = both.find((one) => one.status === 409)!;
    expect(await refused.json()).toMatchObject({ title: 'The sheet was changed meanwhile' });
    const versions = (await (await fetch(base + api.versions('scree-lp'))).json()) as unknown[];
    expect(versions).toHaveLength(2);
    // Nor as if the board were new; what is there already is taken as said.
    const anew = await post(api.boards, { base: null, text: `${text}\n# three\n` });
    expect(anew.status).toBe(409);
    const kept = (await (await fetch(base + api.board('scree-lp'))).json()) as { text: string };
    expect((await post(api.boards, { base: null, text: kept.text })).status).toBe(201);
    // Who does not say what it was made from is told so.
    expect((await post(api.boards, { text })).status).toBe(400);
  });
  it('list their versions, the present one first; one that is saved again is the present one', async () => {
    const versions = async (): Promise<string[]> =>
      (
        (await (await fetch(base + api.versions('beck-mini'))).json()) as { revision: string }[]
      ).map((one) => one.revision);
    expect(await versions()).toEqual(['C', 'B']);
    const { hash } = (await (await fetch(base + api.board('beck-mini'))).json()) as BoardRow;
    await post(api.boards, { base: hash, text: sheet('beck-mini') });
    expect(await versions()).toEqual(['B', 'C']);
    expect((await fetch(base + api.versions('no-such'))).status).toBe(404);
  });
  it('are put away and taken out again; one nobody knows is refused', async () => {
    const put = (id: string, body: unknown): Promise<Response> =>
      fetch(base + api.archived(id), {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      });
    const away = async (archived: boolean): Promise<boolean | undefined> => {
      const rows = (await (await put('beck-mini', { archived })).json()) as {
        id: string;
        archived: boolean;
      }[];
      return rows.find((one) => one.id === 'beck-mini')?.archived;
    };
    expect(await away(true)).toBe(true);
    expect(await away(true)).toBe(true);
    expect(await away(false)).toBe(false);
    expect((await put('no-such', { archived: true })).status).toBe(404);
    expect((await put('beck-mini', { archived: 'yes' })).status).toBe(400);
  });
  it('refuse a broken sheet with the line of each trouble, and save nothing', async () => {
    const before = await bench.boards.list();
    const response = await post(api.boards, {
      base: null,
      text: sheet('fell-13')
        .replace('feed:', 'feed:')
        .replace('id: fell-13', 'id: fell-99')
        .replace('VBUS: VBUS, LDO', 'VBUS: VBSU, LDO'),
    });
    expect(response.status).toBe(400);
    const problem = (await response.json()) as { errors: { field: string; message: string }[] };
    expect(problem.errors[0]?.field).toMatch(/^line \d+$/);
    expect(problem.errors[0]?.message).toContain('VBSU');
    expect(await bench.boards.list()).toEqual(before);
  });
});

describe('reports on paper', () => {
  it('blocks in, a PDF out, under its own name', async () => {
    const response = await post(api.print, {
      title: 'Beck mini, station 7',
      blocks: [
        { kind: 'title', text: 'Beck mini, station 7' },
        { kind: 'table', head: ['Point', 'Read'], widths: [0.5, 0.5], rows: [['5V_SB', '5 V']] },
      ],
    });
    expect(response.status).toBe(200);
    expect(response.headers.get('content-type')).toBe('application/pdf');
    expect(response.headers.get('content-disposition')).toContain('beck-mini-station-7.pdf');
    const bytes = Buffer.from(await response.arrayBuffer());
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    expect(bytes.length).toBeGreaterThan(5000);
  });

  it.each([
    [{}, 'title'],
    [{ title: 'x', blocks: [{ kind: 'script', text: 'x' }] }, 'blocks.0.kind'],
    [
      { title: 'x', blocks: [{ kind: 'table', head: [], widths: [0], rows: [] }] },
      'blocks.0.widths',
    ],
  ])('%j is refused, and says where', async (body, field) => {
    const response = await post(api.print, body);
    expect(response.status).toBe(400);
    expect(JSON.stringify(await response.json())).toContain(field);
  });
});

describe('dictionaries other browsers made', () => {
  const text = sheet('beck-mini');
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet does not load');
  const beck = loaded.value;
  const bench = { source: 'adapter', attached: [] };
  const made = wholeDictionary(beck, benchSetup(beck, bench));
  const name = contentHash(made.key);
  const of = { board: 'beck-mini', hash: beck.hash, bench: JSON.stringify(bench) };
  const put = (
    body: Uint8Array<ArrayBuffer>,
    { at = name, about = of, type = 'application/octet-stream' } = {},
  ) =>
    fetch(base + api.dictionary(at, about), {
      method: 'PUT',
      headers: { 'Content-Type': type },
      body,
    });

  it('come back byte for byte once a sample was played anew', async () => {
    expect((await fetch(base + api.dictionary(name))).status).toBe(404);
    const bytes = dictionaryBytes(made);
    expect((await put(bytes)).status).toBe(204);
    const back = new Uint8Array(await (await fetch(base + api.dictionary(name))).arrayBuffer());
    expect(Buffer.compare(Buffer.from(back), Buffer.from(bytes))).toBe(0);
  });

  it('are not served to others where they are wrong on purpose, or hollow', async () => {
    const wrong = dictionaryFrom(dictionaryBytes(made), made.key)!;
    wrong.volts.forEach((volts, at) => (wrong.volts[at] = volts * 0.9));
    const refused = await put(dictionaryBytes(wrong));
    expect(refused.status).toBe(409);
    expect(await refused.text()).toContain('plays otherwise: volts');
    const hollow = dictionaryFrom(dictionaryBytes(made), made.key)!;
    hollow.amps.fill(NaN);
    expect(await (await put(dictionaryBytes(hollow))).text()).toContain('never played');
    const other = await put(dictionaryBytes(made), {
      about: { ...of, bench: JSON.stringify({ attached: [], lifted: ['R1'] }) },
    });
    expect(await other.text()).toContain('another sheet or bench');
    // What was there before is there still.
    expect((await fetch(base + api.dictionary(name))).status).toBe(200);
  });

  it('are refused under a strange name, empty, of no bench, or as something else', async () => {
    const bytes = dictionaryBytes(made);
    expect((await put(bytes, { at: '..%2Fetc' })).status).toBe(400);
    expect((await put(new Uint8Array())).status).toBe(400);
    expect((await put(bytes, { about: { ...of, bench: '{' } })).status).toBe(400);
    expect((await put(bytes, { about: { ...of, hash: '0'.repeat(16) } })).status).toBe(404);
    expect((await put(new TextEncoder().encode('x'), { type: 'text/plain' })).status).toBe(400);
    expect((await put(new TextEncoder().encode('no dictionary'))).status).toBe(409);
  });
});

describe('the shelf', () => {
  const put = (id: string, body: unknown): Promise<Response> =>
    fetch(base + api.shelfItem(id), {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
  const item = {
    kind: 'part',
    what: 'capacitor',
    board: null,
    marking: '',
    value: '10u',
    package: '0603',
    place: 'drawer 3',
    count: 20,
    gone: [],
    note: '',
  };

  it('keeps what is put there, once, and what it has become', async () => {
    const id = randomUUID();
    expect((await put(id, item)).status).toBe(200);
    await put(id, item);
    await put(id, { ...item, count: 19 });
    const list = shelfSchema.parse(await (await fetch(base + api.shelf)).json());
    expect(list.filter((one) => one.id === id)).toEqual([{ id, item: { ...item, count: 19 } }]);
  });

  it.each([
    [{ ...item, count: -1 }, 'count'],
    [{ ...item, what: '' }, 'what'],
    [{ ...item, price: 3 }, 'price'],
    [{}, 'kind'],
  ])('%j is refused, and says where', async (body, field) => {
    const response = await put(randomUUID(), body);
    expect(response.status).toBe(400);
    expect(JSON.stringify(await response.json())).toContain(field);
  });

  it('an id that is none is refused', async () => {
    expect((await put('drawer', item)).status).toBe(400);
  });
});

describe('health', () => {
  it('asks the database, and says so when it is gone', async () => {
    expect(await (await fetch(base + api.health)).json()).toEqual({
      status: 'ok',
      database: 'ok',
      because: null,
    });
    const headers = (await fetch(base + api.health)).headers;
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-powered-by')).toBeNull();
    await bench.database.destroy();
    const failing = await fetch(base + api.health);
    expect(failing.status).toBe(503);
    expect(await failing.json()).toMatchObject({ status: 'failing', database: 'unreachable' });
    const request = await fetch(base + api.jobs);
    expect(request.status).toBe(503);
    expect(await request.text()).not.toMatch(/node_modules|typeorm/i);
  });
});
