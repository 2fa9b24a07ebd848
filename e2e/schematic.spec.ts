import { expect, long, test, type Page } from './page.ts';
import { loadSheet, type PartRef } from '@jiko/core/board';
import { asked, entry, openJob, setPhase } from './bench.ts';
import { hide, sheetText } from './hidden-board.ts';

// The schematic beside the board: pages, search, what was read drawn on them, and what they say taken
// into the sheet.

const schematic = new URL('../sheets/cairn-14.schematic.pdf', import.meta.url).pathname;
const netlist = new URL('../packages/core/src/formats/fixtures/by-hand.net', import.meta.url)
  .pathname;

/** The page that is drawn, once it is. */
const drawn = (page: Page) => page.locator('.page-frame canvas[data-drawn]').first();
const shownPage = (page: Page) => page.locator('.page-frame').getAttribute('data-page');

async function record(page: Page, text: string): Promise<void> {
  await entry(page).fill(text);
  await entry(page).press('Enter');
  await expect(entry(page)).toHaveValue('');
}

test(
  'pages are searched by nets, whatever the spelling, and left by F3',
  long,
  async ({ page }) => {
    await page.goto('/boards/cairn-14/schematic');
    await expect(drawn(page)).toBeVisible({ timeout: 20_000 });
    await page.keyboard.press('Control+f');
    await page.keyboard.type('pltrst_n');
    const hits = page.getByRole('list', { name: 'Hits' }).getByRole('button');
    await expect(hits.first()).toContainText('PLTRST#');
    const first = await shownPage(page);
    await page.keyboard.press('F3');
    await page.keyboard.press('F3');
    await expect.poll(() => shownPage(page)).not.toBe(first);
    await page.keyboard.press('Shift+F3');
    await page.keyboard.press('Shift+F3');
    await expect.poll(() => shownPage(page)).toBe(first);
    // A net by its other name, and a value.
    await page.getByLabel('Search the pages').fill('B+');
    await expect(hits.first()).toContainText('VMAIN');
    await page.getByLabel('Search the pages').fill('no such thing');
    await expect(page.getByText('not found')).toBeVisible();
    // The place is kept.
    await page.getByLabel('Search the pages').fill('PU9');
    const there = await shownPage(page);
    await page.reload();
    await expect(drawn(page)).toBeVisible({ timeout: 20_000 });
    expect(await shownPage(page)).toBe(there);
  },
);

test(
  'beside Trace the page goes along, shows what was read, and a click on a name is a choice',
  long,
  async ({ page, context }) => {
    await openJob(page, 'Cairn', 'Cairn 14 with its schematic');
    await setPhase(page, 'Standby');
    await record(page, '19.5');
    await entry(page).press('w');
    await expect(drawn(page)).toBeVisible({ timeout: 20_000 });
    // The reading stands beside its name, with its verdict as a shape.
    await page.getByLabel('Search the pages').fill('VIN_JACK');
    await expect(page.locator('.page-mark', { hasText: '19.5 V' }).first()).toBeVisible();
    // What is asked now is expected, and marked.
    await page.getByLabel('Search the pages').fill('3V3_ALW');
    const name = page.locator('rect[data-name="3V3_ALW"]').first();
    await name.click();
    await expect(page.locator('.probe')).toHaveAttribute('data-net', '3V3_ALW');
    await expect(page.locator('.page-mark.is-asked').first()).toContainText('expect 3.3 V');

    // A window of its own goes along, and what is clicked there comes back.
    const opened = context.waitForEvent('page');
    await page.getByRole('button', { name: 'In a window of its own' }).click();
    const other = await opened;
    await expect(drawn(other)).toBeVisible({ timeout: 20_000 });
    await page.getByLabel('Bench').getByText('Standby', { exact: true }).click();
    await entry(page).focus();
    await page.keyboard.press('ArrowDown');
    const next = (await page.locator('.probe').getAttribute('data-net')) ?? '';
    await expect(other.locator(`rect.is-chosen`).first()).toBeVisible();
    expect(next).not.toBe('3V3_ALW');
    await other.getByLabel('Search the pages').fill('VCORE');
    await other.locator('rect[data-name="VCORE"]').first().click();
    await expect(page.locator('.probe')).toHaveAttribute('data-net', 'VCORE');
    await other.close();
  },
);

test(
  'a sheet from choices and a schematic, ticked by keyboard, leads to the missing stage',
  long,
  async ({ page }) => {
    test.setTimeout(150_000);
    const hidden = hide('cairn-14', { kind: 'dead', part: 'PU5' as PartRef });
    const loaded = loadSheet(sheetText('cairn-14'));
    if (!loaded.ok) throw new Error('the sheet does not load');
    const known = new Set(loaded.value.nets.map((one) => one.id as string));

    await page.goto('/boards');
    await page.getByRole('button', { name: 'A first sheet' }).click();
    await page.getByPlaceholder('its name').fill('Hut spare');
    await page.getByText('What you can see of it').click();
    for (const choice of [
      'Barrel, two P-channel FETs',
      'One dual regulator with two LDOs',
      'Chipset with suspend rails',
    ])
      await page.locator('.choices').getByText(choice, { exact: true }).click();
    await page.getByRole('button', { name: 'Make it and open it in Edit' }).click();
    await page.waitForURL('**/boards/hut-spare/edit');
    await page.goto('/boards/hut-spare/schematic');
    await expect(page.getByText('No schematic yet.')).toBeVisible();
    await page.locator('input[type=file]').setInputFiles({
      name: 'wrong.pdf',
      mimeType: 'application/pdf',
      buffer: Buffer.from('<b>no pdf</b>'),
    });
    await expect(page.getByRole('alert')).toContainText('wrong.pdf is no PDF. Nothing was stored.');
    await page.locator('input[type=file]').setInputFiles(schematic);
    await expect(drawn(page)).toBeVisible({ timeout: 30_000 });

    await page.getByRole('button', { name: 'Read from it' }).focus();
    await page.keyboard.press('Enter');
    const look = page.getByRole('button', { name: /ticked would change/ });
    await expect(look).toBeEnabled({ timeout: 20_000 });
    // One of them unticked by the space bar, and ticked again.
    const box = page.getByLabel('Take VIN_JACK');
    await box.focus();
    await page.keyboard.press('Space');
    await expect(box).not.toBeChecked();
    await page.keyboard.press('Space');
    await expect(box).toBeChecked();
    await look.focus();
    await page.keyboard.press('Enter');
    await expect(page.locator('.take-preview')).toContainText('1V05_S5_EN is 1V8_PG');
    await expect(page.locator('.take-preview')).not.toContainText('Doubtful');
    await page.getByRole('button', { name: 'Keep as a new version of the sheet' }).focus();
    await page.keyboard.press('Enter');
    // What was taken in is not offered again.
    await expect(page.getByLabel('Take VIN_JACK')).toHaveCount(0, { timeout: 20_000 });

    await openJob(page, 'Hut spare', 'Hut spare from Rime Hut');
    const named = page.locator('.missing', { hasText: 'First missing stage' });
    for (let step = 0; step < 25 && (await named.count()) === 0; step++) {
      const point = await asked(page);
      if (!point) break;
      const phase = await page.locator('.probe').getAttribute('data-phase');
      if (phase === 'cold') await setPhase(page, 'Cold');
      else await setPhase(page, phase === 'run' ? 'Trying' : 'Standby');
      const volts = () => hidden.volts(point.net, phase === 'standby' ? 'standby' : 'trying');
      await record(
        page,
        !known.has(point.net)
          ? '?'
          : point.mode === 'ohms'
            ? hidden.ohms(point.net).toFixed(0)
            : volts().toFixed(2),
      );
    }
    await expect(named).toContainText('1 V suspend rail');
    await expect(named).toContainText('1V05_S5');
  },
);

test(
  'a netlist is looked at before it is kept, and a sheet is written for other programs',
  long,
  async ({ page }) => {
    await page.goto('/boards');
    await page.locator('input[type=file]').setInputFiles(netlist);
    const panel = page.getByLabel('Take a file in');
    await expect(panel).toContainText('KiCad netlist: 7 changes');
    await expect(panel).toContainText('line 12: R1 is there twice');
    await page.getByRole('button', { name: 'Keep it as a new sheet' }).click();
    await page.waitForURL('**/boards/by-hand/edit');
    await expect(page.getByText('U1').first()).toBeVisible();

    await page.goto('/boards');
    const row = page.getByRole('row', { name: /Cairn 14/ });
    await row.getByRole('button', { name: 'Save as file' }).click();
    const saved = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: /KiCad netlist/ }).click();
    const file = await (await saved).createReadStream();
    let text = '';
    for await (const chunk of file) text += String(chunk);
    expect(text).toContain('(comp (ref "PU9")');
    // Into the board it came from it changes nothing.
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'cairn.net', mimeType: 'text/plain', buffer: Buffer.from(text) });
    await page.getByLabel('Into which sheet').click();
    await page.keyboard.type('Cairn 14');
    await page.keyboard.press('Enter');
    await expect(panel).toContainText('it changes nothing', { timeout: 20_000 });
    await expect(page.getByRole('button', { name: 'Keep it as a new version' })).toBeDisabled();
  },
);

test(
  'Edit and the schematic go along; a pin table is read by a box drawn around it',
  long,
  async ({ page, context }) => {
    await page.goto('/boards/cairn-14/edit');
    await expect(page.getByText('Nothing found wrong')).toBeVisible({ timeout: 30_000 });
    const opened = context.waitForEvent('page');
    await page.getByRole('button', { name: 'Schematic' }).click();
    const other = await opened;
    await expect(drawn(other)).toBeVisible({ timeout: 20_000 });
    await page.getByLabel('Search the table').fill('PLTRST#');
    await page.locator('.dsg-cell:has(input[value="PLTRST#"])').first().click();
    await expect(other.locator('rect.is-chosen').first()).toBeVisible();
    await other.getByLabel('Search the pages').fill('PU9');
    await other.locator('rect[data-name="PU9"]').first().click();
    await expect(page.getByLabel('Search the table')).toHaveValue('PU9');

    // The chip as it is drawn serves as its table: numbers beside the names in each row.
    await other.getByLabel('Search the pages').fill('');
    await other.getByRole('button', { name: 'Pin table' }).click();
    await other.getByRole('button', { name: 'Whole' }).click();
    const sheet = (await other.locator('.page-sheet').boundingBox())!;
    await other.mouse.move(sheet.x + sheet.width * 0.05, sheet.y + sheet.height * 0.1);
    await other.mouse.down();
    await other.mouse.move(sheet.x + sheet.width * 0.3, sheet.y + sheet.height * 0.3);
    await other.mouse.up();
    const panel = other.getByLabel('Pin table');
    await expect(panel.locator('tr').first()).toBeVisible();
    await panel.getByLabel('Chip').click();
    await other.keyboard.type('PU9');
    await other.keyboard.press('Enter');
    await expect(panel).toContainText(/\d pins get their numbers|Nothing of it is new/);
  },
);
