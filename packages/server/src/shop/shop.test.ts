import { describe, expect, it } from 'vitest';
import { makeShop, warningsOf, type BackupFolder } from './shop.ts';

const now = new Date('2026-11-26T10:00:00Z');
const hoursAgo = (hours: number) => ({
  name: 'jiko-2026-11-25.backup',
  bytes: 5e6,
  at: new Date(now.getTime() - hours * 3_600_000).toISOString(),
});
const roomy = 50e9;
const demo = { remove: () => Promise.resolve(), state: () => Promise.resolve('left-out' as const) };

describe('warnings of the shop', () => {
  it.each([
    ['a fresh backup and room', [hoursAgo(10)], roomy, 0],
    ['none yet', [], roomy, 0],
    ['a backup of the day before', [hoursAgo(35)], roomy, 0],
    ['one older than a day and a half', [hoursAgo(37)], roomy, 1],
    ['just under a gigabyte', [hoursAgo(1)], 1024 ** 3 - 1, 1],
    ['a gigabyte', [hoursAgo(1)], 1024 ** 3, 0],
    ['less room than three backups need', [{ ...hoursAgo(1), bytes: 20e9 }], roomy, 1],
  ] as const)('%s', (_what, backups, free, count) => {
    expect(warningsOf([...backups], null, free, now)).toHaveLength(count);
  });
  it('those of a wrong clock count for nothing, and are told of', () => {
    const told = warningsOf([hoursAgo(-24 * 365), hoursAgo(40)], null, roomy, now);
    expect(told).toHaveLength(2);
    expect(told.join()).toMatch(/dated in the future.*more than a day old/);
  });
  it('none at all is told once one was tried, and one that takes long', () => {
    const last = { at: now.toISOString(), ok: true, words: '' };
    expect(warningsOf([], last, roomy, now)).toEqual(['There is no daily backup.']);
    const since = new Date(now.getTime() - 61_000);
    expect(warningsOf([hoursAgo(1)], last, roomy, now, since)).toEqual([
      'A backup has been at work since 09:58 UTC.',
    ]);
  });
  it('a backup that failed comes first, in its own words', () => {
    const last = { at: now.toISOString(), ok: false, words: 'no space left on device' };
    expect(warningsOf([hoursAgo(40)], last, 1, now)[0]).toContain('no space left on device');
  });
});

describe('the daily backup', () => {
  const place = (
    list: ReturnType<typeof hoursAgo>[],
    make: BackupFolder['make'],
  ): BackupFolder => ({
    folder: '/data',
    list: () => Promise.resolve(list),
    make,
    stop: () => undefined,
    freeBytes: () => Promise.resolve(roomy),
  });
  it('is taken where the last is a day old or there is none, and not before', async () => {
    for (const [list, wanted] of [
      [[], 1],
      [[hoursAgo(25)], 1],
      [[hoursAgo(23)], 0],
      // One of a wrong clock does not stand for today's.
      [[hoursAgo(-24 * 365), hoursAgo(25)], 1],
      [[hoursAgo(-24 * 365), hoursAgo(23)], 0],
    ] as const) {
      let made = 0;
      const shop = makeShop(
        place([...list], () => Promise.resolve(String(++made))),
        demo,
        () => now,
      );
      await shop.keepDaily();
      expect(made).toBe(wanted);
    }
  });
  it('is only believed once its file is there', async () => {
    const shop = makeShop(
      place([hoursAgo(30)], () => Promise.resolve('read back whole')),
      demo,
      () => now,
    );
    await shop.backUp();
    expect((await shop.look()).last).toMatchObject({ ok: false });
    const files: ReturnType<typeof hoursAgo>[] = [];
    const honest = makeShop(
      place(files, () => {
        files.push(hoursAgo(0));
        return Promise.resolve('read back whole');
      }),
      demo,
      () => now,
    );
    await honest.backUp();
    expect((await honest.look()).last).toMatchObject({ ok: true });
  });
  it('asked for twice at once is taken once, and its failure is said', async () => {
    let made = 0;
    const shop = makeShop(
      place([], async () => {
        made++;
        await new Promise((done) => setTimeout(done, 20));
        throw new Error('the disk is full');
      }),
      demo,
      () => now,
    );
    await Promise.all([shop.keepDaily(), shop.backUp()]);
    expect(made).toBe(1);
    const { last, warnings } = await shop.look();
    expect(last).toMatchObject({ ok: false, words: 'the disk is full' });
    expect(warnings[0]).toContain('the disk is full');
  });
  it('of a database kept elsewhere is not ours to take', async () => {
    const shop = makeShop(null, demo, () => now);
    expect(await shop.backUp()).toMatchObject({ ok: false, problem: { status: 409 } });
    await shop.keepDaily();
    expect(await shop.look()).toMatchObject({ folder: null, last: null, warnings: [] });
  });
});
