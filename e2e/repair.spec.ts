import { readFileSync } from 'node:fs';
import { expect, long, test, type Page } from './page.ts';
import type { Fault } from '@jiko/core/faults';
import { asked, entry, openJob, setPhase } from './bench.ts';
import { hide, type HiddenBoard } from './hidden-board.ts';

// From a proven cause to the closed job and its reports.

const fuse: Fault = { kind: 'open', part: 'F1' as never };

/** Reads what Trace asks for until the missing stage stands, or nothing more is asked. */
async function follow(
  page: Page,
  board: HiddenBoard,
  isDone: () => Promise<boolean>,
): Promise<void> {
  let phase: 'standby' | 'trying' | 'cold' = 'standby';
  for (let turn = 0; turn < 60 && !(await isDone()); turn++) {
    const wanted = await asked(page);
    if (!wanted) return;
    const said = (await page.locator('.echo').first().textContent()) ?? '';
    if (/Read in (trying|run);/.test(said)) {
      await setPhase(page, 'Trying');
      phase = 'trying';
    } else if (said.includes('Read cold;')) {
      await setPhase(page, 'Cold');
      phase = 'cold';
    } else if (said.includes('Read in standby;')) {
      await setPhase(page, 'Standby');
      phase = 'standby';
    }
    const rows = await page.locator('.readings tbody tr').count();
    const value =
      wanted.mode === 'ohms' || phase === 'cold'
        ? String(board.ohms(wanted.net))
        : board.volts(wanted.net, phase).toFixed(3);
    await entry(page).fill(value);
    await entry(page).press('Enter');
    await expect(page.locator('.readings tbody tr')).toHaveCount(rows + 1);
  }
}

async function choosePart(page: Page, label: string, ref: string): Promise<void> {
  await page.getByLabel(label).first().click();
  await page.keyboard.type(ref);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}

async function replace(page: Page, ref: string): Promise<void> {
  await page.getByRole('link', { name: 'Repair', exact: true }).click();
  const log = page.getByLabel('Repair log');
  await expect(log).toBeVisible();
  await choosePart(page, 'Parts', ref);
  await expect(log).toContainText(`What another ${ref} has to match`);
  await log.getByRole('button', { name: 'Write down' }).click();
  await expect(log.locator('.done-list')).toContainText(`${ref} replaced`);
}

const missing = (page: Page) => page.locator('.missing h3').first();

test('from a proven cause through a donor part, retest and the list to both reports', async ({
  page,
}) => {
  const dead = hide('cairn-14', fuse);
  const well = hide('cairn-14');
  // A donor on the shelf.
  await page.goto('/shelf');
  await page.getByText('Donor board', { exact: true }).click();
  await page.getByLabel('Which board, and what is wrong with it').fill('Cairn 14, cracked corner');
  await page.getByLabel('Its sheet').click();
  await page.keyboard.type('Cairn');
  await page.keyboard.press('Enter');
  await page.getByLabel('Drawer or box').fill('box 2');
  await page.getByRole('button', { name: 'Put it there' }).click();
  await expect(page.getByRole('cell', { name: 'Cairn 14, cracked corner' })).toBeVisible();
  await openJob(page, 'Cairn', 'Cairn 14 with a blown fuse');
  await setPhase(page, 'Standby');
  await follow(
    page,
    dead,
    async () => (await page.getByText('First missing stage', { exact: true }).count()) > 0,
  );
  await page.getByRole('link', { name: 'Repair', exact: true }).click();
  await expect(page.getByLabel('Proof')).toContainText('not found');
  const log = page.getByLabel('Repair log');
  await expect(log.getByRole('note')).toContainText('Never heat on or beside a cell');
  await choosePart(page, 'Parts', 'F1');
  await expect(log).toContainText('never larger, never a wire');
  await page.getByLabel('Marking of the new part').fill('7A F');
  await log.getByRole('button', { name: /^Take it: Cairn 14, cracked corner, F1, box 2/ }).click();
  await expect(log).toContainText('A spare is measured before it is fitted.');
  await log.getByText('measured before', { exact: true }).click();
  await log.getByRole('button', { name: 'Write down' }).click();
  await expect(log.locator('.done-list')).toContainText('7A F, from a donor board');
  await expect(log.locator('.done-list')).toContainText('from Cairn 14, cracked corner, F1, box 2');
  await expect(page.getByLabel('After F1')).toContainText('Never fit a larger one');

  // The same points again by keyboard; wrong ones first.
  const retest = page.getByLabel('Retest');
  const line = retest.locator('.entry input');
  const points = await retest.locator('.retest tbody tr').count();
  for (let turn = 0; turn < points; turn++) {
    const net = ((await retest.locator('.probe .net').textContent()) ?? '').trim();
    const phase = ((await retest.locator('.probe .quiet').first().textContent()) ?? '').trim();
    const value = phase.includes('cold')
      ? String(well.ohms(net))
      : well.volts(net, 'standby').toFixed(3);
    await line.fill(value);
    await line.press('Enter');
    // Another phase than the strip says is asked about once.
    if ((await retest.getByText('Enter again writes it down').count()) > 0)
      await line.press('Enter');
    await expect(line).toHaveValue('');
    await expect(line).toBeFocused();
    if ((await retest.getByText('fixed', { exact: true }).count()) > 0) break;
  }
  await expect(retest.locator('.retest')).toContainText('fixed');
  await expect(page.getByLabel('Proof')).toContainText('proven F1');
  // Read a moment after the iron: to be asked again cold.
  await expect(page.getByLabel('Open ends')).toContainText('once more when it is cold');

  const list = page.getByLabel('Before it goes back');
  await expect(list.locator('[data-item=source]')).toContainText('do not connect its own source');
  await expect(list.locator('[data-item=charging]')).toContainText('unplug the battery');
  await list.locator('[data-item=goal]').getByRole('button', { name: 'Passed' }).click();
  await list.getByLabel(/^About A soak/).fill('the owner is in a hurry');
  await list.locator('[data-item=soak]').getByRole('button', { name: 'Leave out' }).click();
  await expect(list.locator('[data-item=soak]')).toContainText('knowingly left out');

  const panel = page.getByLabel('Close the job');
  await panel.getByText('fixed', { exact: true }).click();
  // What nobody checked is said before it is closed.
  await expect(panel.getByRole('note')).toContainText(
    'checks are not passed: Every rail on the way',
  );
  await panel.getByLabel('Cause').fill('The fuse behind the socket had blown.');
  await panel.getByRole('button', { name: 'Close the job' }).click();
  await expect(panel).toContainText('fixed, proven, by Bench 1');
  await expect(panel).toContainText('F1 is likelier there');

  // It is here until its owner has it.
  await page.goto('/jobs');
  const ready = page.getByLabel('Ready to go back');
  await ready.getByRole('link', { name: 'Cairn 14 with a blown fuse' }).first().click();
  await page.getByRole('link', { name: 'Repair', exact: true }).click();
  await panel.getByRole('button', { name: 'Handed over to its owner' }).click();
  await expect(panel).toContainText('Handed over by Bench 1');

  for (const [view, says] of [
    ['For the owner', 'It works again.'],
    ['For the next technician', 'By the record: proven, F1.'],
  ] as const) {
    await page.getByRole('link', { name: 'Report' }).click();
    await page.getByText(view, { exact: true }).click();
    await expect(page.locator('article')).toContainText(says);
    const saved = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as PDF' }).click();
    const stream = await (await saved).createReadStream();
    const chunks: Buffer[] = [];
    for await (const chunk of stream) chunks.push(chunk as Buffer);
    const bytes = Buffer.concat(chunks);
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    expect(bytes.length).toBeGreaterThan(8000);
  }
  await page.getByText('For the owner', { exact: true }).click();
  const article = page.locator('article');
  await expect(article).toContainText('Replaced: fuse, from another board.');
  await expect(article).toContainText('a soak of 60 min (the owner is in a hurry)');
  await expect(article).not.toContainText('F1');

  // One wrong closing is taken out again.
  await page.getByRole('link', { name: 'Repair', exact: true }).click();
  await panel.getByRole('button', { name: 'Take it out' }).click();
  await expect(panel).toContainText('teaches the next jobs nothing');
});

test('two faults in line on Fell 13 are found one after the other', long, async ({ page }) => {
  test.setTimeout(240_000);
  const first: Fault = { kind: 'dead', part: 'U2' as never };
  const second: Fault = { kind: 'dead', part: 'U9' as never };
  await openJob(page, 'Fell', 'Fell 13 with two faults');
  await setPhase(page, 'Standby');
  const isCertain = async (): Promise<boolean> =>
    (await page.getByText('First missing stage', { exact: true }).count()) > 0;
  await follow(page, hide('fell-13', first, second), isCertain);
  const before = await missing(page).textContent();
  await replace(page, 'U2');
  await page.getByRole('link', { name: 'Trace' }).click();
  await setPhase(page, 'Standby');
  await expect(page.getByText('First missing stage', { exact: true })).toHaveCount(0);
  await follow(page, hide('fell-13', second), isCertain);
  await expect(missing(page)).not.toHaveText(before!);
  await expect(missing(page)).toContainText(/memory/i);
  await replace(page, 'U9');
  await expect(page.getByLabel('Open ends')).toBeVisible();
  await expect(page.getByLabel('After U9')).toContainText('read what it feeds');
});

test(
  'what was done without effect is not called the cause, and a job not found tells what is left',
  long,
  async ({ page }) => {
    test.setTimeout(240_000);
    const dead = hide('cairn-14', { kind: 'dead', part: 'PU9' as never });
    await openJob(page, 'Cairn', 'Cairn 14, given up');
    await setPhase(page, 'Standby');
    await follow(
      page,
      dead,
      async () => (await page.getByText('First missing stage', { exact: true }).count()) > 0,
    );
    await replace(page, 'U33');
    await page.getByRole('link', { name: 'Trace' }).click();
    await setPhase(page, 'Trying');
    // The core rail again: nothing became right.
    await page.locator('.rung', { hasText: 'Core rail' }).click();
    await entry(page).fill(dead.volts('VCORE', 'trying').toFixed(3));
    await entry(page).press('Enter');
    await page.getByRole('link', { name: 'Repair', exact: true }).click();
    await expect(page.getByLabel('Without effect')).toContainText(
      'U33 replaced: nothing became right',
    );
    await expect(page.getByLabel('Proof')).not.toContainText('proven U33');

    const panel = page.getByLabel('Close the job');
    await panel.getByText('not found', { exact: true }).click();
    await panel.getByLabel('Why it ends so').fill('no more time');
    await expect(panel.getByLabel('What is left').locator('li').first()).toBeVisible({
      timeout: 90_000,
    });
    await panel.getByRole('button', { name: 'Close the job' }).click();
    await page.getByRole('link', { name: 'Report' }).click();
    const article = page.locator('article');
    await expect(article.getByRole('heading', { name: 'Left when it was given up' })).toBeVisible();
    await expect(article.getByRole('heading', { name: 'Changed without effect' })).toBeVisible();
    await expect(article).toContainText('Outcome: not found.');
  },
);

test(
  'a slip is one line, and an old flash is saved before it is written',
  long,
  async ({ page }) => {
    await openJob(page, 'Cairn', 'Cairn 14 after a slip');
    await page.getByRole('link', { name: 'Repair', exact: true }).click();
    await page.getByRole('button', { name: 'A slip happened' }).click();
    const slip = page.getByLabel('Slip');
    await choosePart(page, 'At which parts', 'PU2');
    await slip.getByRole('button', { name: 'Write it down' }).click();
    await expect(page.getByLabel('Open ends')).toContainText(
      'two pads bridged by the probe at PU2',
    );

    await page.getByLabel('What was done').click();
    await page.getByTitle('reprogrammed').click();
    const firmware = page.getByLabel('Firmware', { exact: true });
    await expect(firmware).toContainText('the programmer gives no more than that');
    await expect(firmware).toContainText('A clip feeds these too');
    await firmware.getByRole('button', { name: 'Write down' }).click();
    await expect(firmware).toContainText('Save the old contents first');
    const file = (buffer: Buffer) => ({
      name: 'old.bin',
      mimeType: 'application/octet-stream',
      buffer,
    });
    await firmware.locator('input[type=file]').setInputFiles(file(Buffer.alloc(4096, 0xff)));
    await expect(firmware).toContainText('a blank flash, or a clip that does not touch');
    await firmware
      .locator('input[type=file]')
      .setInputFiles(file(Buffer.from('identity 0042 '.repeat(300))));
    await expect(firmware).toContainText(/4200 bytes, SHA-256 [0-9a-f]{16}/);
    await firmware.getByRole('button', { name: 'Write down' }).click();
    const list = page.getByLabel('Before it goes back');
    await expect(list.locator('[data-item=firmware]')).toBeVisible();
    // The file itself is kept with the job.
    const [saved] = await Promise.all([
      page.waitForEvent('download'),
      page.getByLabel('Old contents').getByRole('link', { name: 'old.bin' }).click(),
    ]);
    expect(readFileSync(await saved.path(), 'utf8')).toBe('identity 0042 '.repeat(300));

    // A soak runs with its end, and ends with its answer.
    const soak = list.locator('[data-item=soak]');
    await soak.getByRole('button', { name: 'Begin it now' }).click();
    await expect(soak).toContainText(/Running until \w{3} \d\d:\d\d, 60 min left/);
    await expect(page.getByLabel('Open ends')).toContainText('Waits: soak');
    await soak.getByRole('button', { name: 'Passed' }).click();
    await expect(soak).toContainText('passed');
    await expect(page.getByLabel('Open ends')).not.toContainText('Waits: soak');

    // What is printed on the spare is held against the sheet.
    await page.getByLabel('What was done').click();
    await page.getByTitle('replaced').click();
    await choosePart(page, 'Parts', 'R2');
    await page.getByLabel('Marking of the new part').fill('222');
    await expect(page.getByLabel('Repair log').getByRole('alert')).toContainText(
      '222 reads as 2.2 kΩ: the sheet says',
    );
  },
);
