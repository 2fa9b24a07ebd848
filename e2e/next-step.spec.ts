import type { EventInput } from '@jiko/core/record';
import { plainReading } from '@jiko/testing';
import { expect, long, test } from './page.ts';
import { entry, openJob, setPhase, write } from './bench.ts';

// The middle of the page names a suspect's own test where readings would hardly change anything.

const attached = ['panel', 'storage'];

const volts = (net: string, phase: 'standby' | 'pressed' | 'run', value: number): EventInput => ({
  type: 'reading',
  supersedes: [],
  reading: plainReading(
    net,
    'volts',
    phase,
    { kind: 'number', value, trend: 'steady' },
    { attached },
  ),
});

test(
  'a button line that does not move: the button is tested, not what comes after it',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Still');
    await write(
      page,
      volts('3V3_AON', 'standby', 3.3),
      volts('MCU_RST#', 'standby', 3.3),
      volts('BTN#', 'standby', 3.3),
      volts('BTN#', 'pressed', 3.29),
    );
    const card = page.locator('.probe.is-done');
    await expect(card).toContainText('SW1 open', { timeout: 60_000 });
    await expect(card).toContainText('with tweezers');
    await expect(page.locator('.missing').first()).toContainText('does not move');
    // The line is one key away: nothing is taken from the hand that would rather read.
    await card.getByRole('button', { name: 'Choose a point yourself' }).click();
    await expect(page.getByRole('textbox', { name: /^Reading at/ })).toBeVisible();
  },
);

test(
  'a known short: nothing beside it asks for volts, and the way to the short is one click',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Short');
    const cold = volts('3V3_AON', 'standby', 0.4) as Extract<EventInput, { type: 'reading' }>;
    await write(page, volts('VSYS', 'standby', 19.9), {
      ...cold,
      reading: { ...cold.reading, mode: 'ohms', phase: 'cold' },
    });
    const card = page.locator('.probe.is-done');
    await expect(card).toContainText('Low resistance on 3V3_AON', { timeout: 60_000 });
    await expect(card).toContainText('before any source is connected');
    await expect(card.getByRole('note')).toContainText('source off');
    await expect(page.locator('.suspects')).not.toContainText('volts, standby');
    await card.getByRole('link', { name: /Look for the short on 3V3_AON/ }).click();
    await expect(page).toHaveURL(/stage\?net=3V3_AON&show=short/);
  },
);

test(
  'a search for another point is not taken away by the test that comes up meanwhile, and / opens it there too',
  long,
  async ({ page }) => {
    await openJob(page, 'Fell', 'Search');
    await write(
      page,
      volts('3V3_AON', 'standby', 3.3),
      volts('MCU_RST#', 'standby', 3.3),
      volts('BTN#', 'standby', 3.3),
    );
    const search = page.locator('.probe .points input').first();
    await entry(page).press('/');
    await page.keyboard.type('prim');
    // Another tab reads what makes a suspect lead.
    const other = await page.context().newPage();
    await other.goto(page.url());
    await setPhase(other, 'Pressed');
    await entry(other).press('/');
    await other.keyboard.type('BTN#');
    await other.keyboard.press('Enter');
    await entry(other).fill('3.29');
    await entry(other).press('Enter');
    await expect(other.locator('.probe.is-done')).toContainText('SW1 open', { timeout: 60_000 });
    await expect(page.locator('.suspects')).toContainText('SW1 open', { timeout: 60_000 });
    await expect(search).toBeFocused();
    await expect(search).toHaveValue('prim');
    // A name that the sheet does not have is asked about, and the question stays as well.
    await search.fill('spot by the coil');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'Make it' })).toBeFocused();
    // Let go of, it gives way; there / searches as well.
    await page.getByRole('button', { name: 'No', exact: true }).click();
    await expect(page.locator('.probe.is-done')).toBeVisible();
    await page.getByRole('button', { name: 'Choose a point yourself' }).press('/');
    await page.keyboard.type('prim_en', { delay: 5 });
    await page.keyboard.press('Enter');
    await expect(page.locator('.probe')).toHaveAttribute('data-net', 'PRIM_EN');
  },
);

test('every net of the goal reads right and it does not start: what lies past the rails is tried', async ({
  page,
}) => {
  await openJob(page, 'Fell', 'Past the rails');
  await write(page, volts('PLTRST#', 'run', 3.3));
  const card = page.locator('.probe.is-done');
  await expect(card.locator('.order')).toHaveText('See whether it boots now.');
  await card.getByRole('button', { name: 'it boots' }).click();
  await expect(card.locator('.order')).toHaveText('Verify the rest, then write it up.');
  await card.getByRole('button', { name: 'it does not' }).click();
  // Memory is soldered on this board, and settings are the first thing left.
  await expect(card.locator('.order')).toHaveText('Clear the settings: coin cell out for minutes.');
  await expect(card.getByRole('note')).toContainText('Source off and battery unplugged');
  const past = page.getByLabel('Past the rails');
  await expect(past).toContainText('The nets of the goal read right, and it does not start');
  // By keys: an arrow moves among the answers, Enter answers.
  await card.getByRole('button', { name: 'helped' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(card.locator('.order')).toHaveText('Start it with only what it needs.');
  await expect(card.getByRole('button', { name: 'no change' })).toBeFocused();
  await expect(past.locator('li', { hasText: 'Settings cleared' })).toContainText('no change');
  await card.getByRole('button', { name: 'cannot be done' }).click();
  await expect(card).toContainText('Without its clock');
  await card.getByRole('button', { name: 'all clocks run' }).click();
  await expect(card.getByRole('note')).toContainText('volts of the flash');
  await card.getByRole('button', { name: 'the contents are wrong' }).click();
  await expect(card.locator('.order')).toHaveText('Mend what was found, then look again.');
  await page.reload();
  await expect(card).toContainText('with the serial number and address of this board');
  // A slip of the hand is taken back.
  await card.getByRole('button', { name: 'the contents are wrong' }).click();
  await expect(card.locator('.order')).toHaveText(
    'Read the flash, keep its contents, compare them.',
  );
  await page.getByRole('link', { name: 'Report' }).click();
  await expect(page.getByText('Clocks and crystals, with a scope: all clocks run')).toBeVisible();
});
