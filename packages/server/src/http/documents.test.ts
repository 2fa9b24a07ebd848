import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, boardDocumentsSchema, documentPagesSchema, type BoardDocument } from '@jiko/contract';
import { bomb, manyPages, onePage } from '@jiko/testing/strange-files';
import { readPdfAside } from '../boards/pdf-reader.ts';
import { schematic, startBench, type TestBench } from '../../test/test-server.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await startBench();
});
afterAll(() => bench.end());

function send(
  content: Buffer,
  more: Record<string, string> = {},
  board = 'beck-mini',
  name = 'board <b>1.pdf',
) {
  const form = new FormData();
  const fields = { id: randomUUID(), kind: 'schematic', ...more };
  for (const [field, value] of Object.entries(fields)) form.append(field, value);
  form.append('file', new Blob([new Uint8Array(content)]), name);
  return fetch(`${bench.base}${api.documents(board)}`, { method: 'POST', body: form });
}
const list = async (): Promise<BoardDocument[]> =>
  boardDocumentsSchema.parse(
    await (await fetch(`${bench.base}${api.documents('beck-mini')}`)).json(),
  );

describe('documents of a board', () => {
  it('are kept byte for byte with what was read of them, and shown no more when taken back', async () => {
    const file = schematic('fell-13');
    const sent = await send(file);
    expect(sent.status).toBe(201);
    const row = (await sent.json()) as BoardDocument;
    expect(row).toMatchObject({ kind: 'schematic', name: 'board <b>1.pdf', bytes: file.length });
    expect(row.pagesWithText).toBe(row.pages);
    const back = await fetch(`${bench.base}${api.document(row.id)}`);
    expect(Buffer.from(await back.arrayBuffer()).equals(file)).toBe(true);
    expect(back.headers.get('content-disposition')).toBe('attachment');
    const pages = documentPagesSchema.parse(
      await (await fetch(`${bench.base}${api.documentPages(row.id)}`)).json(),
    );
    expect(pages).toHaveLength(row.pages);
    expect(pages[3]?.wires.length).toBeGreaterThan(5);
    expect(await list()).toEqual([row]);
    await fetch(`${bench.base}${api.document(row.id)}`, { method: 'DELETE' });
    expect(await list()).toEqual([]);
  });

  it('whose letters hold what no database keeps are taken without it, by their name as it is', async () => {
    const sent = await send(onePage('PLT\\000RST#'), {}, 'beck-mini', 'Größe 1.pdf');
    expect(sent.status).toBe(201);
    const row = (await sent.json()) as BoardDocument;
    expect(row.name).toBe('Größe 1.pdf');
    const pages = await (await fetch(`${bench.base}${api.documentPages(row.id)}`)).text();
    expect(pages).toContain('PLT');
    expect(pages).not.toContain('\\u0000');
    await fetch(`${bench.base}${api.document(row.id)}`, { method: 'DELETE' });
  });

  it('sent twice are there once; another under the same id is refused', async () => {
    const id = randomUUID();
    expect((await send(onePage('A1V8'), { id })).status).toBe(201);
    expect((await send(onePage('A1V8'), { id })).status).toBe(201);
    expect((await send(onePage('B1V8'), { id })).status).toBe(409);
    expect((await list()).filter((one) => one.id === id)).toHaveLength(1);
  });

  it('that are none are refused in words, and nothing is kept of them', async () => {
    const before = (await list()).length;
    const refused = async (content: Buffer, more = {}, board = 'beck-mini') => {
      const answer = await send(content, more, board);
      const { title, detail } = (await answer.json()) as { title: string; detail?: string };
      return `${answer.status} ${title} ${detail ?? ''}`;
    };
    expect(await refused(Buffer.from('hello'))).toMatch(/^415 .*is no PDF\. Nothing was stored/);
    expect(await refused(onePage('X').subarray(0, 300))).toMatch(/^415 .*broken beyond reading/);
    expect(await refused(manyPages(5000))).toMatch(/^415 .*has 5000 pages: at most 1000/);
    expect(await refused(onePage('X'), { kind: 'novel' })).toMatch(/^400 The request is not valid/);
    expect(await refused(onePage('X'), {}, 'nowhere')).toMatch(/^404 No such board/);
    expect(await refused(Buffer.alloc(65 * 1024 * 1024))).toMatch(/^413 .*At most 64 MB/);
    expect(await list()).toHaveLength(before);
  });

  it('that unpack to too much or take too long are given up, and the server answers on', async () => {
    const slow = readPdfAside(bomb(60_000_000), 0.5);
    const health = await fetch(`${bench.base}${api.health}`);
    expect(health.status).toBe(200);
    expect(await slow).toEqual({ ok: false, why: 'takes longer than 0.5 s to read.' });
    expect(await readPdfAside(bomb(200_000_000), 60, 50_000_000)).toEqual({
      ok: false,
      why: 'takes more memory than a schematic may.',
    });
    // One that cannot even be handed to a thread fails for itself alone.
    const gone = new Uint8Array(8);
    structuredClone(gone, { transfer: [gone.buffer] });
    await expect(readPdfAside(gone, 1)).rejects.toThrow();
    // A thread that waited is used again.
    for (let at = 0; at < 3; at++) expect((await readPdfAside(onePage('well'), 60)).ok).toBe(true);
  });
});
