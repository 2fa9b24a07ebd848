import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  api,
  boardHistorySchema,
  largestAttachmentBytes,
  largestFirmwareBytes,
  shelfSchema,
} from '@jiko/contract';
import { contentHash } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { benchSetup, dictionaryBytes, dictionaryFrom, wholeDictionary } from '@jiko/core/powerup';
import { plainReading } from '@jiko/core/practice';
import type { EventBody } from '@jiko/core/record';
import {
  event,
  intake,
  jpeg,
  png,
  reading,
  sheet,
  startBench,
  type TestBench,
} from '../test-bench.ts';

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
    const huge = await post(api.boards, { text: 'x'.repeat(3_000_000) });
    expect(huge.status).toBe(413);
    expect(await huge.text()).toContain('too large');
  });
});

describe('boards', () => {
  it('keep every version, and serve the newest or a named one', async () => {
    const first = sheet('beck-mini');
    const old = (await (await fetch(base + api.board('beck-mini'))).json()) as { hash: string };
    const saved = await post(api.boards, { text: first.replace('revision: B', 'revision: C') });
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
  it('list their versions, the present one first; one that is saved again is the present one', async () => {
    const versions = async (): Promise<string[]> =>
      (
        (await (await fetch(base + api.versions('beck-mini'))).json()) as { revision: string }[]
      ).map((one) => one.revision);
    expect(await versions()).toEqual(['C', 'B']);
    await post(api.boards, { text: sheet('beck-mini') });
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

describe('pictures', () => {
  const whole = png(40, 30, 2000);
  const upload = (
    job: string,
    content: Buffer,
    id: string,
    type = 'image/png',
  ): Promise<Response> => {
    const form = new FormData();
    form.append('id', id);
    form.append('file', new Blob([new Uint8Array(content)], { type }), 'board.png');
    return fetch(base + api.jobAttachments(job), { method: 'POST', body: form });
  };
  it('come back byte by byte, and may be sent again', async () => {
    const job = await openJob();
    const id = randomUUID();
    expect((await upload(job, whole, id)).status).toBe(201);
    expect((await upload(job, whole, id)).status).toBe(201);
    const back = await fetch(base + api.attachment(id));
    expect(back.headers.get('content-type')).toBe('image/png');
    expect(Buffer.from(await back.arrayBuffer()).equals(whole)).toBe(true);
    expect((await upload(job, png(41, 30, 2000), id)).status).toBe(409);
  });
  it('are told by their bytes, not by what the sender says', async () => {
    const page = await upload(
      await openJob(),
      Buffer.from('<script>alert(1)</script>'),
      randomUUID(),
    );
    expect(page.status).toBe(415);
  });
  it('of twenty megabytes are kept whole', async () => {
    const job = await openJob();
    const id = randomUUID();
    const large = jpeg(20 * 1024 * 1024);
    expect((await upload(job, large, id, 'image/jpeg')).status).toBe(201);
    const back = await fetch(base + api.attachment(id));
    expect(Buffer.from(await back.arrayBuffer()).equals(large)).toBe(true);
  });
  it.each([
    ['a PNG without its end', whole.subarray(0, 1500)],
    [
      'a PNG header with garbage behind it',
      Buffer.concat([whole.subarray(0, 33), randomBytes(3000)]),
    ],
    [
      'a PNG with one byte turned',
      Buffer.from(whole.map((byte, at) => (at === 500 ? byte ^ 1 : byte))),
    ],
    ['a PNG without a picture', Buffer.concat([whole.subarray(0, 33), whole.subarray(-12)])],
    ['a JPEG that broke off', jpeg(9000).subarray(0, 8000)],
    ['a JPEG that is only its ends', Buffer.from([0xff, 0xd8, 0xff, 0xd9])],
    ['a WebP of twelve bytes', Buffer.from('RIFF\x04\0\0\0WEBP', 'latin1')],
    ['a WebP shorter than it says', Buffer.from('RIFF\xff\xff\0\0WEBPVP8 ....', 'latin1')],
  ])('%s is refused as broken, by name', async (_, content) => {
    const response = await upload(await openJob(), content, randomUUID());
    expect(response.status).toBe(415);
    const { title, detail } = (await response.json()) as { title: string; detail: string };
    expect(title).toBe('The picture is broken');
    expect(detail).toContain('board.png');
  });
  it.each([
    [60000, 60000],
    [20001, 1],
    [19000, 19000],
  ])('of %i x %i pixels are refused, however few bytes they have', async (width, height) => {
    const response = await upload(await openJob(), png(width, height), randomUUID());
    expect(response.status).toBe(415);
    expect(await response.text()).toContain(`${width} x ${height}`);
  });
  it('are refused when too large, and nothing is stored', async () => {
    const job = await openJob();
    const id = randomUUID();
    const response = await upload(
      job,
      Buffer.concat([whole, Buffer.alloc(largestAttachmentBytes)]),
      id,
    );
    expect(response.status).toBe(413);
    expect(((await response.json()) as { detail: string }).detail).toContain('25 MB');
    expect((await fetch(base + api.attachment(id))).status).toBe(404);
  });
});

describe('contents of a flash', () => {
  const contents = Buffer.concat([Buffer.from('settings'), Buffer.alloc(30 * 1024 * 1024, 0xff)]);
  const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');
  const send = (job: string, id: string, sha256: string, bytes = contents): Promise<Response> => {
    const form = new FormData();
    form.append('id', id);
    form.append('sha256', sha256);
    form.append('file', new Blob([new Uint8Array(bytes)]), 'old.bin');
    return fetch(base + api.jobFirmware(job), { method: 'POST', body: form });
  };

  it('of thirty megabytes come back as a file, byte by byte', async () => {
    const [job, id] = [await openJob(), randomUUID()];
    expect((await send(job, id, hashOf(contents))).status).toBe(201);
    const back = await fetch(base + api.attachmentFile(id));
    expect(back.headers.get('content-disposition')).toBe('attachment; filename=old.bin');
    expect(Buffer.from(await back.arrayBuffer()).equals(contents)).toBe(true);
  });

  it('are refused where they are not what was hashed, or the hash is none', async () => {
    const [job, id] = [await openJob(), randomUUID()];
    const changed = await send(job, id, hashOf(Buffer.from('other')));
    expect(changed.status).toBe(400);
    expect(await changed.text()).toContain('changed on their way');
    expect((await send(job, id, 'abc')).status).toBe(400);
    expect((await send(randomUUID(), id, hashOf(contents))).status).toBe(404);
    expect((await fetch(base + api.attachmentFile(id))).status).toBe(404);
  });

  it('beyond the largest flash are refused', async () => {
    const large = Buffer.alloc(largestFirmwareBytes + 1);
    const refused = await send(await openJob(), randomUUID(), hashOf(large), large);
    expect(refused.status).toBe(413);
    expect(((await refused.json()) as { detail: string }).detail).toContain('64 MB');
  });
});

describe('the look of a board', () => {
  const photo = jpeg(500);
  const send = (id: string, side: string, board = 'beck-mini'): Promise<Response> => {
    const form = new FormData();
    form.append('id', id);
    form.append('side', side);
    form.append('file', new Blob([new Uint8Array(photo)]), 'side.jpg');
    return fetch(base + api.boardPictures(board), { method: 'POST', body: form });
  };
  const put = (places: unknown[], board = 'beck-mini'): Promise<Response> =>
    fetch(base + api.places(board), {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ places }),
    });
  const place = (ref: string, frame: string, u: number | null) => ({
    ref,
    frame,
    at: u === null ? null : { side: 'top', u, v: 0.5 },
    who: 'Bench 1',
  });
  type Look = { pictures: { id: string; side: string }[]; places: { ref: string; at: object }[] };
  const look = async () => (await (await fetch(base + api.look('beck-mini'))).json()) as Look;

  it('is the newest picture of each side with its places, shared by all', async () => {
    const [old, top, bottom] = [randomUUID(), randomUUID(), randomUUID()];
    expect((await send(old, 'top')).status).toBe(201);
    expect((await put([place('R1', old, 0.1), place('U1', 'drawn', 0.2)])).status).toBe(200);
    expect((await send(top, 'top')).status).toBe(201);
    expect((await send(bottom, 'bottom')).status).toBe(201);
    expect((await look()).pictures.map((one) => one.id).sort()).toEqual([top, bottom].sort());
    // Placed on a picture that is not shown any more.
    expect((await look()).places.map((one) => one.ref)).toEqual(['U1']);
    const back = await fetch(base + api.boardPicture(top));
    expect(Buffer.from(await back.arrayBuffer()).equals(photo)).toBe(true);
  });

  it('a new photo keeps the old one with its parts, and can be taken back', async () => {
    const [old, newer] = [randomUUID(), randomUUID()];
    await send(old, 'top');
    await put([place('R2', old, 0.4)]);
    await send(newer, 'top');
    const back = await fetch(base + api.boardPicture(newer), { method: 'DELETE' });
    const { pictures, places } = (await back.json()) as Look;
    expect(pictures.find((one) => one.side === 'top')?.id).toBe(old);
    expect(places.find((one) => one.ref === 'R2')?.at).toMatchObject({ u: 0.4 });
    // It is not shown any more, and not gone either.
    expect((await fetch(base + api.boardPicture(newer))).status).toBe(200);
    expect((await fetch(base + api.boardPicture(randomUUID()), { method: 'DELETE' })).status).toBe(
      404,
    );
  });

  it('moves a part placed again, and takes one off', async () => {
    await put([place('U9', 'drawn', 0.3), place('U8', 'drawn', 0.3)]);
    const moved = await put([place('U9', 'drawn', 0.8), place('U8', 'drawn', null)]);
    const { places } = (await moved.json()) as Look;
    expect(places.find((one) => one.ref === 'U9')?.at).toMatchObject({ u: 0.8 });
    expect(places.some((one) => one.ref === 'U8')).toBe(false);
  });

  it('refuses places off the picture, on a replaced one, and boards nobody knows', async () => {
    expect((await put([place('U1', 'drawn', 1.2)])).status).toBe(400);
    const replaced = await put([place('U1', randomUUID(), 0.2)]);
    expect(replaced.status).toBe(409);
    expect((await put([place('U1', 'drawn', 0.2)], 'no-board')).status).toBe(404);
    expect((await send(randomUUID(), 'top', 'no-board')).status).toBe(404);
    expect((await send(randomUUID(), 'front')).status).toBe(400);
    expect((await fetch(base + api.look('no-board'))).status).toBe(404);
  });
});

describe('what closed jobs teach of a board', () => {
  it('names the parts proven jobs were mended at; open jobs and other boards teach nothing', async () => {
    const close: EventBody = {
      type: 'close',
      outcome: 'repaired',
      cause: '',
      proof: 'proven',
      reason: '',
    };
    const mended = (part: string): EventBody => ({
      type: 'repair',
      action: 'replaced',
      parts: [part],
      text: '',
    });
    const closed = await openJob();
    await post(api.events(closed), { events: [event(mended('R4')), event(close)] });
    const open = await openJob();
    await post(api.events(open), { events: [event(mended('R2'))] });
    const habits = (await (await fetch(base + api.habits('beck-mini'))).json()) as unknown[];
    expect(habits).toEqual([{ part: 'R4', times: 1 }]);
    expect(await (await fetch(base + api.habits('nowhere'))).json()).toEqual([]);
  });

  it('teaches other boards of its scheme by the place a part has in it, and boards of another nothing', async () => {
    const scheme = 'adapter / pfet / controller';
    const id = await openJob();
    const close: EventBody = {
      type: 'close',
      outcome: 'fixed',
      cause: 'the main fuse',
      proof: 'proven',
      reason: '',
      parts: ['R6'],
      how: 'open',
      scheme,
      roles: ['fuse at main'],
    };
    await post(api.events(id), { events: [event(close)] });
    const of = async (board: string, asked?: string): Promise<unknown> =>
      (await fetch(base + api.habits(board, asked))).json();
    const lesson = { role: 'fuse at main', times: 1, how: 'open' };
    expect(await of('fell-13', scheme)).toEqual([lesson]);
    expect(await of('fell-13', 'usb-c / nfet / pd')).toEqual([]);
    expect(await of('fell-13')).toEqual([]);
    // On its own board it counts by its part alone.
    const own = await of('beck-mini', scheme);
    expect(own).toContainEqual({ part: 'R6', times: 1, how: 'open' });
    expect(own).not.toContainEqual(lesson);
    await post(api.events(id), { events: [event({ type: 'lesson', counts: false, reason: '' })] });
    expect(await of('fell-13', scheme)).toEqual([]);
  });

  it('a closed job still takes that it was taken out, and then teaches nothing', async () => {
    const before = await habitTimes('R3');
    const id = await openJob();
    const close: EventBody = {
      type: 'close',
      outcome: 'fixed',
      cause: 'R3',
      proof: 'supported',
      reason: '',
      parts: ['R3'],
    };
    await post(api.events(id), { events: [event(close)] });
    expect(await habitTimes('R3')).toBe(before + 1);
    const out = await post(api.events(id), {
      events: [event({ type: 'lesson', counts: false, reason: 'came back' })],
    });
    expect(out.status).toBe(201);
    expect(await habitTimes('R3')).toBe(before);
    const back = await post(api.events(id), { events: [event({ type: 'handed-over', text: '' })] });
    expect(back.status).toBe(201);
    const reading = await post(api.events(id), {
      events: [event({ type: 'note', text: 'too late' })],
    });
    expect(reading.status).toBe(409);
  });

  it('tells what closed jobs left: where they ended, and what good ones read', async () => {
    const id = await openJob();
    const read = plainReading('5V_SB', 'ohms', 'cold', {
      kind: 'number',
      value: 420,
      trend: 'steady',
    });
    await post(api.events(id), {
      events: [
        event({ type: 'reading', reading: read, supersedes: [] }),
        event({
          type: 'close',
          outcome: 'fixed',
          cause: 'R1',
          proof: 'proven',
          reason: '',
          parts: ['R1'],
        }),
      ],
    });
    const history = boardHistorySchema.parse(
      await (await fetch(base + api.history('beck-mini'))).json(),
    );
    expect(history.lessons.find((one) => one.job === id)).toMatchObject({
      outcome: 'fixed',
      proof: 'proven',
      parts: ['R1'],
      teaches: true,
    });
    expect(history.known.find((one) => one.net === '5V_SB' && one.mode === 'ohms')).toMatchObject({
      median: 420,
      count: 1,
    });
    expect(
      boardHistorySchema.parse(await (await fetch(base + api.history('nowhere'))).json()),
    ).toEqual({ lessons: [], known: [] });
  });

  const habitTimes = async (part: string): Promise<number> => {
    const habits = (await (await fetch(base + api.habits('beck-mini'))).json()) as {
      part: string;
      times: number;
    }[];
    return habits.find((one) => one.part === part)?.times ?? 0;
  };
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
