import { expect, long, test, type Page } from './page.ts';
import { entry, openJob, setPhase } from './bench.ts';

// Trace and report tell one story: what a new user once found contradicting itself.

const demoJob = (number: number, page: string): string =>
  `/jobs/0d0e0000-0000-4000-8000-000${number}00000000/${page}`;

/** Suspects by their title, in percent, once every fault was played and nothing is being weighed. */
async function suspects(page: Page): Promise<Map<string, number>> {
  await expect(page.getByText('none of these')).toBeVisible({ timeout: 90_000 });
  await expect(page.getByLabel('Faults played')).toHaveCount(0, { timeout: 90_000 });
  await expect(page.getByText('still weighing')).toHaveCount(0, { timeout: 30_000 });
  const rows = await page.locator('button.suspect').allInnerTexts();
  return new Map(
    rows.map((text) => {
      const found = /^([^]*?)\s+([<\d.]+)\s*%\s*$/.exec(text.trim());
      return [found?.[1]?.trim() ?? text, Number(found?.[2]?.replace('<', '') ?? NaN)];
    }),
  );
}

/** Any point by its name, as `/` on the empty line does. */
async function goTo(page: Page, net: string): Promise<void> {
  await entry(page).press('/');
  await page.keyboard.type(net);
  await page.keyboard.press('Enter');
  await expect(page.locator('.probe')).toHaveAttribute('data-net', net);
}
async function readAt(page: Page, net: string, text: string): Promise<void> {
  await goTo(page, net);
  await entry(page).fill(text);
  await entry(page).press('Enter');
}

for (const number of [1, 2, 3, 4, 5])
  test(
    `demo job ${number}: while suspects stand there is something to do, and the stages agree or say why`,
    number === 3 ? {} : long,
    async ({ page }) => {
      await page.goto(demoJob(number, 'trace'));
      if (await page.getByText('The goal is reached').isVisible()) return;
      const found = await suspects(page);
      const likeliest = Math.max(0, ...found.values());
      const middle = page.locator('.probe');
      if (likeliest >= 10) await expect(middle).not.toContainText('Nothing more to read from here');
      // Where the plays are sure of another stage than the walk, one line says why.
      const region = page.locator('.regions');
      const missing = page.locator('.missing').first();
      if ((await region.count()) === 0 || (await missing.count()) === 0) return;
      const stage = (await region.locator('strong').innerText()).trim();
      const sure = Number(/(\d+)\s*%/.exec(await region.innerText())?.[1] ?? 0);
      const walked = (await missing.locator('h3').innerText()).trim();
      const isWalked = /First missing stage|Missing so far/.test(await missing.innerText());
      if (isWalked && sure >= 51 && stage !== walked)
        await expect(page.locator('.differ')).toBeVisible();
      else await expect(page.locator('.differ')).toHaveCount(0);
    },
  );

test('a rail read at kilohms is no suspect of low resistance', long, async ({ page }) => {
  await openJob(page, 'Beck', 'Beck mini, five kilohms');
  await setPhase(page, 'Standby');
  const line = entry(page);
  await readAt(page, '12V_IN', '12');
  await readAt(page, '5V_SB', '5');
  await setPhase(page, 'Cold');
  await goTo(page, '5V_RUN');
  if ((await page.locator('.probe').getAttribute('data-mode')) !== 'ohms')
    await page.locator('.probe').getByText('Ω', { exact: true }).click();
  await line.fill('5k');
  await line.press('Enter');
  await expect(page.locator('.readings tbody tr')).toHaveCount(3);
  const found = await suspects(page);
  expect(found.get('Low resistance on 5V_RUN') ?? 0).toBeLessThan(10);
});

test(
  'verdicts belong to the reading: the bench strip changes none of them',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, on its battery later');
    await setPhase(page, 'Standby');
    await readAt(page, 'VIN_JACK', '19.5');
    await readAt(page, 'VIN_F', '19.5');
    const rows = page.locator('.readings tbody tr');
    await expect(rows.getByText('good', { exact: true })).toHaveCount(2);
    const strip = page.getByLabel('Bench', { exact: true });
    await strip.getByRole('checkbox', { name: 'Battery' }).check();
    await expect(rows.getByText('good', { exact: true })).toHaveCount(2);
    // They say nothing of this bench, and the report stands on the one they were taken on.
    await page.getByRole('link', { name: 'Report' }).click();
    await expect(page.locator('article').getByText('good', { exact: true })).toHaveCount(2);
  },
);

test('trace and report name the same missing stage, or both none', long, async ({ page }) => {
  for (const [number, isMissing] of [
    [1, true],
    [2, false],
    [7, true],
  ] as const) {
    await page.goto(demoJob(number, 'trace'));
    const missing = page.locator('.missing').first();
    await expect(missing).toContainText(
      isMissing ? /First missing stage|Missing so far/ : 'Nothing missing so far',
    );
    const title = (await missing.locator('h3').innerText()).trim();
    await page.goto(demoJob(number, 'report'));
    const finding = page.locator('article p', { hasText: /^First missing stage/ });
    await expect(page.getByRole('heading', { name: 'Finding' })).toBeVisible();
    await expect(finding).toHaveCount(isMissing ? 1 : 0);
    if (isMissing) await expect(finding).toContainText(`${title}.`);
  }
});
