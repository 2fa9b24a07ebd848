import { expect, long, test, type Page } from './page.ts';
import { entry, openJob, setPhase } from './bench.ts';

// Keys alone: they never go to nowhere, and write nothing that was not meant.

const focused = (page: Page): Promise<string> =>
  page.evaluate(() => document.activeElement?.tagName ?? 'nothing');
const keysAreSomewhere = (page: Page) =>
  expect.poll(() => focused(page), { timeout: 5000 }).not.toBe('BODY');

test(
  'arrows move among answers, Enter answers, and once more takes it back',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, answers');
    await page.getByRole('link', { name: 'Door' }).click();
    const group = page.getByLabel('Another source and another lead', { exact: true });
    await group.getByRole('button', { name: 'no change' }).focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await expect(group.locator('[aria-pressed="true"]')).toHaveCount(0);
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('Enter');
    await expect(group.locator('[aria-pressed="true"]')).toHaveText(['helped']);
    await keysAreSomewhere(page);
    await page.keyboard.press('Enter');
    await expect(group.locator('[aria-pressed="true"]')).toHaveCount(0);
    await page.reload();
    await expect(group).toBeVisible();
    await expect(group.locator('[aria-pressed="true"]')).toHaveCount(0);
  },
);

test(
  'the leads keep what Enter was pressed for; a press that changes nothing is a sign',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, leads');
    await page.getByRole('link', { name: 'Door' }).click();
    const leads = page.getByRole('spinbutton', { name: 'Leads shorted together' });
    await leads.fill('0.4');
    await leads.press('Enter');
    await expect(leads).toHaveValue('0.4');
    await page.getByText('after it, nothing changes', { exact: true }).click();
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(page.locator('.sign-log')).toContainText('after it, nothing changes');
    await page.reload();
    await expect(leads).toHaveValue('0.4');
    await expect(page.locator('.sign-log')).toContainText('after it, nothing changes');
  },
);

test('a part by keyboard: Tab takes nothing, Ctrl Enter keeps it', long, async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14, parts');
  await entry(page).press('d');
  const jot = page.getByLabel('Write down', { exact: true });
  const parts = jot.getByLabel('Parts', { exact: true });
  await parts.focus();
  await page.keyboard.type('PL1');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await expect(jot.getByLabel('Text')).toBeFocused();
  await expect(jot.locator('.ant-select-multiple .ant-select-selection-item')).toHaveCount(1);
  await parts.focus();
  await page.keyboard.press('Control+Enter');
  await expect(jot.locator('.ant-select-multiple .ant-select-selection-item')).toHaveCount(0);
  await page.getByRole('link', { name: 'Repair' }).click();
  await expect(page.getByLabel('Repair log')).toContainText('PL1');
});

test(
  'a name that is not quite right finds its net; a point of ones own is asked about',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, names');
    await entry(page).press('/');
    await page.keyboard.type('pltrst_n');
    await page.keyboard.press('Enter');
    await expect(page.locator('.probe')).toHaveAttribute('data-net', 'PLTRST#');
    await entry(page).press('/');
    await page.keyboard.type('under the shield');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'Make it' })).toBeFocused();
    await page.getByRole('button', { name: 'No', exact: true }).focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('.probe')).toHaveAttribute('data-net', 'PLTRST#');
    await expect(entry(page)).toBeFocused();
  },
);

test('a reading is struck out with its reason by keys alone', long, async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14, struck');
  await setPhase(page, 'Standby');
  await entry(page).fill('19.5');
  await entry(page).press('Enter');
  await page.getByRole('button', { name: /^Strike VIN_JACK/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('menu')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.locator('.readings')).toContainText(/struck out: (typed wrong|taken back)/);
  await keysAreSomewhere(page);
});

test(
  'opening, correcting, closing and opening again leave the keys on the page',
  long,
  async ({ page }) => {
    await openJob(page, 'Beck', 'Beck mini, keys');
    await page.getByRole('link', { name: 'Door' }).click();
    await page.getByRole('button', { name: 'Correct', exact: true }).focus();
    await page.keyboard.press('Enter');
    await page.getByLabel("Complaint, in the owner's words").press('Control+Enter');
    await expect(page.getByRole('button', { name: 'Correct', exact: true })).toBeVisible();
    await keysAreSomewhere(page);
    await page.getByRole('link', { name: 'Repair' }).click();
    const panel = page.getByLabel('Close the job');
    await panel.getByText('declined by the owner').click();
    await panel.getByLabel('Why it ends so').fill('too dear');
    await panel.getByRole('button', { name: 'Close the job' }).focus();
    await page.keyboard.press('Enter');
    await expect(panel).toContainText('This job is closed');
    await keysAreSomewhere(page);
    await panel.getByLabel('Why it is opened again').fill('it pays');
    await panel.getByRole('button', { name: 'Open it again' }).focus();
    await page.keyboard.press('Enter');
    await expect(panel).toContainText('Close this job');
    await keysAreSomewhere(page);
  },
);

test(
  'a skip link goes to the work, F1 lists the keys of every page, typing finds the line',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, skipped');
    await page.reload();
    await expect(entry(page)).toBeVisible();
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('1');
    await expect(entry(page)).toBeFocused();
    await expect(entry(page)).toHaveValue('1');
    await page.goto(page.url().replace('trace', 'cold'));
    await expect(page.getByLabel(/^Cold reading at/)).toBeVisible();
    const skip = page.getByRole('button', { name: 'To the work' });
    await skip.focus();
    await expect(skip).toBeInViewport();
    await page.keyboard.press('Enter');
    await expect(page.getByLabel(/^Cold reading at/)).toBeFocused();
    await page.keyboard.press('F1');
    await expect(page.getByRole('dialog')).toContainText('Cold readings');
    await page.keyboard.press('Escape');
    await page.goto('/jobs');
    // Keys pressed before the app has drawn anything go to nobody.
    await expect(page.getByRole('button', { name: 'To the work' })).toBeAttached();
    await page.keyboard.press('F1');
    await expect(page.getByRole('dialog')).toContainText('Everywhere');
  },
);
