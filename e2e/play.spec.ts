import { expect, long, test, type Page } from './page.ts';

async function addFault(page: Page, name: string): Promise<void> {
  await page.getByLabel('Faults').fill(name);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}
const cell = (page: Page, net: string, phase: 'standby' | 'pressed' | 'trying' | 'run') =>
  page
    .getByRole('row', { name: new RegExp(`^${net.replace(/[#+]/g, '\\$&')} `) })
    .getByRole('cell')
    .nth(3 + ['standby', 'pressed', 'trying', 'run'].indexOf(phase));

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

test(
  'a short that leaves the rail up shows cold and as heat; unplugging is a play like any other',
  long,
  async ({ page }) => {
    await page.goto('/boards');
    await page.getByRole('link', { name: 'Cairn 14' }).click();
    await expect(page.getByLabel('Signs')).toContainText('fan turns');
    await addFault(page, 'C50 short of 1');
    const row = page.getByRole('row', { name: /^1V2_MEM / });
    await expect(row.getByRole('cell').nth(1)).toContainText('was 120 Ω');
    await expect(cell(page, '1V2_MEM', 'run')).toHaveText(/^1\.19/);
    await expect(page.getByLabel('Signs')).toContainText('C50 1.4 W');
    await page.getByRole('button', { name: 'Healthy again' }).click();

    await expect(cell(page, 'VBAT', 'standby')).toHaveText('0.002 V');
    await page.getByRole('checkbox', { name: 'Battery' }).check();
    await expect(cell(page, 'VBAT', 'standby')).toHaveText('11.56 V');
    await page.getByRole('checkbox', { name: 'Fan' }).uncheck();
    await expect(page.getByLabel('Signs')).toContainText('no fan');
  },
);

test(
  'every single fault is played with progress, cancelled, played again and kept',
  long,
  async ({ page }) => {
    test.setTimeout(120_000);
    await page.goto('/boards');
    await page.getByRole('link', { name: 'Fell 13' }).click();
    await page.getByText('Every single fault').click();
    const start = page.getByRole('button', { name: 'Play every single fault' });

    // The largest board is slow enough to be cancelled.
    await page.goto('/boards');
    await page.getByRole('link', { name: 'Cairn 14' }).click();
    await page.getByText('Every single fault').click();
    await start.click();
    await expect(page.getByText(/of \d+ different faults played/)).toBeVisible();
    await page.getByRole('button', { name: 'Cancel' }).click();
    await expect(start).toBeVisible();

    await page.goto('/boards');
    await page.getByRole('link', { name: 'Fell 13' }).click();
    await page.getByText('Every single fault').click();
    await start.click();
    // Some seconds of work, several times that on a busy machine.
    await expect(page.getByText('different to the circuit')).toBeVisible({ timeout: 30_000 });
    await page.getByLabel('Find a fault or stage').fill('U9 dead');
    const row = page.getByRole('row', { name: /^U9 dead\b(?!,)/ });
    await expect(row).toContainText('Memory rail');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as CSV' }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('fell-13-faults.csv');
    await page.getByRole('button', { name: 'U9 dead', exact: true }).click();
    await expect(cell(page, '1V1_MEM', 'run')).toContainText('was 1.098 V');

    // Kept: after a reload nothing is made anew.
    await page.reload();
    await page.getByText('Every single fault').click();
    await expect(page.getByText('different to the circuit')).toBeVisible();
  },
);
