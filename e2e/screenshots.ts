import { expect, test } from '@playwright/test';

// Pictures for docs/screenshots, from the demo data: npm run screenshots.
const shot = (name: string) => ({ path: `../docs/screenshots/${name}.png` });

test('pictures of every main view', async ({ page }) => {
  await page.goto('/jobs');
  await expect(page.getByRole('link', { name: /^(Cairn|Fell|Beck)/ })).toHaveCount(13);
  await page.screenshot(shot('jobs'));

  await page.getByRole('link', { name: 'Beck mini, station 7' }).click();
  await expect(page.getByLabel('What is missing').getByRole('heading').first()).toBeVisible();
  await expect(page.locator('.suspects[data-state=weighed]')).toBeVisible({ timeout: 40_000 });
  await page.screenshot(shot('trace-stage-missing'));

  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Cairn 14 from Skell Hut' }).click();
  await expect(page.getByText('First missing stage', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Night' }).click();
  await page.mouse.move(640, 790);
  await expect(page.locator('.suspects[data-state=weighed]')).toBeVisible({ timeout: 40_000 });
  await expect(page.getByText('Playing every fault of this board once')).toHaveCount(0, {
    timeout: 90_000,
  });
  await expect(page.locator('.probe')).toContainText('what is left');
  await page.screenshot(shot('trace-input-fet-night'));
  await page.getByRole('button', { name: 'Day' }).click();
  await page.getByRole('textbox', { name: /^Reading at/ }).press('w');
  await expect(page.locator('.page-frame canvas[data-drawn]').first()).toBeVisible({
    timeout: 30_000,
  });
  await page.waitForTimeout(1000);
  await page.screenshot(shot('schematic-trace'));
  await page.getByText('Stages', { exact: true }).click();

  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Cairn 14 from Raven Pass' }).click();
  await page.getByRole('link', { name: 'Repair', exact: true }).click();
  await expect(page.getByLabel('Proof')).toContainText('proven');
  await page.screenshot(shot('repair'));
  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Cairn 14, spare of the valley office' }).click();
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByRole('heading', { name: 'Proof by the record' })).toBeVisible();
  await page.screenshot(shot('report'));

  await page.goto('/jobs/new');
  await page.getByLabel('Device').fill('Rime 15 from Scar Hut');
  await page.getByLabel('Board', { exact: true }).click();
  await page.getByText('Not in the list: a board nobody knows').click();
  await page.getByText('What you can see of it').click();
  await page.locator('.choices').getByText('Barrel, two P-channel FETs', { exact: true }).click();
  await page
    .locator('.choices')
    .getByText('One dual regulator with two LDOs', { exact: true })
    .click();
  await page.mouse.move(10, 790);
  await page.screenshot(shot('first-sheet'));
  await page.getByLabel("Complaint, in the owner's words").fill('Dead.');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await page.getByRole('link', { name: 'Trace' }).click();
  const line = page.getByRole('textbox', { name: /^Reading at/ });
  for (const volts of ['19.4', '19.39', '19.38']) {
    await line.fill(volts);
    await line.press('Enter');
    await expect(line).toHaveValue('');
  }
  await line.press('/');
  await page.keyboard.type('coil beside the memory');
  await page.getByText('A point of your own: coil beside the memory').click();
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('textbox', { name: 'Reading at P1' })).toBeVisible();
  await page.getByLabel('Bench').getByText('Run', { exact: true }).click();
  await line.fill('1.207');
  await line.press('Enter');
  await expect(line).toHaveValue('');
  await line.press('/');
  await page.keyboard.type('P1');
  await page
    .getByTitle(/^P1: coil beside/)
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'Which net is it?' })).toContainText('1.207 V');
  await expect(page.locator('.suspects[data-state=weighed]')).toBeVisible({ timeout: 40_000 });
  await expect(page.getByText('Playing every fault of this board once')).toHaveCount(0, {
    timeout: 90_000,
  });
  await page.screenshot(shot('point'));

  await page.goto('/boards/cairn-14/edit');
  await expect(page.getByText('Nothing found wrong')).toBeVisible({ timeout: 20_000 });
  await page.getByText('Parts', { exact: true }).click();
  await page.screenshot(shot('edit'));

  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Cairn 14 from Hollow Hut' }).click();
  await expect(page.getByRole('heading', { name: /^Short on/ })).toBeVisible();
  await page.screenshot(shot('cold'));
  await page.getByRole('link', { name: 'Look' }).click();
  await page.locator('[data-ref=PU4]').click();
  await expect(page.locator('.findings .share').first()).toBeVisible({ timeout: 60_000 });
  await page.screenshot(shot('look'));
  await page.getByRole('link', { name: 'Door' }).click();
  await expect(page.locator('.meaning')).toContainText('stops at', { timeout: 60_000 });
  await page.screenshot(shot('door'));

  // As on a machine it was installed on, wherever this one keeps the data of a test.
  await page.route('**/api/shop**', async (route) => {
    const answer = await route.fetch();
    const text = await answer.text();
    const { folder } = JSON.parse(text) as { folder: string };
    await route.fulfill({ response: answer, body: text.replaceAll(folder, '/var/lib/jiko') });
  });
  await page.goto('/shop');
  await page.getByRole('button', { name: 'Back up now' }).click();
  await expect(page.getByText('read back whole').first()).toBeVisible();
  await expect(page.locator('.backups')).toBeVisible({ timeout: 60_000 });
  await page.screenshot(shot('shop'));

  await page.goto('/boards');
  await expect(page.getByRole('row', { name: /Cairn 14/ })).toBeVisible();
  // Each sheet is checked in its turn.
  await expect(page.getByText('…', { exact: true })).toHaveCount(0, { timeout: 60_000 });
  await page.screenshot(shot('boards'));

  await page
    .getByRole('row', { name: /Rime 15/ })
    .getByRole('link', { name: 'Schematic' })
    .click();
  await expect(page.getByText('No schematic yet.')).toBeVisible();
  await page
    .locator('input[type=file]')
    .setInputFiles(new URL('../sheets/cairn-14.schematic.pdf', import.meta.url).pathname);
  await expect(page.locator('.page-frame canvas[data-drawn]').first()).toBeVisible({
    timeout: 30_000,
  });
  await page.getByRole('button', { name: 'Read from it' }).click();
  await page.locator('.take-panel .row-go').nth(1).click({ timeout: 20_000 });
  await page.getByRole('alert').getByLabel('Close').click();
  await page.waitForTimeout(800);
  await page.screenshot(shot('schematic'));

  await page.goto('/boards');
  await page.getByRole('link', { name: 'Cairn 14' }).click();
  await page.getByLabel('Faults').fill('PL7 open');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByText(/nets change\./)).toBeVisible();
  await page.getByText('only these').click();
  await page.screenshot(shot('play'));

  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Cairn 14 from Skell Hut' }).click();
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByLabel('What explains it')).toContainText('R2');
  await page.screenshot(shot('stage'));

  await page.goto('/jobs');
  await page.getByRole('link', { name: 'Cairn 14 from Hollow Hut' }).click();
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await expect(page.getByRole('list', { name: 'What it could be' })).toBeVisible({
    timeout: 20_000,
  });
  await page.mouse.move(640, 790);
  await page.screenshot(shot('short'));

  await page.goto('/boards/cairn-14/history');
  await expect(page.getByLabel('Typical faults')).toBeVisible();
  await page.screenshot(shot('history'));
});
