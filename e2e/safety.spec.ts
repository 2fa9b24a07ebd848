import { expect, long, test, type Page } from './page.ts';
import { loadSheet } from '@jiko/core/board';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { makeSweep, shortList } from '@jiko/core/prepare';
import type { EventInput } from '@jiko/core/record';
import { plainReading } from '@jiko/testing';
import { openJob, openJobByHand, write } from './bench.ts';
import { sheetText } from './hidden-board.ts';

// What is said where somebody or a board can be hurt, through the real interface.

const strip = (page: Page) => page.getByLabel('Bench', { exact: true });
const noted = async (page: Page): Promise<string[]> => {
  const id = /jobs\/([^/]+)/.exec(page.url())![1]!;
  const { events } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as {
    events: { body: { type: string; text?: string } }[];
  };
  return events.flatMap(({ body }) => (body.type === 'note' ? [body.text ?? ''] : []));
};

test(
  'with the cooler off a press begins a count, and the end of it is loud',
  long,
  async ({ page }) => {
    await openJobByHand(page, 'Cairn 14', 'Cooler off');
    await strip(page).getByRole('checkbox', { name: 'Cooler on' }).uncheck();
    await expect(strip(page).getByRole('note')).toContainText('The cooler is off');
    await expect(strip(page).getByRole('timer')).toHaveCount(0);
    await strip(page).getByText('Run', { exact: true }).click();
    await expect(strip(page).getByRole('timer')).toContainText('source off in');
    await expect(strip(page).getByRole('alert')).toContainText('Source off now');
    // Another view, and a reload, go on from the same press.
    await page.getByRole('link', { name: 'Repair', exact: true }).click();
    await expect(strip(page).getByRole('alert')).toContainText('Source off now', { timeout: 3000 });
    await page.reload();
    await expect(strip(page).getByRole('alert')).toContainText('Source off now', { timeout: 3000 });
    await strip(page).getByRole('button', { name: 'Pressed again' }).click();
    await expect(strip(page).getByRole('timer')).toContainText('source off in');
    await strip(page).getByRole('button', { name: 'The source is off' }).click();
    await expect(strip(page)).toHaveAttribute('data-phase', 'cold');
    await expect(strip(page).getByRole('alert')).toHaveCount(0);
    await expect.poll(() => noted(page)).toEqual(['Cooler off the processor.']);
  },
);

test(
  'what is plugged while the strip says that it is live is asked for, and written down',
  long,
  async ({ page }) => {
    await openJobByHand(page, 'Cairn 14', 'Plugged live');
    const panel = strip(page).getByRole('checkbox', { name: 'Panel' });
    await panel.click();
    await expect(strip(page).getByRole('alert')).toContainText('Is a source still on?');
    await strip(page).getByRole('button', { name: 'It was off' }).click();
    await expect(strip(page).getByRole('alert')).toHaveCount(0);
    await panel.click();
    await strip(page).getByRole('button', { name: 'Done under power: write it down' }).click();
    await panel.click();
    // Nobody answers: it was done as the strip stood.
    await strip(page).getByText('Cold', { exact: true }).click();
    await strip(page).getByText('Standby', { exact: true }).click();
    // Nor on a view that was left.
    await panel.click();
    await expect(strip(page).getByRole('alert')).toContainText('Is a source still on?');
    await page.getByRole('link', { name: 'Report', exact: true }).click();
    await expect.poll(async () => (await noted(page)).length).toBe(3);
    await page.getByRole('link', { name: 'Trace', exact: true }).click();
    await strip(page).getByText('Cold', { exact: true }).click();
    await expect
      .poll(() => noted(page))
      .toEqual([
        expect.stringMatching(/^Panel (un)?plugged( in)? under power: .* on, standby\.$/),
        expect.stringMatching(/^Panel (un)?plugged( in)? under power: .* on, standby\.$/),
        expect.stringMatching(/^Panel (un)?plugged( in)? under power: .* on, standby\.$/),
      ]);
    // Cold, and no battery in: nothing to ask.
    await panel.click();
    await expect(strip(page).getByRole('alert')).toHaveCount(0);
  },
);

test('a first sheet with Charging is asked for its battery, and 3 A into it is stopped', async ({
  page,
}) => {
  await page.goto('/jobs');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Device').fill('Safety laptop');
  await page.getByLabel('Board', { exact: true }).click();
  await page.getByText('Not in the list: a board nobody knows').click();
  await page.getByText('What you can see of it').click();
  await page.locator('.choices').getByText('Charging', { exact: true }).click();
  await page.getByLabel("Complaint, in the owner's words").fill('Does not charge.');
  await expect(page.getByText('boots', { exact: true }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Open the job' }).click();
  await page.waitForURL(/\/door/);
  await expect(page.getByText('Battery unplugged first')).toBeVisible();
  await expect(page.getByText('Battery looked at: not swollen')).toBeVisible();
  await page.getByRole('link', { name: 'Cold', exact: true }).click();
  const flow = page.getByLabel('Into the battery flow');
  await flow.fill('3');
  await flow.press('Enter');
  await expect(page.getByText('unplug the battery now, keep away from it')).toBeVisible();
  await page.getByRole('link', { name: 'Repair', exact: true }).click();
  await expect(page.getByText('It charges its battery')).toBeVisible();
});

test(
  'after the coin cell was out the minutes are counted, and signs in them weigh nothing',
  long,
  async ({ page }) => {
    await openJobByHand(page, 'Cairn 14', 'Cell out');
    await page.getByRole('link', { name: 'Repair', exact: true }).click();
    const log = page.getByLabel('Repair log');
    await log.getByLabel('What was done').click();
    await page.getByTitle('not on the board', { exact: true }).click();
    await expect(log.getByRole('note')).toContainText('Source off, battery unplugged first');
    await log.getByRole('button', { name: 'Write down' }).click();
    await expect(page.getByText(/^\d+:\d\d left\./)).toBeVisible();
    await page.getByRole('link', { name: 'Door', exact: true }).click();
    await expect(page.getByRole('status').filter({ hasText: 'coin cell was out' })).toContainText(
      'restarts and a dark screen are normal',
    );
  },
);

test(
  'the short list asks the few points before a limited supply, and says when they are enough',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Short list');
    await page.getByRole('link', { name: 'Cold', exact: true }).click();
    const list = page.getByLabel('Which points are asked');
    const rows = page.locator('.sweep-list tbody tr');
    await expect(rows.nth(40)).toBeVisible();
    const all = await rows.count();
    await list.getByText('Short list').click();
    await expect.poll(() => rows.count()).toBeLessThan(all / 3);
    const plan = page.getByRole('region', { name: 'Power-up plan' });
    await expect(plan).toContainText('Not all of the way in was measured');
    const loaded = loadSheet(sheetText('cairn-14'));
    if (!loaded.ok) throw new Error('the sheet does not load');
    const healthy = studyHealthyBoard(loaded.value);
    const few = shortList(healthy, makeSweep(healthy));
    await expect(rows).toHaveCount(few.length);
    await write(
      page,
      ...few.map(({ net, reference, expectation }): EventInput => ({
        type: 'reading',
        supersedes: [],
        reading: plainReading(
          net,
          'ohms',
          'cold',
          {
            kind: 'number',
            value:
              expectation.kind === 'value' && Number.isFinite(expectation.value)
                ? expectation.value
                : 39e6,
            trend: 'steady',
          },
          { against: reference },
        ),
      })),
    );
    await page.reload();
    await expect(plan).toContainText('Enough for a supply limited to 100 mA, not for its adapter');
    await expect(plan).toContainText('Not measured:');
    await expect(plan).not.toContainText(/\bsafe\b/);
    // The habit stays, and the whole sweep is a click away.
    await expect(rows).toHaveCount(few.length);
    await list.getByText('All points').click();
    await expect(rows).toHaveCount(all);
  },
);
