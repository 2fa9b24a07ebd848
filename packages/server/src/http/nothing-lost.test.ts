import { createHash, randomUUID } from 'node:crypto';
import { request as httpRequest } from 'node:http';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api } from '@jiko/contract';
import type { EventInput } from '@jiko/core/record';
import { checkDatabase, makeDatabaseCheck } from '../persistence/database.ts';
import { readSheetAside } from '../boards/sheet-reader.ts';
import {
  event,
  intake,
  png,
  reading,
  sheet,
  startBench,
  type TestBench,
} from '../../test/test-server.ts';

// What keeps entries whole: rights, odd entries, closing, erasing, foreign pages, the demo.

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

describe('the tables', () => {
  it('are what the entities say, with nothing left to change', () => {
    expect(bench.schemaChanges).toEqual([]);
  });
  it('let the app add and read entries, by its rights; and nobody change them unawares', async () => {
    const id = await openJob();
    for (const text of [
      `UPDATE job_event SET who = 'x' WHERE job_id = '${id}'`,
      `DELETE FROM job_event WHERE job_id = '${id}'`,
      'TRUNCATE job_event CASCADE',
      'DROP TABLE job_event',
      `SET jiko.change = 'knowingly'; DELETE FROM job_event`,
      `DELETE FROM job WHERE id = '${id}'`,
      `ALTER TABLE job_event DISABLE TRIGGER ALL`,
      `DELETE FROM migrations`,
    ])
      await expect(bench.database.query(text)).rejects.toThrow(/permission denied|must be owner/);
    // The owner is stopped by the trigger, unless it says that it means it.
    for (const text of [
      `UPDATE job_event SET who = 'x' WHERE job_id = '${id}'`,
      `DELETE FROM job_event WHERE job_id = '${id}'`,
      'TRUNCATE job_event CASCADE',
    ])
      await expect(bench.asOwner(text)).rejects.toThrow('only ever added');
    expect(await stored(id)).toHaveLength(1);
  });
});

describe('one bad entry', () => {
  const withOdd = async (body: unknown, at = '2026-01-05T10:00:00Z'): Promise<string> => {
    const id = await openJob();
    await bench.database.query(
      'INSERT INTO job_event (id, job_id, who, at, body) VALUES ($1, $2, $3, $4, $5)',
      [randomUUID(), id, 'Bench 1', at, JSON.stringify(body)],
    );
    await bench.database.query('UPDATE job SET summary = NULL WHERE id = $1', [id]);
    return id;
  };
  it('of a kind this version does not know is kept, shown as strange, and hides no other', async () => {
    const id = await withOdd({ type: 'from-the-future', depth: 3 });
    const list = (await (await fetch(base + api.jobs)).json()) as { id: string }[];
    expect(list.some((row) => row.id === id)).toBe(true);
    // As it lies there: who reads it knows what to make of it.
    expect((await stored(id)).at(-1)?.body).toEqual({ type: 'from-the-future', depth: 3 });
  });
  it('without any kind at all is kept as well', async () => {
    const id = await withOdd(['no', 'entry']);
    expect((await stored(id)).at(-1)?.body).toEqual(['no', 'entry']);
    expect((await fetch(base + api.jobs)).status).toBe(200);
  });
  it('of a time beyond all calendars is refused; one that got in breaks nothing', async () => {
    const id = await openJob();
    for (const at of [
      '9999-12-31T23:59:59-12:00',
      '1999-12-31T23:59:59Z',
      '2100-01-01T00:00:00Z',
    ]) {
      const refused = await post(api.events(id), { events: [{ ...event(reading(1)), at }] });
      expect(refused.status).toBe(400);
      expect(await refused.text()).toContain('set the clock');
    }
    const odd = await withOdd({ type: 'note', text: 'x' }, '10000-01-01T11:59:59Z');
    expect((await stored(odd)).at(-1)?.at).toBe('9999-12-31T23:59:59.999Z');
    expect((await fetch(base + api.jobs)).status).toBe(200);
  });
  it('with a NUL or half a surrogate pair is refused with its place, never a 500', async () => {
    const id = await openJob();
    for (const bad of ['a\u0000b', 'a\ud800b', 'a\udc00b']) {
      const refused = await post(api.events(id), {
        events: [event({ type: 'note', text: 'fine' }), event({ type: 'note', text: bad })],
      });
      expect(refused.status).toBe(400);
      expect(await refused.json()).toMatchObject({ errors: [{ field: 'events.1.body.text' }] });
    }
    expect(await stored(id)).toHaveLength(1);
    const deep = '['.repeat(20_000) + ']'.repeat(20_000);
    for (const path of [api.jobs, api.events(id), api.boards, api.erase(id)])
      expect((await post(path, deep)).status).toBe(400);
    for (const path of ['/api/boards/%00/look', '/api/boards/beck-mini?hash=%00', '/api/jobs/%00'])
      expect((await fetch(base + path)).status).toBe(400);
    const whole = await post(api.events(id), {
      events: [event({ type: 'note', text: 'a\ud83d\ude00b' })],
    });
    expect(whole.status).toBe(201);
  });
  it('under an id that is taken is refused, and nothing of its batch is kept', async () => {
    const [one, other] = [await openJob(), await openJob()];
    const first = event({ type: 'note', text: 'first' });
    await post(api.events(one), { events: [first] });
    const changed = { ...first, body: { type: 'note', text: 'changed' } };
    for (const [job, bad] of [
      [one, changed],
      [other, first],
    ] as const) {
      const refused = await post(api.events(job), {
        events: [event({ type: 'note', text: 'new' }), bad],
      });
      expect(refused.status).toBe(409);
      expect(await refused.text()).toContain(first.id);
    }
    expect((await stored(one)).map(({ body }) => body.type === 'note' && body.text)).toEqual([
      false,
      'first',
    ]);
    expect(await stored(other)).toHaveLength(1);
    // A job's own id, with another intake.
    expect((await post(api.jobs, { id: one, events: [intake()] })).status).toBe(409);
  });
});

describe('one bad sheet', () => {
  it('of a hundred thousand lines holds nobody up, and is refused by its first lines', async () => {
    const lines = Array.from(
      { length: 18000 },
      (_, at) => `  CX${at}: { kind: capacitor, pins: [VQ${at}, GND] }`,
    );
    const text = sheet('beck-mini')
      .replace('parts:\n', `parts:\n${lines.join('\n')}\n`)
      .slice(0, 990_000);
    let isDone = false;
    const saving = post(api.boards, { base: null, text }).finally(() => (isDone = true));
    // Others are answered meanwhile: so many times, before it is through.
    let answers = 0;
    while (!isDone && answers < 20) {
      const asked = performance.now();
      expect((await fetch(base + api.boards)).status).toBe(200);
      if (performance.now() - asked < 1500) answers++;
    }
    expect(answers).toBe(20);
    const refused = await saving;
    expect(refused.status).toBe(400);
    expect(((await refused.json()) as { errors: unknown[] }).errors.length).toBeLessThanOrEqual(
      100,
    );
  });
  it('that takes too long is given up', async () => {
    // The reader of YAML takes time that grows with the square of these.
    const slow = await readSheetAside('"'.repeat(1_000_000), 1);
    expect(slow).toMatchObject({
      ok: false,
      issues: [{ message: expect.stringContaining('takes longer') as string }],
    });
  });
  it('with a key written twice is refused with its line', async () => {
    const text = sheet('beck-mini').replace('  12V_IN: {', '  GND: { kind: ground }\n  12V_IN: {');
    const refused = await post(api.boards, { base: null, text });
    expect(await refused.json()).toMatchObject({
      errors: [
        { field: 'line 11', message: expect.stringContaining('GND is written twice') as string },
      ],
    });
  });
  it('saved again is a version of its own: what a job was traced on stays', async () => {
    const [text, changed] = [sheet('wren-5'), `${sheet('wren-5')}\n# changed\n`];
    const save = async (base: string | null, text: string) =>
      (await (await post(api.boards, { base, text })).json()) as { id: string; hash: string };
    const first = await save(null, text);
    const second = await save(first.hash, changed);
    expect(second.hash).not.toBe(first.hash);
    const read = async (hash: string | undefined) =>
      (await (await fetch(base + api.board(first.id, hash))).json()) as {
        text: string;
        hash: string;
      };
    expect((await read(first.hash)).text).toBe(text);
    expect((await read(undefined)).hash).toBe(second.hash);
    // The old one once more: it is the present one, under the hash it had.
    await save(second.hash, text);
    expect((await read(undefined)).hash).toBe(first.hash);
    expect((await read(second.hash)).text).toBe(changed);
  });
});

describe('closing and reopening', () => {
  const close: EventInput = {
    type: 'close',
    outcome: 'returned',
    cause: 'PU6',
    proof: 'not-found',
    reason: 'too dear',
  };
  const closedIn = async (id: string): Promise<unknown> =>
    ((await (await fetch(base + api.jobs)).json()) as { id: string; closed: unknown }[]).find(
      (row) => row.id === id,
    )?.closed;
  it('the list never stays behind: many entries at once, and lists asked for in between', async () => {
    const ids = await Promise.all(Array.from({ length: 3 }, openJob));
    const count = 25;
    await Promise.all(
      ids.flatMap((id) =>
        Array.from({ length: count }, async (_, at) => {
          await new Promise((done) => setTimeout(done, at * 12));
          // A busy machine answers that it is busy: what sends goes on sending, as the outbox does.
          const entry = { events: [event(reading(at))] };
          while ((await post(api.events(id), entry)).status === 503);
          if (at % 3 === 0) await fetch(base + api.jobs);
        }),
      ),
    );
    // What was worked out in the background is in by then.
    for (const wait of [0, 400]) {
      await new Promise((done) => setTimeout(done, wait));
      const rows = (await bench.jobs.list()).filter((row) => ids.includes(row.id));
      expect(rows.map((row) => row.summary.readings)).toEqual([count, count, count]);
    }
  });
  it('a closed job takes no entry by mistake, and takes them again once reopened', async () => {
    const id = await openJob();
    await post(api.events(id), { events: [event(close)] });
    expect(await closedIn(id)).toBe('returned');
    const refused = await post(api.events(id), { events: [event(reading(1))] });
    expect(refused.status).toBe(409);
    expect(await refused.text()).toContain('reopen the job first');
    const both = [event({ type: 'reopen', reason: 'came back' }), event(reading(1))];
    expect((await post(api.events(id), { events: both })).status).toBe(201);
    expect(await closedIn(id)).toBeNull();
  });
  it('a close, or a wrong intake, that is taken back shows in the list', async () => {
    const id = await openJob();
    const [closing, wrong] = [event(close), intake()];
    if (wrong.body.type === 'intake') wrong.body.intake.device = 'wrong one';
    await post(api.events(id), { events: [wrong, closing] });
    const strike = (of: string) => event({ type: 'strike', event: of, reason: 'by mistake' });
    expect((await post(api.events(id), { events: [strike(closing.id)] })).status).toBe(201);
    expect(await closedIn(id)).toBeNull();
    await post(api.events(id), { events: [strike(wrong.id)] });
    const rows = await bench.jobs.list();
    expect(rows.find((row) => row.id === id)?.intake.device).toBe('Station 7');
  });
  it("a customer's words and pictures go on request; what was measured stays", async () => {
    const id = await openJob();
    const picture = randomUUID();
    const form = new FormData();
    form.set('id', picture);
    form.set('file', new Blob([new Uint8Array(png())]), 'face.png');
    expect(
      (await fetch(base + api.jobAttachments(id), { method: 'POST', body: form })).status,
    ).toBe(201);
    await post(api.events(id), {
      events: [
        event(reading(1)),
        event({ type: 'note', text: 'call Mr Secret' }),
        event({ type: 'picture', attachment: picture, caption: 'Secret' }),
      ],
    });
    const erased = await post(api.erase(id), { event: event({ type: 'erased', reason: '' }) });
    expect(erased.status).toBe(200);
    expect(erased.headers.get('Clear-Site-Data')).toBe('"cache"');
    const after = JSON.stringify(await stored(id));
    expect(after).not.toMatch(/Secret|Station 7|"dead"/);
    expect(after).toContain('"low":1');
    expect((await fetch(base + api.attachment(picture))).status).toBe(404);
    expect((await bench.jobs.list()).find((row) => row.id === id)?.intake.device).toBe('(erased)');
    // Only by its own request, and nothing else by that one; a job that is not there has no words.
    expect((await post(api.events(id), { events: [event({ type: 'erased' })] })).status).toBe(409);
    const note = event({ type: 'note', text: 'by the wrong door' });
    expect((await post(api.erase(id), { event: note })).status).toBe(409);
    expect((await post(api.erase(randomUUID()), { event: event({ type: 'erased' }) })).status).toBe(
      404,
    );
    const taken = { ...event({ type: 'erased' }), id: (await stored(id))[0]!.id };
    expect((await post(api.erase(id), { event: taken })).status).toBe(409);
    expect(JSON.stringify(await stored(id))).not.toContain('wrong door');
  });
});

describe('one job as a file', () => {
  const send = (bytes: Uint8Array): Promise<Response> =>
    fetch(base + api.jobFiles, {
      method: 'POST',
      headers: { 'Content-Type': 'application/zip' },
      body: new Uint8Array(bytes),
    });
  const saved = async (id: string): Promise<Uint8Array> =>
    new Uint8Array(await (await fetch(base + api.jobFile(id))).arrayBuffer());
  const flash = Buffer.from('boot, settings, identity');
  const fullJob = async (): Promise<{ id: string; picture: string; firmware: string }> => {
    const [id, picture, firmware] = [await openJob(), randomUUID(), randomUUID()];
    const form = new FormData();
    form.set('id', picture);
    form.set('file', new Blob([new Uint8Array(png(9, 9))]), 'C12.png');
    await fetch(base + api.jobAttachments(id), { method: 'POST', body: form });
    const contents = new FormData();
    contents.set('id', firmware);
    contents.set('sha256', createHash('sha256').update(flash).digest('hex'));
    contents.set('file', new Blob([new Uint8Array(flash)]), 'old.bin');
    await fetch(base + api.jobFirmware(id), { method: 'POST', body: contents });
    await post(api.events(id), {
      events: [
        event(reading(1)),
        event({ type: 'picture', attachment: picture, caption: 'C12' }),
        event({ type: 'close', outcome: 'repaired', cause: 'C12', proof: 'proven', reason: '' }),
      ],
    });
    await bench.database.query(
      'INSERT INTO job_event (id, job_id, who, at, body) VALUES ($1, $2, $3, now(), $4)',
      [randomUUID(), id, 'Bench 1', '{"type":"from-the-future","deep":{"er":[1,2]}}'],
    );
    return { id, picture, firmware };
  };

  it('is taken over elsewhere unchanged: entries of all kinds, pictures, sheets, closed or not', async () => {
    const { id, picture, firmware } = await fullJob();
    const file = await saved(id);
    const there = await startBench();
    await there.asOwner('DELETE FROM board_version');
    const taken = await fetch(there.base + api.jobFiles, {
      method: 'POST',
      headers: { 'Content-Type': 'application/zip' },
      body: new Uint8Array(file),
    });
    expect(await taken.json()).toMatchObject({
      id,
      entries: 5,
      pictures: 2,
      sheets: 1,
      isNew: true,
    });
    // Closed from the first moment, before anybody asked for a list.
    const late = await there.post(api.events(id), { events: [event(reading(9))] });
    expect(late.status).toBe(409);
    const raw = async (of: TestBench): Promise<unknown> =>
      of.database.query('SELECT id, who, at, body FROM job_event WHERE job_id = $1 ORDER BY seq', [
        id,
      ]);
    expect(await raw(there)).toEqual(await raw(bench));
    const [mine, theirs] = await Promise.all(
      [base, there.base].map(async (at) =>
        (await fetch(at + api.attachment(picture))).arrayBuffer(),
      ),
    );
    expect(Buffer.from(theirs!).equals(Buffer.from(mine!))).toBe(true);
    const kept = await (await fetch(there.base + api.attachmentFile(firmware))).arrayBuffer();
    expect(Buffer.from(kept).equals(flash)).toBe(true);
    expect((await there.jobs.list()).find((row) => row.id === id)).toMatchObject({
      closed: 'repaired',
      intake: { device: 'Station 7' },
      boardTitle: 'Beck mini',
    });
    // And once more from there: the same file, but for when it was packed.
    const again = new Uint8Array(await (await fetch(there.base + api.jobFile(id))).arrayBuffer());
    expect(unzipSync(again)['job.json']).toEqual(unzipSync(file)['job.json']);
    await there.end();
  });

  it('that is here already is left alone where it is the same, and refused where it differs', async () => {
    const { id } = await fullJob();
    const file = await saved(id);
    expect(await (await send(file)).json()).toMatchObject({ isNew: false });
    await post(api.events(id), {
      events: [event({ type: 'reopen', reason: 'x' }), event(reading(2))],
    });
    const refused = await send(file);
    expect(refused.status).toBe(409);
    expect(await refused.text()).toContain('with other entries');
    expect(await stored(id)).toHaveLength(7);
  });

  it('is refused whole where anything in it is missing, damaged, strange or too much', async () => {
    const { id } = await fullJob();
    const files = unzipSync(await saved(id));
    const head = JSON.parse(strFromU8(files['job.json']!)) as Record<string, unknown> & {
      pictures: { file: string }[];
      sheets: { file: string }[];
      events: object[];
    };
    const newId = randomUUID();
    const withHead = (change: object): Uint8Array =>
      zipSync({ ...files, 'job.json': strToU8(JSON.stringify({ ...head, id: newId, ...change })) });
    const [picture, sheetFile] = [head.pictures[0]!.file, head.sheets[0]!.file];
    const cases: [string, Uint8Array, string][] = [
      ['no zip', strToU8('no zip at all'), 'no job file, or it is not whole'],
      ['half of it', (await saved(id)).subarray(0, 400), 'not whole'],
      ['another zip', zipSync({ 'a.txt': strToU8('x') }), 'no job.json'],
      ['no JSON', zipSync({ 'job.json': strToU8('{') }), 'no JSON'],
      ['another version', withHead({ version: 2 }), 'version'],
      [
        'a path out of it',
        withHead({ pictures: [{ ...head.pictures[0], file: '../../etc/passwd' }] }),
        'no place',
      ],
      ['no entries', withHead({ events: [] }), 'events'],
      ['no intake', withHead({ events: head.events.slice(1) }), 'intake'],
      [
        'a NUL',
        withHead({ events: [head.events[0], { ...event({ type: 'note', text: 'a\u0000' }) }] }),
        'cannot be kept',
      ],
      [
        'a picture missing',
        zipSync(Object.fromEntries(Object.entries(files).filter(([name]) => name !== picture))),
        'is missing',
      ],
      [
        'a picture changed',
        zipSync({ ...files, [picture]: new Uint8Array(png(3, 3)) }),
        'not what job.json says',
      ],
      [
        'a sheet changed',
        zipSync({ ...files, [sheetFile]: strToU8('board: x') }),
        'cannot be read',
      ],
    ];
    for (const [what, bytes, words] of cases) {
      const refused = await send(bytes);
      expect([what, refused.status]).toEqual([what, 400]);
      expect(await refused.text()).toContain(words);
    }
    // Entries of a job that is here, under another job's id.
    expect((await send(withHead({}))).status).toBe(409);
    expect((await fetch(base + api.job(newId))).status).toBe(404);
  });

  it('follows its published schema', async () => {
    const schema = (await (await fetch(`${base}/api/job-file.schema.json`)).json()) as {
      required: string[];
    };
    expect(schema.required).toEqual(
      expect.arrayContaining(['format', 'version', 'events', 'sheets', 'pictures']),
    );
  });
});

describe('who may', () => {
  const ask = (path: string, headers: Record<string, string>, method = 'GET'): Promise<number> =>
    new Promise((resolve, reject) => {
      const sent = httpRequest(base + path, { method, headers }, (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
      });
      sent.once('error', reject);
      sent.end();
    });
  const own = () => new URL(base).host;
  it.each([
    ['its own address', {}, 200],
    ['a foreign name that points here', { Host: 'evil.example' }, 403],
    ['a foreign name with our port', { Host: 'evil.example:4600' }, 403],
    ['localhost by name', { Host: 'localhost:4600' }, 200],
    ['a foreign page', { Origin: 'https://evil.example' }, 403],
    ['a page on another port', { Origin: 'http://127.0.0.1:1' }, 403],
    ['a page without an origin', { Origin: 'null' }, 403],
    ['a request a foreign page makes', { 'Sec-Fetch-Site': 'cross-site' }, 403],
    ['one of another port', { 'Sec-Fetch-Site': 'same-site' }, 403],
    ['one of its own page', { 'Sec-Fetch-Site': 'same-origin' }, 200],
    ['an address typed', { 'Sec-Fetch-Site': 'none' }, 200],
  ])('%s', async (_what, headers, status) => {
    for (const path of [api.jobs, api.health, api.boards])
      expect(await ask(path, headers as Record<string, string>)).toBe(status);
  });
  it('a form with a file from a foreign page as well', async () => {
    const foreign = {
      Origin: 'https://evil.example',
      'Content-Type': 'multipart/form-data; boundary=x',
    };
    expect(await ask(api.boardPictures('beck-mini'), foreign, 'POST')).toBe(403);
    expect(
      await ask(
        api.boardPictures('beck-mini'),
        { Origin: `http://${own()}`, 'Content-Type': 'multipart/form-data; boundary=x' },
        'POST',
      ),
    ).toBe(400);
  });
});

describe('demo data', () => {
  it('is loaded once, reloaded on request, and leaves other jobs alone', async () => {
    const own = await openJob();
    const first = await bench.demo.begin('once');
    expect(await bench.demo.begin('once')).toEqual({ boards: 0, jobs: 0 });
    expect(await bench.demo.state()).toBe('loaded');
    expect(first.boards).toBe(3);
    const count = (await bench.jobs.list()).length;
    await bench.demo.reset();
    const after = await bench.jobs.list();
    expect(after).toHaveLength(count);
    expect(after.some((row) => row.id === own)).toBe(true);
    expect(after.filter((row) => row.id.startsWith('0d0e')).length).toBe(first.jobs);
  });
  it('goes on request, with the sheets nobody stands on, and does not come back by itself', async () => {
    const own = await openJob();
    const mine = (await bench.jobs.list()).filter((row) => !row.id.startsWith('0d0e')).length;
    const gone = await fetch(base + api.demo, { method: 'DELETE' });
    expect(await gone.json()).toMatchObject({ demo: 'removed' });
    expect((await bench.jobs.list()).length).toBe(mine);
    expect((await stored(own)).length).toBe(1);
    // Own jobs stand on the first; the second was never the demo's.
    expect((await bench.boards.list()).map((one) => one.id)).toEqual(['beck-mini', 'wren-5']);
    expect(await bench.demo.begin('once')).toEqual({ boards: 0, jobs: 0 });
    expect((await bench.jobs.list()).length).toBe(mine);
    expect((await bench.demo.reset()).boards).toBe(3);
  });
});

describe('health of the disk', () => {
  it('tells writing from reading', async () => {
    // As a full disk does: questions are answered, nothing is kept.
    await bench.asAdmin(`ALTER ROLE ${bench.role} SET default_transaction_read_only = on`);
    const full = await bench.openAgain();
    expect(await checkDatabase(full)).toMatchObject({
      database: 'read-only',
      because: expect.stringContaining('read-only transaction') as string,
    });
    // Asked often, it writes seldom while all is well, and at once again after trouble.
    const written = async (): Promise<string> =>
      (
        (await bench.database.query(
          `SELECT md5(value) AS it FROM setting WHERE name = 'health'`,
        )) as { it: string }[]
      )[0]?.it ?? '';
    const check = makeDatabaseCheck(bench.database);
    expect(await check()).toEqual({ database: 'ok', because: null });
    const first = await written();
    for (let times = 0; times < 5; times++) expect((await check()).database).toBe('ok');
    expect(await written()).toBe(first);
    await makeDatabaseCheck(bench.database)();
    expect(await written()).not.toBe(first);
    await full.destroy();
    await bench.asAdmin(`ALTER ROLE ${bench.role} RESET default_transaction_read_only`);
  });
});
