import { randomFillSync } from 'node:crypto';
import { deflateSync } from 'node:zlib';
import { expect, long, test, type Page } from './page.ts';
import type { PartRef } from '@jiko/core/board';
import { openJob, openJobByHand, write } from './bench.ts';
import { sweepOf } from './hidden-board.ts';

// From the counter to the first powered reading, one step feeding the next.

const shorted = {
  kind: 'pins-short',
  part: 'C40' as PartRef,
  pins: ['1', '2'],
  ohms: 0.4,
} as const;

/** A picture of noise, which does not compress: width x height x 3 bytes and a little. */
function noise(width: number, height: number): Buffer {
  const rows = Buffer.alloc(height * (width * 3 + 1));
  randomFillSync(rows);
  for (let y = 0; y < height; y++) rows[y * (width * 3 + 1)] = 0;
  const table = Uint32Array.from({ length: 256 }, (_, n) => {
    let c = n;
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
    return c >>> 0;
  });
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    let crc = 0xffffffff;
    for (const byte of body) crc = table[(crc ^ byte) & 255]! ^ (crc >>> 8);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE((crc ^ 0xffffffff) >>> 0);
    return Buffer.concat([length, body, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(rows, { level: 0 })),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

const coldEntry = (page: Page) => page.getByRole('textbox', { name: /^Cold reading at/ });
const tab = (page: Page, name: string) => page.getByRole('link', { name, exact: true }).click();

test('a job is taken in by keyboard alone, and its draft outlives the page', async ({ page }) => {
  await page.goto('/jobs/new');
  // The boards come from the server: there is nothing to choose before they are there.
  await page.waitForLoadState('networkidle');
  await expect(page.getByLabel('Device')).toBeFocused();
  await page.keyboard.type('Cairn 14 from the counter');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Cairn');
  // Nobody presses Enter before the list stands there; a test would.
  await expect(page.locator('.ant-select-item-option-active')).toContainText('Cairn');
  await page.keyboard.press('Enter');
  // Nor types on before the board is taken.
  await expect(page.getByText('boots', { exact: true }).first()).toBeVisible();
  await page.keyboard.press('Tab');
  await expect(page.getByLabel("Complaint, in the owner's words")).toBeFocused();
  await page.keyboard.type('Tea went over it.');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  await page.reload();
  await expect(page.getByLabel('Device')).toHaveValue('Cairn 14 from the counter');
  await expect(page.getByLabel("Complaint, in the owner's words")).toHaveValue('Tea went over it.');
  await expect(page.getByRole('checkbox', { name: 'liquid' })).toBeChecked();
  await page.getByLabel('Agreed working time').focus();
  await page.keyboard.type('90');
  await page.keyboard.press('Control+Enter');
  const facts = page.getByRole('region', { name: 'What came in' });
  await expect(facts).toContainText('Tea went over it.');
  await expect(facts).toContainText('liquid');
  await expect(facts).toContainText('90 min');
  // The draft is gone with the job it became.
  await page.goto('/jobs/new');
  await expect(page.getByLabel('Device')).toHaveValue('');
});

test('one job through every step to the first powered reading', async ({ page }) => {
  test.setTimeout(240_000);
  await openJobByHand(page, 'Cairn', 'Cairn 14 with a short behind');

  await test.step('simple things, signs and what they mean at once', async () => {
    await tab(page, 'Door');
    const simple = page.getByRole('region', { name: 'Simple things first' });
    await simple.getByLabel('Another source and another lead').getByText('no change').click();
    await expect(simple).toContainText('The source is ruled out.');
    await simple.getByRole('spinbutton', { name: 'Leads shorted together' }).fill('0.2');
    await page.keyboard.press('Enter');
    const signs = page.getByRole('region', { name: 'First signs' });
    await signs.getByLabel('Draws', { exact: true }).fill('0.026');
    await page.keyboard.press('Enter');
    await expect(signs.locator('.sign-log')).toContainText('26 mA');
    await signs.getByLabel('Draws', { exact: true }).fill('0.057');
    await page.keyboard.press('Enter');
    await expect(signs.locator('.meaning')).toContainText('Suspend rails', { timeout: 90_000 });
    await signs.getByText('What this board draws where it stops').click({ timeout: 90_000 });
    await expect(signs.locator('.stops')).toContainText('Core rail');
  });

  await test.step('making safe is remembered with the job', async () => {
    const safe = page.getByRole('region', { name: 'Make safe' });
    await expect(safe).toContainText('6 steps not noted');
    await safe
      .getByLabel('Battery unplugged first, before any screw near the board')
      .getByText('done')
      .click();
    await expect(safe).toContainText('5 steps not noted');
    await page.reload();
    await expect(safe).toContainText('5 steps not noted');
  });

  await test.step('what is seen is marked, sorted by what it could do, and cleared', async () => {
    await tab(page, 'Look');
    const list = page.getByRole('group', { name: 'Findings' });
    await expect(list).toContainText('unknown, not fine');
    await page.locator('[data-ref=J4]').click();
    await page.getByLabel('How it looks').fill('dust');
    await page.getByLabel('What is seen').getByText('corrosion').click();
    // Nearer, and the picture still knows what is clicked; a close-up goes with the mark.
    await page.getByRole('button', { name: 'Nearer' }).click();
    await page.locator('[data-ref=C40]').click();
    await page
      .getByRole('group', { name: 'Part' })
      .locator('input[type=file]')
      .setInputFiles({ name: 'c40.png', mimeType: 'image/png', buffer: noise(60, 40) });
    await expect(page.getByText('kept, goes with the mark')).toBeVisible();
    await page.getByLabel('What is seen').getByText('burnt').click();
    await expect(list.getByRole('img', { name: 'close-up of C40' })).toBeVisible();
    await expect(list.locator('ol li').first()).toContainText('C40 burnt');
    await list
      .locator('ol li', { hasText: 'J4' })
      .getByRole('button', { name: 'Harmless' })
      .click();
    await page.getByLabel('Why it does no harm').fill('only dust');
    await page.keyboard.press('Enter');
    await expect(list).toContainText('J4, corrosion: only dust');
    await expect(list.locator('ol li')).toHaveCount(1);
  });

  const sweep = sweepOf('cairn-14', shorted);
  await test.step('the sweep is typed without the mouse; the cold page says what was skipped', async () => {
    await tab(page, 'Cold');
    await expect(page.getByRole('note').first()).toContainText(
      'Not noted: Source off and unplugged',
    );
    for (const [index, { net, reference, mode, text }] of sweep.slice(0, 12).entries()) {
      const name = `Cold reading at ${net}${reference ? ` against ${reference}` : ''} in ${mode}`;
      const line = page.getByRole('textbox', { name, exact: true });
      await expect(line, `point ${index + 1}`).toBeFocused();
      await page.keyboard.type(text);
      await page.keyboard.press('Enter');
    }
    const rows = page.locator('.sweep-list tbody tr');
    await expect(rows.nth(0)).toContainText('good');
    await expect(rows.nth(12)).toContainText('not read');
  });

  await test.step('sixty rows are pasted, the bad ones named by line', async () => {
    const grounded = sweep.filter((one) => one.reference === null).slice(0, 60);
    const slip = grounded.findIndex(({ net, mode }) => net === 'VMAIN' && mode === 'ohms');
    const lines = grounded.map(({ net, mode, text }, index) =>
      [index === slip ? 'VMIAN' : net, mode, index === 41 ? 'four' : text].join('\t'),
    );
    await page.getByRole('button', { name: 'Paste a table' }).click();
    await page.getByLabel('Table of readings').fill(['net\tmode\tvalue', ...lines].join('\n'));
    const trouble = page.getByRole('alert');
    await expect(trouble).toContainText('2 rows cannot be read');
    await expect(trouble).toContainText(`Line ${slip + 2}: there is no net or point "VMIAN"`);
    await expect(trouble).toContainText('Line 43');
    await page
      .getByRole('button', { name: `Keep the ${grounded.length - 2} readings, leave 2 rows out` })
      .click();
    await expect(coldEntry(page)).toBeVisible();
    const short = page.getByRole('heading', { name: /^Short on 1V8_S5/ });
    await expect(short).toBeVisible();
  });

  await test.step('the plan names the short and what was not measured, and forces nothing', async () => {
    const plan = page.getByRole('region', { name: 'Power-up plan' });
    await expect(plan).toContainText('Fed by PU4 from 3V3_ALW');
    await expect(plan).toContainText('No short found at');
    await expect(plan).toContainText('Not measured: VMAIN');
    await expect(plan).toContainText('It will stop at a short');
    await expect(plan).not.toContainText(/\bsafe\b/);
    await expect(plan).toContainText('Connect, do not press: about 26 mA');
    await plan.getByLabel('Connect, do not press: it draws').fill('0.026');
    await page.keyboard.press('Enter');
    await expect(plan).toContainText('about 26 mA when healthy.');
    await plan.getByLabel('19.5 V adapter unplugged reads').fill('24');
    await page.keyboard.press('Enter');
    await expect(plan).toContainText('do not connect it');
    await plan.getByLabel('Into the battery flow').fill('3.5');
    await page.keyboard.press('Enter');
    await expect(plan).toContainText('unplug the battery now');
    await plan.getByRole('button', { name: /^I power it/ }).click();
    await expect(page.locator('.missing').first()).toContainText('1V8_S5');
  });

  await test.step('the trace starts from all of it: the short leads before a volt is read', async () => {
    await expect(page.locator('.suspect-title').first()).toContainText('1V8_S5', {
      timeout: 60_000,
    });
    await tab(page, 'Look');
    const way = page.locator('.path');
    await expect(way.locator('.hop', { hasText: 'VIN_JACK' })).toContainText('180 kΩ');
    await expect(way.locator('.hop.is-bad')).toContainText('1V8_S5');
    await tab(page, 'Report');
    await expect(page.getByRole('heading', { name: 'Powered' })).toBeVisible();
    await expect(page.getByText('Bench supply at the jack by Bench 1')).toBeVisible();
    await expect(page.getByText('J4 corrosion, dust, harmless: only dust')).toBeVisible();
  });
});

test(
  'a photo of twenty megabytes is taken, a broken one refused; parts placed on it serve every job',
  long,
  async ({ page }) => {
    test.setTimeout(240_000);
    await openJob(page, 'Beck', 'Beck mini under the lens');
    await tab(page, 'Look');
    const photo = page.locator('.look-bar input[type=file]');
    await photo.setInputFiles({
      name: 'broken.png',
      mimeType: 'image/png',
      buffer: noise(40, 40).subarray(0, 900),
    });
    await expect(page.getByRole('alert')).toContainText('broken.png is broken');
    const large = noise(3000, 2400);
    expect(large.length).toBeGreaterThan(20 * 1024 * 1024);
    await photo.setInputFiles({ name: 'board.png', mimeType: 'image/png', buffer: large });
    const picture = page.getByRole('img', { name: 'Board, top side' });
    await expect(picture).toHaveAttribute('data-aspect', '1.2500', { timeout: 60_000 });

    const find = async (ref: string): Promise<void> => {
      await page.getByLabel('Find a part').click();
      await page.keyboard.type(ref);
      await page.keyboard.press('Enter');
      await expect(page.getByRole('group', { name: 'Part' })).toContainText(ref);
    };
    await find('R1');
    await page.getByRole('button', { name: 'Place it here' }).click();
    const box = (await picture.boundingBox())!;
    await picture.click({ position: { x: box.width * 0.4, y: box.height * 0.6 } });
    // It stands where it was put, whatever room the frame leaves beside the picture.
    const put = page.locator('[data-ref=R1] rect');
    await expect(put).toHaveCount(1);
    const there = (await put.boundingBox())!;
    const frame = (await picture.boundingBox())!;
    expect((there.x + there.width / 2 - frame.x) / frame.width).toBeCloseTo(0.4, 1);
    expect((there.y + there.height / 2 - frame.y) / frame.height).toBeCloseTo(0.6, 2);

    await openJob(page, 'Beck', 'Another Beck mini');
    await tab(page, 'Look');
    await expect(picture).toHaveAttribute('data-aspect', '1.2500', { timeout: 60_000 });
    await expect(page.locator('[data-ref=R1]')).toHaveCount(1);
    // A click beside it means the part.
    await picture.click({ position: { x: box.width * 0.4 + 6, y: box.height * 0.6 } });
    await expect(page.getByRole('group', { name: 'Part' })).toContainText('R1');
  },
);

test(
  'what a job waits for, orders, time and the owner decide what can be done now',
  long,
  async ({ page }) => {
    // A name of its own, so that a second try finds one row as well.
    const device = `Fell 13 that waits ${Date.now().toString(36)}`;
    await openJob(page, 'Fell', device);
    await tab(page, 'Door');
    const desk = page.getByRole('region', { name: 'Waits, parts and time' });
    await desk.getByLabel('Part to order').fill('U11 core regulator');
    await page.keyboard.press('Enter');
    await expect(desk).toContainText('U11 core regulator to order');
    await desk.getByLabel('Minutes spent').fill('45');
    await page.keyboard.press('Enter');
    await expect(desk).toContainText('45 min spent');
    await desk.getByLabel('What it waits for').fill('the regulator');
    await page.keyboard.press('Enter');
    await expect(desk).toContainText('waits for a part: the regulator');
    const row = (group: string) =>
      page.getByRole('region', { name: group }).getByRole('row', { name: device });
    await tab(page, '← Jobs');
    await expect(row('Waits')).toContainText('to order: U11 core regulator');
    await row('Waits').getByRole('link').click();
    await desk.getByRole('button', { name: 'It is over' }).click();
    await desk.getByLabel('Found beyond the limit').fill('The memory rail is shorted as well.');
    await desk.getByLabel('Asked of the owner').fill('an hour more');
    await page.keyboard.press('Enter');
    await tab(page, '← Jobs');
    await expect(row('Waits')).toContainText("the owner's yes: an hour more");
    await row('Waits').getByRole('link').click();
    await desk.getByRole('button', { name: 'Owner says yes' }).click();
    await tab(page, '← Jobs');
    await expect(row('Can be worked on now')).toBeVisible();

    // A finding beyond what was agreed asks from where it is seen.
    await row('Can be worked on now').getByRole('link').click();
    await tab(page, 'Look');
    await page.getByLabel('Find a part').click();
    await page.keyboard.type('U11');
    await page.keyboard.press('Enter');
    await page.getByLabel('What is seen').getByText('burnt').click();
    await page.getByRole('button', { name: 'Ask owner' }).click();
    await page.getByLabel('What the owner is asked').fill('a new regulator');
    await page.keyboard.press('Enter');
    await tab(page, 'Door');
    await expect(desk).toContainText('U11 burnt Asked: a new regulator');
  },
);

test('a spot counts once it is said which part or net it belongs to', long, async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14, a spot');
  await write(page, {
    type: 'finding',
    kind: 'corrosion',
    part: null,
    place: null,
    attachment: null,
    text: 'green, beside the coil',
  });
  await tab(page, 'Look');
  const list = page.getByRole('group', { name: 'Findings' });
  await expect(list).toContainText('at no part or net yet');
  await list.getByLabel('Part or net of the spot').click();
  await page.keyboard.type('3V3_ALW');
  await page.locator('.ant-select-item-option', { hasText: /^3V3_ALW/ }).click();
  await expect(list.locator('ol li')).toContainText('A spot on 3V3_ALW corrosion');
  // Said again: it was the coil.
  await list.getByLabel('Part or net of the spot').click();
  await page.keyboard.type('PL1');
  await page.keyboard.press('Enter');
  await expect(list.locator('ol li')).toContainText('PL1 corrosion');
  await tab(page, 'Report');
  await expect(page.getByText('PL1 corrosion')).toBeVisible();
});

test('what a cable meter shows at the plug is a sign by itself', long, async ({ page }) => {
  await openJob(page, 'Fell', 'Fell 13, 5 V and no more');
  await tab(page, 'Door');
  const signs = page.getByRole('region', { name: 'First signs' });
  await signs.getByLabel('At the plug').fill('5.1');
  await page.keyboard.press('Enter');
  await expect(signs.locator('.sign-log')).toContainText('5.1 V at the plug');
  await expect(signs.locator('.meaning')).toContainText('Stops at USB-C bus', { timeout: 90_000 });
});
