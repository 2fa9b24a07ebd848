import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { api, boardHistorySchema } from '@jiko/contract';
import { plainReading } from '@jiko/testing';
import type { EventBody } from '@jiko/core/record';
import { event, startBench, type TestBench } from '../../test/test-server.ts';

let bench: TestBench;
let base: string;
beforeAll(async () => {
  bench = await startBench();
  ({ base } = bench);
});
afterAll(() => bench.end());
const post = (path: string, body: unknown) => bench.post(path, body);
const openJob = () => bench.openJob();

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

describe('what a job teaches is kept beside it', () => {
  const closing: EventBody = {
    type: 'close',
    outcome: 'fixed',
    cause: 'the coil',
    proof: 'proven',
    reason: '',
    parts: ['R1'],
  };
  const habits = async (): Promise<{ part: string; times: number }[]> =>
    (await (await fetch(base + api.habits('beck-mini'))).json()) as never;
  const timesOf = async (part: string): Promise<number> =>
    (await habits()).find((one) => one.part === part)?.times ?? 0;

  it('and follows at once when it is closed, opened again, taken out, and its closing struck', async () => {
    const id = await openJob();
    const before = await timesOf('R1');
    const add = async (body: EventBody): Promise<string> => {
      const one = event(body);
      expect((await post(api.events(id), { events: [one] })).ok).toBe(true);
      return one.id;
    };
    const close = await add(closing);
    expect(await timesOf('R1')).toBe(before + 1);
    await add({ type: 'lesson', counts: false, reason: 'came back' });
    expect(await timesOf('R1')).toBe(before);
    await add({ type: 'lesson', counts: true, reason: '' });
    expect(await timesOf('R1')).toBe(before + 1);
    await add({ type: 'strike', event: close, reason: 'taken back' });
    expect(await timesOf('R1')).toBe(before);
    await add(closing);
    expect(await timesOf('R1')).toBe(before + 1);
    await add({ type: 'reopen', reason: 'not it' });
    expect(await timesOf('R1')).toBe(before);
  });

  it('holds no word of the customer once they were taken out', async () => {
    const id = await openJob();
    await post(api.events(id), { events: [event(closing)] });
    const history = async (): Promise<string> =>
      (await fetch(base + api.history('beck-mini'))).text();
    const device = (
      (await (await fetch(base + api.history('beck-mini'))).json()) as {
        lessons: { job: string; device: string }[];
      }
    ).lessons.find((one) => one.job === id)!.device;
    expect(device).not.toBe('');
    const erased = await post(api.erase(id), { event: event({ type: 'erased', reason: '' }) });
    expect(erased.ok, await erased.text()).toBe(true);
    const after = JSON.parse(await history()) as { lessons: { job: string; device: string }[] };
    expect(after.lessons.find((one) => one.job === id)?.device).not.toBe(device);
  });
});
