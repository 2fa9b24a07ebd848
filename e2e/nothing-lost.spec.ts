import { readFile } from 'node:fs/promises';
import { test as ofItsOwn } from '@playwright/test';
import { expect, long, test } from './page.ts';
import { entry, openJob, setPhase } from './bench.ts';

test('what is recorded while the server is away waits, over a reload, and is sent later', async ({
  page,
  context,
}) => {
  await openJob(page, 'Cairn', 'Cairn 14, cut off');
  await setPhase(page, 'Standby');
  const rows = page.locator('.readings tbody tr');
  await entry(page).fill('19.5');
  await entry(page).press('Enter');
  await expect(rows).toHaveCount(1);
  await expect(page.locator('.notice')).toHaveCount(0);

  await context.route('**/api/jobs/*/events', (route) => route.abort());
  await context.route('**/api/health', (route) => route.abort());
  await entry(page).fill('19.4');
  await entry(page).press('Enter');
  await expect(rows).toHaveCount(2);
  await expect(page.locator('.notice')).toContainText('cannot be reached. 1 entry waits');
  await page.reload();
  await expect(rows).toHaveCount(2);
  await expect(page.locator('.notice')).toContainText('1 entry waits');

  await context.unrouteAll();
  await expect(page.locator('.notice')).toHaveCount(0, { timeout: 15_000 });
  await page.reload();
  await expect(rows).toHaveCount(2);
});

test(
  'what is soon sent shows nothing; what takes long is said below, and nothing moves',
  long,
  async ({ page }) => {
    await openJob(page, 'Beck', 'Beck mini, slow line');
    await setPhase(page, 'Standby');
    let seconds = 1;
    await page.route('**/api/jobs/*/events', async (route) => {
      await new Promise((done) => setTimeout(done, seconds * 1000));
      await route.continue();
    });
    const top = async (): Promise<number> => (await page.locator('main.page').boundingBox())!.y;
    const before = await top();
    let seen = 0;
    await page.exposeFunction('noticed', () => seen++);
    await page.evaluate(() => {
      const look = (): void => {
        if (document.querySelector('.notice')) (window as unknown as { noticed(): void }).noticed();
      };
      new MutationObserver(look).observe(document.body, { childList: true, subtree: true });
    });
    const taken = page.waitForResponse((one) => one.url().endsWith('/events') && one.ok());
    await entry(page).fill('12');
    await entry(page).press('Enter');
    await taken;
    expect(seen).toBe(0);

    seconds = 4;
    await entry(page).fill('12.1');
    await entry(page).press('Enter');
    await expect(page.locator('.notice')).toHaveText('Sending 1 entry.');
    expect(await top()).toBe(before);
    await expect(page.locator('.notice')).toHaveCount(0, { timeout: 15_000 });
  },
);

test(
  'an entry the server refuses is said and kept, and holds nothing else up',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, refused');
    await setPhase(page, 'Standby');
    const rows = page.locator('.readings tbody tr');
    await page.route('**/api/jobs/*/events', async (route) => {
      const bad = route.request().postData()?.includes('"value":11.5') ?? false;
      if (!bad) return route.continue();
      return route.fulfill({
        status: 400,
        contentType: 'application/problem+json',
        body: JSON.stringify({ type: 'about:blank', title: 'Made to refuse', status: 400 }),
      });
    });
    await entry(page).fill('11.5');
    await entry(page).press('Enter');
    await expect(page.locator('.notice')).toContainText(
      'refused an entry (reading): Made to refuse',
    );
    await entry(page).fill('19.5');
    await entry(page).press('Enter');
    await expect(rows).toHaveCount(1);
    await page.reload();
    await expect(rows).toHaveCount(1);
    await expect(page.locator('.notice')).toContainText('Made to refuse');
    // Kept as a file, mended, or let go: only knowingly.
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as a file' }).click();
    const saved = JSON.parse(await readFile(await (await download).path(), 'utf8')) as {
      entry: { event: { body: { type: string } } };
      words: string;
    }[];
    expect(saved[0]?.entry.event.body.type).toBe('reading');
    expect(saved[0]?.words).toContain('Made to refuse');
    await page.getByRole('button', { name: 'Mend' }).click();
    const text = page.getByLabel('The entry');
    await text.fill((await text.inputValue()).replace('11.5', '"eleven"'));
    await expect(page.getByRole('button', { name: 'Send it again' })).toBeDisabled();
    await text.fill((await text.inputValue()).replace('"eleven"', '12.5'));
    await page.getByRole('button', { name: 'Send it again' }).click();
    await expect(page.locator('.notice')).toHaveCount(0);
    await expect(rows).toHaveCount(2);
    await expect(rows.filter({ hasText: '12.5 V' })).toHaveCount(1);
    await entry(page).fill('11.5');
    await entry(page).press('Enter');
    await page.getByRole('button', { name: 'Let it go' }).click();
    await expect(page.locator('.notice')).toHaveCount(1);
    await page.getByRole('button', { name: 'It is gone then: really?' }).click();
    await expect(page.locator('.notice')).toHaveCount(0);
  },
);

test(
  'two tabs: what one cannot send the other does, also when the first is closed',
  long,
  async ({ page, context }) => {
    await openJob(page, 'Cairn', 'Cairn 14, two tabs');
    await setPhase(page, 'Standby');
    const address = page.url();
    await page.route('**/api/jobs/*/events', (route) => route.abort());
    await page.route('**/api/health', (route) => route.abort());
    await entry(page).fill('19.5');
    await entry(page).press('Enter');
    await expect(page.locator('.notice')).toContainText('1 entry waits');
    await page.close();
    const other = await context.newPage();
    await other.goto(address);
    await expect(other.locator('.readings tbody tr')).toHaveCount(1);
    await expect(other.locator('.notice')).toHaveCount(0);
    await other.evaluate(() => localStorage.clear());
    await other.reload();
    await expect(other.locator('.readings tbody tr')).toHaveCount(1);
  },
);

test('a browser without room says so, and sends all the same', long, async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14, no room');
  await setPhase(page, 'Standby');
  await page.evaluate(() => {
    for (let size = 1 << 20; size > 0; size >>= 1)
      for (let at = 0; ; at++) {
        try {
          localStorage.setItem(`filler ${size} ${at}`, 'x'.repeat(size));
        } catch {
          break;
        }
      }
  });
  await page.route('**/api/jobs/*/events', (route) => route.abort());
  await entry(page).fill('19.5');
  await entry(page).press('Enter');
  await expect(page.locator('.notice').first()).toContainText('1 entry is in this page only');
  await page.unrouteAll();
  await expect(page.locator('.notice')).toHaveCount(0, { timeout: 20_000 });
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await expect(page.locator('.readings tbody tr')).toHaveCount(1);
});

test('a job is closed with its cause, takes nothing by mistake, and is opened again', async ({
  page,
}) => {
  await openJob(page, 'Beck', 'Beck mini, to be closed');
  await page.getByRole('link', { name: 'Repair' }).click();
  const panel = page.getByLabel('Close the job');
  await panel.getByRole('button', { name: 'Close the job' }).click();
  await expect(panel).toContainText('Say how it ends');
  await panel.getByText('declined by the owner').click();
  await panel.getByRole('button', { name: 'Close the job' }).click();
  await expect(panel).toContainText('Say why it ends so');
  await panel.getByLabel('Why it ends so').fill('too dear for its age');
  await panel.getByRole('button', { name: 'Close the job' }).click();
  await expect(panel).toContainText('This job is closed');
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.locator('article')).toContainText('Outcome: declined.');
  await expect(page.locator('article')).toContainText('too dear for its age');

  // A reading typed all the same is refused with what helps, and kept.
  await page.getByRole('link', { name: 'Trace' }).click();
  await setPhase(page, 'Standby');
  await entry(page).fill('12');
  await entry(page).press('Enter');
  await expect(page.locator('.notice')).toContainText('reopen the job first');
  await page.getByRole('link', { name: 'Repair' }).click();
  await panel.getByLabel('Why it is opened again').fill('the owner pays');
  await panel.getByRole('button', { name: 'Open it again' }).click();
  await expect(panel).toContainText('Close this job');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.locator('.notice')).toHaveCount(0);
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.locator('article')).toContainText('by Bench 1, the owner pays');
});

test('the shop: a backup on request that reads back, and a job taken in from a file', async ({
  page,
}) => {
  await openJob(page, 'Beck', 'Beck mini, as a file');
  await page.getByRole('link', { name: 'Repair' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Save the job as a file' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/^jiko-beck-mini-as-a-file-[0-9a-f]{8}\.zip$/);

  await page.getByRole('link', { name: '← Jobs' }).click();
  await page.getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('button', { name: 'Back up now' }).click();
  const backups = page.getByLabel('Backups');
  await expect(backups).toContainText('read back whole', { timeout: 60_000 });
  await expect(backups.locator('tbody tr')).toHaveCount(1);

  await page.getByLabel('Job file').setInputFiles(await file.path());
  await expect(page.getByText('It is here already, unchanged')).toBeVisible();
  await page.getByLabel('Job file').setInputFiles({
    name: 'x.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('no zip'),
  });
  await expect(page.getByText('This is no job file')).toBeVisible();
});

ofItsOwn.describe('with the server away', () => {
  ofItsOwn.use({ serviceWorkers: 'allow' });
  ofItsOwn(
    'a reload still opens what was open, says so, and records',
    long,
    async ({ page, context }) => {
      await openJob(page, 'Beck', 'Beck mini, no server');
      await setPhase(page, 'Standby');
      await page.evaluate(() => navigator.serviceWorker.ready);
      // Once with the worker in place, so that it has seen the answers.
      await page.reload();
      const taken = page.waitForResponse((one) => one.url().endsWith('/events') && one.ok());
      await entry(page).fill('12');
      await entry(page).press('Enter');
      const rows = page.locator('.readings tbody tr');
      await expect(rows).toHaveCount(1);
      // Sent, and not asked for again since: it is there after the reload all the same.
      await taken;
      await expect
        .poll(() =>
          page.evaluate(() =>
            Object.keys(localStorage).filter((key) => key.startsWith('jiko-outbox ')),
          ),
        )
        .toEqual([]);

      await context.setOffline(true);
      await page.reload();
      await expect(rows).toHaveCount(1);
      await expect(page.locator('.notice')).toContainText('The server cannot be reached');
      await entry(page).fill('5');
      await entry(page).press('Enter');
      await expect(rows).toHaveCount(2);
      await expect(page.locator('.notice')).toContainText('1 entry waits');
      await context.setOffline(false);
      await expect(page.locator('.notice')).toHaveCount(0, { timeout: 30_000 });

      // What is erased is not kept for such a reload either, nor are its pictures.
      const picture = await page.evaluate(pictureOfThisJob);
      await page.reload();
      const kept = () =>
        page.evaluate(async () => {
          const cache = await caches.open('jiko-answers');
          const answers = await Promise.all(
            (await cache.keys()).map(async (one) => {
              const text = /json/.test((await cache.match(one))?.headers.get('Content-Type') ?? '')
                ? await (await cache.match(one))!.text()
                : '';
              return `${new URL(one.url).pathname} ${text}`;
            }),
          );
          return answers.join('\n');
        });
      expect(await page.evaluate(async (id) => (await fetch(id)).status, picture)).toBe(200);
      await expect.poll(kept).toContain(picture);
      await page.getByRole('link', { name: 'Repair' }).click();
      await page.getByRole('button', { name: "Erase the customer's words" }).click();
      await page.getByRole('button', { name: 'Take them out' }).click();
      await expect(page.getByText(/words were taken out on/)).toBeVisible();
      await expect.poll(kept).not.toContain('no server');
      expect(await kept()).not.toContain(picture);
      expect(await page.evaluate(async (id) => (await fetch(id)).status, picture)).toBe(404);
    },
  );

  /** Adds a picture to the job of the page as the page would; its address. */
  async function pictureOfThisJob(): Promise<string> {
    const job = location.pathname.split('/')[2];
    const canvas = document.createElement('canvas');
    const blob = await new Promise<Blob>((done) => canvas.toBlob((one) => done(one!)));
    const id = crypto.randomUUID();
    const form = new FormData();
    form.append('id', id);
    form.append('file', blob, 'board.png');
    const sent = await fetch(`/api/jobs/${job}/attachments`, { method: 'POST', body: form });
    const at = new Date().toISOString();
    const body = { type: 'picture', attachment: id, caption: 'of no server' };
    const headers = { 'Content-Type': 'application/json' };
    const said = await fetch(`/api/jobs/${job}/events`, {
      method: 'POST',
      headers,
      body: JSON.stringify({ events: [{ id: crypto.randomUUID(), who: 'Bench 1', at, body }] }),
    });
    if (!sent.ok || !said.ok) throw new Error(`${sent.status} ${said.status}`);
    return `/api/attachments/${id}`;
  }
});
