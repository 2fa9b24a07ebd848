import { expect, test } from './page.ts';
import { openJob, write } from './bench.ts';

// Jobs are found again, and a window says which of them it shows.

test('a job is found by what was written of it, by keys, and the search stays in the address', async ({
  page,
}) => {
  await openJob(page, 'Beck', 'Lamp post 9');
  await write(page, { type: 'note', text: 'The quay flooded; salt on the coil.' });
  await expect(page).toHaveTitle('Lamp post 9 · Trace · Jiko');
  await page.goto('/jobs');
  await expect(page).toHaveTitle('Jobs · Jiko');
  const line = page.getByRole('searchbox', { name: 'Find a job' });
  const found = page.getByRole('region', { name: 'Found' });
  await line.pressSequentially('flood sal');
  await expect(found.getByRole('row')).toHaveCount(2);
  await expect(found).toContainText('Lamp post 9');
  await expect(page).toHaveURL(/\?q=flood\+sal$/);
  await page.reload();
  await expect(found).toContainText('Lamp post 9');
  await page.getByLabel('Open or closed').selectOption('closed');
  await expect(page.getByText('No job has all of these words')).toBeVisible();
  await page.getByRole('button', { name: 'All jobs' }).click();
  await expect(line).toBeFocused();
  await expect(page.getByRole('region', { name: 'Can be worked on now' })).toBeVisible();
  await line.fill('lamp');
  await expect(found).toContainText('Lamp post 9');
  await line.press('Enter');
  await expect(page).toHaveURL(/\/jobs\/[0-9a-f-]{36}\/door$/);
  await expect(page).toHaveTitle('Lamp post 9 · Door · Jiko');
});

test('the Door names earlier jobs of the board, those of the same device first', async ({
  page,
}) => {
  await openJob(page, 'Beck', 'Lamp post 12');
  const [, first] = /jobs\/([^/]+)/.exec(page.url())!;
  await openJob(page, 'Beck', ' lamp post 12');
  await page.getByRole('link', { name: 'Door' }).click();
  const earlier = page.getByRole('region', { name: 'Earlier jobs' });
  await expect(earlier.getByRole('listitem').first()).toContainText('this device');
  await expect(earlier.getByRole('link', { name: 'Lamp post 12' })).toHaveAttribute(
    'href',
    `/jobs/${first}/report`,
  );
  await earlier.getByRole('link', { name: /^All / }).click();
  await expect(page).toHaveURL(/\/jobs\?board=beck-mini$/);
  await expect(page.getByRole('region', { name: 'Found' })).toContainText('Lamp post 12');
});
