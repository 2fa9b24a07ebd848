import { expect, long, test } from './page.ts';
import { openJob, write } from './bench.ts';

// Jobs are found again, and a window says which of them it shows.

/** A word no other job has, those of an earlier try neither. */
const ownWord = (): string => `w${Date.now().toString(36)}`;

test('a job is found by what was written of it, by keys, and the search stays in the address', async ({
  page,
}) => {
  const word = ownWord();
  const device = `Lamp post ${word}`;
  await openJob(page, 'Beck', device);
  await write(page, { type: 'note', text: `The ${word}quay flooded; salt on the coil.` });
  await expect(page).toHaveTitle(`${device} · Trace · Jiko`);
  await page.goto('/jobs');
  await expect(page).toHaveTitle('Jobs · Jiko');
  const line = page.getByRole('searchbox', { name: 'Find a job' });
  const found = page.getByRole('region', { name: 'Found' });
  await line.pressSequentially(`${word}q sal`);
  await expect(found.getByRole('row')).toHaveCount(2);
  await expect(found).toContainText(device);
  await expect(page).toHaveURL(/\?q=\w+q\+sal$/);
  await page.reload();
  await expect(found).toContainText(device);
  await page.getByLabel('Open or closed').selectOption('closed');
  await expect(page.getByText('No job has all of these words')).toBeVisible();
  await page.getByRole('button', { name: 'All jobs' }).click();
  await expect(line).toBeFocused();
  await expect(page.getByRole('region', { name: 'Can be worked on now' })).toBeVisible();
  await line.fill(`lamp ${word}`);
  await expect(found).toContainText(device);
  await line.press('Enter');
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}\/door$/);
  await expect(page).toHaveTitle(`${device} · Door · Jiko`);
});

test(
  'the Door names earlier jobs of the board, those of the same device first',
  long,
  async ({ page }) => {
    const device = `Lamp post ${ownWord()}`;
    await openJob(page, 'Beck', device);
    const [, first] = /jobs\/([^/]+)/.exec(page.url())!;
    await openJob(page, 'Beck', ` ${device.toLowerCase()}`);
    await page.getByRole('link', { name: 'Door' }).click();
    const earlier = page.getByRole('region', { name: 'Earlier jobs' });
    await expect(earlier.getByRole('listitem').first()).toContainText('this device');
    await expect(earlier.getByRole('link', { name: device })).toHaveAttribute(
      'href',
      `/jobs/${first}/report`,
    );
    await earlier.getByRole('link', { name: /^All / }).click();
    await expect(page).toHaveURL(/\/jobs\?board=beck-mini$/);
    await expect(page.getByRole('region', { name: 'Found' })).toContainText(device);
  },
);
