import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, largestAttachmentBytes, largestFirmwareBytes } from '@jiko/contract';
import { jpeg, png, startBench, type TestBench } from '../../test/test-server.ts';

let bench: TestBench;
let base: string;
beforeAll(async () => {
  bench = await startBench();
  ({ base } = bench);
});
afterAll(() => bench.end());
const openJob = () => bench.openJob();

/** What is too large is refused before all of it was sent: nobody else is to go on with that connection. */
const ownConnection = { connection: 'close' };

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
    return fetch(base + api.jobAttachments(job), {
      method: 'POST',
      body: form,
      headers: ownConnection,
    });
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
    return fetch(base + api.jobFirmware(job), {
      method: 'POST',
      body: form,
      headers: ownConnection,
    });
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
