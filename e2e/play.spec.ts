import { expect, test, type Page } from '@playwright/test';

async function addFault(page: Page, name: string): Promise<void> {
  await page.getByLabel('Faults').fill(name);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}
const cell = (page: Page, net: string, phase: 'standby' | 'pressed' | 'trying' | 'run') =>
  page
    .getByRole('row', { name: new RegExp(`^${net.replace(/[#+]/g, '\\$&')} `) })
    .getByRole('cell')
    .nth(1 + ['standby', 'pressed', 'trying', 'run'].indexOf(phase));

test('a sheet is played healthy, with one fault and with two', async ({ page }) => {
  await page.goto('/boards');
  await page.getByRole('link', { name: 'Cairn 14' }).click();
  await expect(cell(page, '3V3_ALW', 'standby')).toHaveText('3.3 V');
  await expect(cell(page, 'PLTRST#', 'standby')).toHaveText('0 V');
  await expect(cell(page, 'PLTRST#', 'run')).toHaveText(/^3\.29/);
  await expect(page.getByLabel('Timeline of events').locator('svg').first()).toBeVisible();

  // A memory coil that is open: everything up to it stays, the board gives up after it.
  await addFault(page, 'PL7 open');
  await expect(page.getByText(/nets change\./)).toBeVisible();
  await expect(cell(page, '1V2_MEM', 'trying')).toContainText('0 V was 1.198 V');
  await expect(cell(page, '1V05_S5', 'trying')).toHaveText(/^1\.0\d+ V$/);
  await expect(cell(page, 'PLTRST#', 'run')).toContainText('was 3.29');

  // A second fault before it masks the first.
  await addFault(page, 'PR1 open');
  await expect(cell(page, '3V3_ALW', 'standby')).toContainText('was 3.3 V');
  await page.getByText('only these').click();
  await expect(page.getByRole('row', { name: /^VIN / })).toHaveCount(0);

  await page.getByRole('button', { name: 'Healthy again' }).click();
  await expect(cell(page, '3V3_ALW', 'standby')).toHaveText('3.3 V');
});
