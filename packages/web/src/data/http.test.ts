import { afterEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { request, RequestTrouble } from './http.ts';

const schema = z.object({ ok: z.boolean() });
const answer = (status: number, body: unknown): unknown =>
  vi.stubGlobal('fetch', () =>
    Promise.resolve(
      new Response(typeof body === 'string' ? body : JSON.stringify(body), { status }),
    ),
  );
const trouble = async (...more: unknown[]): Promise<RequestTrouble> => {
  const asked = request(schema, '/api/x', ...(more as []));
  const error = await asked.then(
    () => null,
    (one: unknown) => one,
  );
  expect(error).toBeInstanceOf(RequestTrouble);
  return error as RequestTrouble;
};
afterEach(() => void vi.unstubAllGlobals());

describe('an answer that is none', () => {
  it('busy: the words of the server, and worth sending again', async () => {
    const problem = {
      type: 'about:blank',
      title: 'The database cannot be reached',
      status: 503,
      detail: 'It is safe to send it again.',
    };
    answer(503, problem);
    const found = await trouble();
    expect(found).toMatchObject({ kind: 'refused', problem, isPassing: true });
    expect(found.message).toBe('The database cannot be reached. It is safe to send it again.');
  });
  it('one that cannot be read: what of it, not that nobody answered', async () => {
    answer(200, { ok: 'yes' });
    const found = await trouble();
    expect(found.kind).toBe('unexpected');
    expect(found.message).toContain('ok: ');
    expect(found.isPassing).toBe(true);
    answer(200, '<html>');
    expect((await trouble()).kind).toBe('unexpected');
  });
  it('refused: not worth sending again', async () => {
    answer(409, { type: 'about:blank', title: 'Changed meanwhile', status: 409 });
    expect(await trouble()).toMatchObject({ kind: 'refused', isPassing: false });
    answer(400, 'no words');
    expect((await trouble()).message).toContain('no answer it should');
  });
  it('nobody answers', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('failed')));
    expect(await trouble()).toMatchObject({ kind: 'no-answer', problem: null, isPassing: true });
  });
  it('with another status it is read where that is asked for', async () => {
    answer(503, { ok: false });
    expect(await request(schema, '/api/health', { alsoRead: [503] })).toEqual({ ok: false });
    expect((await trouble()).kind).toBe('refused');
  });
});
