import { writeFileSync } from 'node:fs';
import { expect, long, test } from './page.ts';
import { entry, openJob, setPhase } from './bench.ts';
import { sheetText } from './hidden-board.ts';

test('bad readings get a clear message, stay in the line and record nothing', async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14, bad input');
  await setPhase(page, 'Standby');
  await entry(page).fill('19.5');
  await entry(page).press('Enter');
  const rows = page.locator('.readings tbody tr');
  await expect(rows).toHaveCount(1);
  const echo = page.locator('.echo');

  const refuse = async (text: string, words: string): Promise<void> => {
    await entry(page).fill(text);
    await entry(page).press('Enter');
    await expect(echo).toContainText(words);
    await expect(echo).toContainText('Nothing was recorded');
    await expect(entry(page)).toHaveValue(text);
    await expect(rows).toHaveCount(1);
  };
  await refuse('3.3furlong', '"furlong" is not a unit of volts');
  await refuse('12..5', 'is not a value');

  // 500 V on the 3.3 V rail: asked for once, and taken if it is true.
  await page.getByRole('button', { name: /3.3 V always on/ }).click();
  await entry(page).fill('500');
  await entry(page).press('Enter');
  await expect(echo).toContainText('500 V is far above the highest volts of this board');
  await expect(echo).toContainText('3V3_ALW is a 3.3 V net');
  await expect(echo).toContainText('Enter again writes it down.');
  await expect(entry(page)).toHaveValue('500');
  await expect(rows).toHaveCount(1);
  await entry(page).press('Escape');

  // Ohms: only cold, never negative, and m is asked about.
  await page.getByLabel('Probe', { exact: true }).getByText('Ω', { exact: true }).click();
  await entry(page).fill('470');
  await entry(page).press('Enter');
  await expect(echo).toContainText('Source off, battery unplugged? Enter again');
  await expect(rows).toHaveCount(1);
  await setPhase(page, 'Cold');
  await refuse('-5', 'Ohms cannot be negative');
  await refuse('10m', 'could be');

  // What was typed outlives a reload.
  await page.reload();
  await expect(entry(page)).toHaveValue('10m');
  await expect(rows).toHaveCount(1);
});

test('a broken sheet is refused with its lines, a good one is taken', async ({ page }) => {
  await page.goto('/boards');
  const load = (name: string, text: string) =>
    page
      .locator('input[type=file]')
      .setInputFiles({ name, mimeType: 'text/yaml', buffer: Buffer.from(text) });
  const sheet = sheetText('beck-mini')
    .replace('id: beck-mini', 'id: beck-test')
    .replace('title: Beck mini', 'title: Beck test');

  await load('broken.yaml', sheet.replace('feed: 12V_IN, limit: 4', 'feed: 12V_INN, limit: 4'));
  await expect(page.getByRole('alert')).toContainText(/Line \d+: .*12V_INN/);
  await load('broken.yaml', 'nets: [unclosed');
  await expect(page.getByRole('alert')).toContainText('not readable YAML');
  await expect(page.getByRole('row', { name: /Beck test/ })).toHaveCount(0);

  await load('good.yaml', sheet);
  await expect(page.getByRole('alert')).toContainText('Beck test is saved');
  await expect(page.getByRole('row', { name: /Beck test/ })).toBeVisible();

  await load('huge.yaml', sheet + '#'.repeat(1_100_000));
  await expect(page.getByRole('alert')).toContainText('too large');
});

test(
  'a picture too large or broken is refused, a good one is in the report',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, pictures');
    await setPhase(page, 'Standby');
    await entry(page).fill('19.5');
    await entry(page).press('Enter');
    const side = page.getByLabel('What is missing');
    await side.getByText('Photo', { exact: true }).click();
    const choose = (name: string, buffer: Buffer) =>
      side.locator('input[type=file]').setInputFiles({ name, mimeType: 'image/png', buffer });

    const huge = test.info().outputPath('huge.png');
    writeFileSync(huge, Buffer.alloc(26 * 1024 * 1024, 7));
    await side.locator('input[type=file]').setInputFiles(huge);
    await expect(side.getByRole('alert')).toContainText('at most 25 MB');
    await choose('broken.png', Buffer.from('this is no picture'));
    await expect(side.getByRole('alert')).toContainText('broken.png is broken, or no PNG');

    const dot = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    await side.getByLabel('Text').fill('Corner by the jack');
    await choose('dot.png', dot);
    await expect(side.getByRole('alert')).toHaveCount(0);
    await page.getByRole('link', { name: 'Report' }).click();
    const picture = page.getByRole('img', { name: 'Corner by the jack' });
    await expect(picture).toBeVisible();
    expect(await picture.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(1);
    await expect(page.locator('.readings tbody tr')).toHaveCount(1);
  },
);

test('what is recorded is safe even when the page goes away at once', long, async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14, page gone');
  await setPhase(page, 'Standby');
  await entry(page).fill('19.5');
  // Recorded and reloaded within one turn of the browser: no request can have left by then.
  await entry(page).evaluate((line: HTMLInputElement) => {
    line.dispatchEvent(
      new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }),
    );
    location.reload();
  });
  await expect(page.locator('.readings tbody tr')).toHaveCount(1);
});
