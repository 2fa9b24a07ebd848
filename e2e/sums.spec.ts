import { expect, test } from './page.ts';

// The calculations of the bench, typed in as on the entry line, and filled in from a sheet.

test('a sum says what it makes of what is typed, and is filled in from a sheet', async ({
  page,
}) => {
  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Sums' }).click();
  await page.getByLabel('Search sums').fill('injection');
  await page.getByRole('link', { name: 'Injection into a short' }).click();
  const answer = page.locator('.answer');
  await expect(answer).toContainText('50 mW');
  await expect(answer).toContainText('Probably not seen');
  await page.getByLabel('Current limit').fill('5');
  await expect(answer).toContainText('1.25 W');
  await expect(answer).toContainText('A camera should see it.');
  await expect(answer.getByRole('note')).toContainText('never above the rail’s own 3.3 V');
  // What cannot be read is said where it stands, and nothing is worked out from it.
  await page.getByLabel('The short').fill('much');
  await expect(page.getByText('"much" is not a value.')).toBeVisible();
  await expect(answer.locator('dd')).toHaveCount(0);

  await page.getByLabel('Search sums').fill('divider');
  await page.getByRole('link', { name: 'Divider', exact: true }).click();
  await page.getByLabel('Values from the sheet of').click();
  await page.keyboard.type('Cairn 14');
  await page.keyboard.press('Enter');
  await page.getByLabel('Fill in from the sheet').click();
  await page.keyboard.type('ACDET');
  await page.keyboard.press('Enter');
  await expect(answer.locator('dd').first()).toContainText(/2\.7\d* V/);
  await expect(page.getByText('Kirchhoff')).toBeVisible();
});
