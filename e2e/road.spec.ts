import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { plainReading } from '@jiko/testing';
import { expect, long, test } from './page.ts';
import { entry, openJob, setPhase } from './bench.ts';

// The road from one view to the next, in orders nobody had prepared.

const sheetText = (id: string): string =>
  readFileSync(new URL(`../sheets/${id}.yaml`, import.meta.url), 'utf8');

const rows = '.readings tbody tr:not(.sheet-changed)';

test(
  'Cold, Trace, then something plugged in or taken off: Trace and Look are shown',
  long,
  async ({ page }) => {
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    await openJob(page, 'Fell', 'Fell 13 from Larch Hut, off and on');
    await page.getByRole('link', { name: 'Cold' }).click();
    await page.getByLabel(/^Cold reading at/).fill('33k');
    await page.getByLabel(/^Cold reading at/).press('Enter');
    await expect(page.getByText('Recorded')).toBeVisible();
    await page.getByRole('link', { name: 'Trace' }).click();
    await setPhase(page, 'Standby');
    await page.keyboard.press('/');
    await page.keyboard.type('VBUS');
    await page.keyboard.press('Enter');
    await entry(page).fill('20');
    await entry(page).press('Enter');
    await expect(page.locator(rows)).toHaveCount(2);
    // What was read with the battery out is of another bench now, cold and powered.
    await page.getByLabel('Bench', { exact: true }).getByRole('checkbox').first().click();
    await expect(page.locator('.suspects ol li').first()).toBeVisible({ timeout: 60_000 });
    await expect(page.locator('.suspects')).not.toContainText('left out', { timeout: 60_000 });
    await page.getByRole('link', { name: 'Look' }).click();
    await expect(page.getByLabel('Board picture')).toBeVisible();
    await page.getByRole('link', { name: 'Repair' }).click();
    await expect(page.getByRole('heading', { name: 'Close this job' })).toBeVisible();
    await page.getByRole('link', { name: 'Trace' }).click();
    await expect(entry(page)).toBeVisible();
    expect(errors).toEqual([]);
  },
);

test(
  'a corrected board: the job goes on with its sheet, what was read stays and is marked',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Otter 14 taken for a Fell 13');
    await setPhase(page, 'Standby');
    await entry(page).fill('5.1');
    await entry(page).press('Enter');
    await expect(page.locator(rows)).toHaveCount(1);
    await page.getByRole('link', { name: 'Door' }).click();
    await page.getByRole('button', { name: 'Correct' }).click();
    await page.getByLabel('Board', { exact: true }).click();
    await page.keyboard.type('otter');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Keep', exact: true }).first().click();
    await page.getByRole('link', { name: 'Trace' }).click();
    await expect(page.locator(rows)).toContainText('taken on the sheet of fell-13');
    await setPhase(page, 'Standby');
    await entry(page).fill('19');
    await entry(page).press('Enter');
    await expect(page.locator(rows)).toHaveCount(2);
    await page.reload();
    await expect(page.locator(rows)).toHaveCount(2);
    for (const view of ['Door', 'Look', 'Cold', 'Stage', 'Repair', 'Report']) {
      await page.getByRole('link', { name: view, exact: true }).click();
      await expect(page.locator('main.page')).not.toContainText('cannot be shown');
    }
  },
);

test(
  'two tabs on one job: both list what either one records, and weigh it',
  long,
  async ({ page, context }) => {
    await openJob(page, 'Cairn', 'Cairn 14 in two tabs');
    const other = await context.newPage();
    await other.goto(page.url());
    await expect(entry(other)).toBeVisible();
    await setPhase(page, 'Standby');
    for (let count = 1; count <= 5; count++) {
      await entry(page).fill('19.5');
      await entry(page).press('Enter');
      await expect(page.locator(rows)).toHaveCount(count);
      await expect(other.locator(rows)).toHaveCount(count);
      await expect(page.locator('.notice')).toHaveCount(0);
      // It stays once the other tab has sent it.
      await page.waitForTimeout(300);
      await expect(page.locator(rows)).toHaveCount(count);
    }
  },
);

test('a view that breaks keeps its tabs, Undo and the record', async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14 with a broken view');
  await setPhase(page, 'Standby');
  await entry(page).fill('19.5');
  await entry(page).press('Enter');
  await expect(page.locator(rows)).toHaveCount(1);
  await page.route('**/assets/look-page*', (route) =>
    route.fulfill({
      contentType: 'text/javascript',
      body: 'export const LookPage = () => { throw new Error("made to break"); };',
    }),
  );
  await page.getByRole('link', { name: 'Look' }).click();
  await expect(page.getByText('made to break')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Trace' })).toBeVisible();
  const record = page.getByLabel('The record');
  await expect(record.getByRole('row').first()).toContainText('19.5');
  await page.getByRole('button', { name: 'Undo the last entry' }).click();
  await expect(record).not.toContainText('19.5');
  await page.getByRole('link', { name: 'Trace' }).click();
  await expect(page.locator(rows)).toContainText('struck out: taken back');
});

test(
  'Enter on a reading of another phase asks once, then records; the line keeps the keys',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14, one phase and another');
    await setPhase(page, 'Standby');
    // Trace: ohms with the strip on Standby.
    await page.getByLabel('Probe', { exact: true }).getByText('Ω', { exact: true }).click();
    await entry(page).fill('41k');
    await entry(page).press('Enter');
    await expect(page.locator('.echo')).toHaveText(
      'Source off, battery unplugged? Enter again writes it down as read cold.',
    );
    await expect(page.locator(rows)).toHaveCount(0);
    await expect(entry(page)).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.locator(rows)).toHaveCount(1);
    await expect(page.locator(rows)).toContainText('cold');
    await expect(entry(page)).toBeFocused();
    // Stage: volts with the strip on Cold by now.
    await page.goto(`${page.url().replace('/trace', '/stage')}?net=3V3_ALW&show=questions`);
    const line = page.locator('.probe.is-stage .entry input');
    await expect(line).toBeVisible();
    const phase = (await page.locator('.probe.is-stage .quiet').first().textContent()) ?? '';
    await line.fill(phase.includes('cold') ? '12k' : '0.02');
    if (phase.includes('cold')) await setPhase(page, 'Standby');
    await line.press('Enter');
    await expect(page.getByText('Enter again writes it down')).toBeVisible();
    await expect(line).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(line).toHaveValue('');
    await expect(line).toBeFocused();
  },
);

test(
  'one job, one diagnosis: Trace and the closing form name the same suspects with the same figures',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Fell 13, U7 reflowed in vain');
    const id = /jobs\/([^/]+)/.exec(page.url())![1]!;
    const read = (net: string, value: number) => ({
      type: 'reading',
      supersedes: [],
      reading: plainReading(net, 'volts', 'standby', { kind: 'number', value, trend: 'steady' }),
    });
    const bodies = [
      read('VBUS', 20),
      read('VSYS', 12.4),
      read('1V05_PRIM', 0.02),
      { type: 'repair', action: 'reflowed', parts: ['U7'], text: '' },
      read('VBUS', 20),
      read('VSYS', 12.4),
      read('1V05_PRIM', 0.02),
    ];
    const events = bodies.map((body) => ({
      id: randomUUID(),
      who: 'Bench 1',
      at: new Date().toISOString(),
      body,
    }));
    const sent = await page.request.post(`/api/jobs/${id}/events`, { data: { events } });
    expect(sent.ok(), await sent.text()).toBe(true);
    await page.reload();
    const settled = async (): Promise<void> => {
      await expect(page.getByLabel('Faults played')).toHaveCount(0, { timeout: 60_000 });
      await expect(page.getByText(/still (being )?weigh/)).toHaveCount(0);
    };
    await expect(page.locator('.suspects ol li').first()).toBeVisible({ timeout: 60_000 });
    await settled();
    const trace = await page.locator('.suspects ol li .suspect').allTextContents();
    expect(trace.length).toBeGreaterThan(2);
    await page.getByRole('link', { name: 'Repair' }).click();
    await page.getByText('not found', { exact: true }).click();
    const left = page.getByLabel('What is left').getByRole('listitem');
    await expect(left.first()).toBeVisible({ timeout: 60_000 });
    await settled();
    const closing = await left.allTextContents();
    for (const [place, one] of trace.slice(0, 3).entries()) {
      const chance = /(< 1|> 99|\d+) %$/.exec(one)![0];
      expect(closing[place]).toContain(one.slice(0, -chance.length));
      expect(closing[place]).toContain(chance);
    }
  },
);

test(
  'a sheet changed in two windows: nothing is saved over what nobody saw, and both changes can be had',
  long,
  async ({ page, browser }) => {
    const id = `two-${randomUUID().slice(0, 8)}`;
    const first = sheetText('wren-5').replace('id: wren-5', `id: ${id}`);
    const made = await page.request.post('/api/boards', { data: { base: null, text: first } });
    expect(made.ok(), await made.text()).toBe(true);
    const { hash } = (await made.json()) as { hash: string };
    const newest = async (): Promise<string> =>
      ((await (await page.request.get(`/api/boards/${id}`)).json()) as { text: string }).text;

    // Looked at only: it follows the newest version, and offers nothing as changed here.
    await page.goto(`/boards/${id}/edit`);
    await expect(page.getByRole('button', { name: 'As saved' })).toBeDisabled();
    const elsewhere = await browser.newContext({ baseURL: new URL(page.url()).origin });
    const other = await elsewhere.newPage();
    await other.goto(`/boards/${id}/edit`);
    await expect(other.getByRole('button', { name: 'As saved' })).toBeDisabled();
    const type = async (on: typeof page, words: string): Promise<void> => {
      await on.locator('.cm-content').click();
      await on.keyboard.press('Control+End');
      await on.keyboard.type(`\n# ${words}`);
      await expect(on.getByText('not saved')).toBeVisible();
    };
    await type(page, 'mine');
    const theirs = first.replace(/^title: .*$/m, 'title: Theirs');
    const saved = await page.request.post('/api/boards', { data: { base: hash, text: theirs } });
    expect(saved.ok()).toBe(true);
    await other.reload();
    await expect(other.getByRole('heading', { name: 'Theirs' })).toBeVisible();
    await expect(other.getByRole('button', { name: 'As saved' })).toBeDisabled();
    await elsewhere.close();

    // Over a reload the draft still knows what it was begun on.
    await page.reload();
    await expect(page.getByText('begun on an older version')).toBeVisible();
    await page.getByRole('button', { name: /^Save a version/ }).click();
    await expect(page.getByText('changed meanwhile: nothing was saved')).toBeVisible();
    await expect(page.getByText('-> Theirs')).toBeVisible();
    expect(await newest()).toBe(theirs);
    await page.getByRole('button', { name: 'Lay mine over it' }).click();
    await expect(page.getByRole('button', { name: 'As saved' })).toBeDisabled();
    const both = await newest();
    expect(both).toContain('title: Theirs');
    expect(both).toContain('# mine');
  },
);

test('what a closing teaches is in the history of its board at once', long, async ({ page }) => {
  await openJob(page, 'Beck', 'Beck mini that teaches');
  const history = async (): Promise<void> => {
    const back = page.getByRole('link', { name: '← Jobs' });
    if ((await back.count()) > 0) await back.click();
    await page.getByRole('link', { name: 'Boards' }).click();
    await page.getByRole('table').getByRole('link', { name: 'Beck mini', exact: true }).click();
    await page.getByRole('link', { name: 'History' }).click();
    await expect(page.getByRole('heading', { name: /Beck mini/ })).toBeVisible();
    await expect(page.locator('.ant-skeleton')).toHaveCount(0);
  };
  await history();
  await expect(page.getByText('the walk taught it')).toHaveCount(0);
  await page.getByRole('link', { name: 'Jobs' }).click();
  await page.getByRole('link', { name: 'Beck mini that teaches' }).first().click();
  await page.getByRole('link', { name: 'Repair' }).click();
  const panel = page.getByLabel('Close the job');
  await panel.getByText('fixed', { exact: true }).first().click();
  await panel.getByLabel('Cause', { exact: true }).fill('the walk taught it');
  await panel.getByRole('button', { name: 'Close the job' }).click();
  await expect(panel).toContainText('This job is closed');
  await history();
  await expect(page.getByText('the walk taught it')).toBeVisible();
});

test(
  'something proposed is written down by "I did it", and what to read comes next',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Fell 13 with a short');
    await setPhase(page, 'Cold');
    await entry(page).press('/');
    await page.keyboard.type('1V8_PRIM');
    await page.keyboard.press('Enter');
    await entry(page).fill('0.4');
    await entry(page).press('Enter');
    const proposals = page.getByLabel('To do and read again');
    await expect(proposals).toBeVisible({ timeout: 60_000 });
    const action = proposals
      .getByRole('listitem')
      .filter({ hasText: /^(Take|Lift)/ })
      .first();
    await action.locator('summary').first().click();
    const part = /(?:Take|end of) (\w+)/.exec((await action.textContent()) ?? '')![1]!;
    await action.getByRole('button', { name: 'I did it' }).click();
    await expect(page.locator('.probe')).toHaveAttribute('data-mode', 'ohms');
    await page.getByRole('link', { name: 'Repair' }).click();
    await expect(page.getByLabel('Open ends')).toContainText(`${part} is off the board`);
  },
);

test('Ctrl K goes to a net of the board, a part, a sum, a word and another job by a few letters', async ({
  page,
}) => {
  await openJob(page, 'Fell', 'Go somewhere');
  const line = page.getByRole('combobox', { name: 'Go to' });
  const go = async (typed: string, first: RegExp): Promise<void> => {
    await page.keyboard.press('Control+k');
    await line.fill(typed);
    await expect(page.locator('.ant-select-item-option-active')).toContainText(first);
    await page.keyboard.press('Enter');
    await expect(line).toBeHidden();
  };
  // As a schematic may write it.
  await go('pltrst_n', /PLTRST#/);
  const card = page.locator('.probe');
  await expect(card).toHaveAttribute('data-net', 'PLTRST#');
  // The line has the keys again, and the same net can be gone to twice.
  await go('MEM_PG', /MEM_PG/);
  await expect(card).toHaveAttribute('data-net', 'MEM_PG');
  await go('pltrst', /PLTRST#/);
  await expect(card).toHaveAttribute('data-net', 'PLTRST#');
  await go('R4', /R4/);
  await expect(card.locator('h1')).toContainText('R4.1');
  await page.keyboard.press('Control+k');
  await line.fill('p');
  await expect(page.locator('.ant-select-item-group').first()).toContainText('Nets of this board');
  await page.keyboard.press('Escape');
  await expect(line).toBeHidden();
  await go('coin cell', /coin cell/);
  await expect(page.getByLabel('Search words')).toHaveValue(/./);
  await go('divider', /divider/i);
  await expect(page).toHaveURL(/\/sums\//);
  await go('go somewhere', /Go somewhere/);
  await expect(page).toHaveURL(/\/trace$/);
});

test('nothing is pushed off a screen of 1024, nor off a phone', async ({ page }) => {
  await openJob(page, 'Fell', 'A device with a name that is much longer than any screen is wide');
  const jobs = new URL('/jobs', page.url()).href;
  for (const address of [page.url(), jobs])
    for (const width of [1024, 390]) {
      await page.setViewportSize({ width, height: 800 });
      await page.goto(address);
      await expect(page.getByRole('button', { name: 'Go to' })).toBeInViewport();
      await expect(page.getByRole('button', { name: 'Night' })).toBeInViewport({ ratio: 1 });
      const wide = await page.evaluate(() => document.documentElement.scrollWidth);
      expect(wide).toBeLessThanOrEqual(width);
    }
  // The entry line is the first thing under the tabs of a phone.
  await page.setViewportSize({ width: 390, height: 800 });
  await page.goBack();
  await expect(entry(page)).toBeInViewport({ ratio: 1 });
});
