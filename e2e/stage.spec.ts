import { expect, long, test, type Page } from './page.ts';
import { drawnPicture, loadSheet, type Board, type NetId, findPart } from '@jiko/core/board';
import type { Fault } from '@jiko/core/faults';
import { hideShort, type FedBench, type HiddenShort } from '@jiko/bench';
import { openJob, setPhase } from './bench.ts';
import { hide, sheetText } from './hidden-board.ts';

// From a rail that is missing to the part that is proven, and from a gate that is wrong to the resistor.

function boardOf(id: string): Board {
  const loaded = loadSheet(sheetText(id));
  if (!loaded.ok) throw new Error(`the sheet ${id} does not load`);
  return loaded.value;
}

const line = (page: Page) => page.locator('.probe.is-stage input');
const doNext = (page: Page) => page.locator('.next-action');

async function type(page: Page, text: string): Promise<void> {
  await line(page).fill(text);
  await line(page).press('Enter');
  await expect(page.locator('.probe.is-stage')).toBeVisible();
}

/** The stage view of the job that is open, as asked. */
async function showStage(page: Page, query = ''): Promise<void> {
  const job = /\/jobs\/[^/]+/.exec(page.url())![0];
  await page.goto(`${job}/stage${query}`);
  await expect(page.getByLabel('The four questions')).toBeVisible();
}

const ohmsText = (ohms: number): string =>
  Number.isFinite(ohms) && ohms < 40e6 ? String(Number(ohms.toPrecision(3))) : 'OL';

/** Degrees over one side of the board, as a camera exports them: what the hidden bench shows. */
function gridOf(board: Board, seen: ReturnType<FedBench['camera']>): { side: string; csv: string } {
  const place = seen && drawnPicture(board).placeOf(seen.part);
  const [rows, columns] = [60, 80];
  const csv = Array.from({ length: rows }, (_, row) =>
    Array.from({ length: columns }, (_, column) => {
      const away = place
        ? Math.hypot((column + 0.5) / columns - place.u, (row + 0.5) / rows - place.v)
        : 1;
      return (24 + (seen?.rise ?? 0) * Math.exp(-((away / 0.03) ** 2))).toFixed(2);
    }).join(','),
  ).join('\n');
  return { side: place?.side ?? 'top', csv };
}

/** Does what stands under "Do next" with the hidden board, once. */
async function act(page: Page, hidden: HiddenShort, lifted: string[]): Promise<string[]> {
  const { board, net } = hidden;
  const text = (await doNext(page).getByRole('heading').textContent()) ?? '';
  const out = /lift one end of (\S+),|Take (\S+?) off/.exec(text);
  if (out) {
    const ref = (out[1] ?? out[2])!.replace(/,$/, '');
    const now = [...lifted, ref];
    await doNext(page)
      .getByRole('button', { name: `${ref} is out` })
      .click();
    await expect(page.locator('.off-board')).toContainText(ref);
    const part = findPart(board, ref);
    const sides = out[1] ? part!.pins.map((pin) => pin.net) : [];
    for (let turn = 0; turn < Math.max(1, sides.length); turn++) {
      const at = (await page.locator('.probe.is-stage .net').textContent())!.trim();
      const before = await page.locator('.hunt-done summary').textContent();
      await type(page, ohmsText(hidden.ohms(at as NetId, now)));
      await expect(page.locator('.hunt-done summary')).not.toHaveText(before!);
    }
    if (!out[1]) return now;
    await page.locator('.off-board').getByRole('button', { name: 'Put back' }).first().click();
    await expect(page.locator('.off-board')).toHaveCount(lifted.length > 0 ? 1 : 0);
    return lifted;
  }
  const volts = Number(await page.getByLabel('Set volts').inputValue());
  const limit = Number(await page.getByLabel('Set limit in amps').inputValue());
  const drops = await doNext(page).getByLabel('Millivolts', { exact: true }).count();
  if (drops > 0) {
    const at = /fed at (\S+),/.exec(text)?.[1] ?? null;
    const bench = hidden.feed(net, at, volts, limit);
    const amps = doNext(page).getByLabel('Amps shown');
    const places = await doNext(page).locator('.mv').all();
    // One hand types: Enter goes from field to field, and in the last one records.
    if ((await amps.count()) > 0) {
      await amps.fill(bench.amps.toFixed(3));
      await amps.press('Enter');
    } else await places[0]!.locator('input').focus();
    for (const one of places) {
      const ref = (await one.locator('.mono').textContent())!;
      await expect(one.locator('input')).toBeFocused();
      await page.keyboard.type((bench.drop(ref) * 1000).toFixed(1));
      await page.keyboard.press('Enter');
    }
  } else {
    const at = / at (\S+) with/.exec(text)?.[1] ?? null;
    const bench = hidden.feed(net, at, volts, limit);
    await doNext(page).getByLabel('Volts shown').fill(bench.volts.toFixed(3));
    await page.keyboard.press('Enter');
    const amps = doNext(page).getByLabel('Amps shown');
    // Enter where the amps are still missing says so, and records nothing.
    await amps.press('Enter');
    await expect(doNext(page).getByRole('status')).toContainText('amps the supply shows');
    await amps.fill(bench.amps.toFixed(3));
    await amps.press('Enter');
    const seen = bench.camera();
    if (!seen) await doNext(page).getByRole('button', { name: 'Nothing seen' }).click();
    else {
      const grid = gridOf(board, seen);
      if (grid.side === 'bottom') {
        await doNext(page).getByLabel('Side of the picture').click();
        await page.keyboard.press('ArrowDown');
        await page.keyboard.press('Enter');
      }
      await doNext(page)
        .locator('input[type=file]')
        .setInputFiles({ name: 'grid.csv', mimeType: 'text/csv', buffer: Buffer.from(grid.csv) });
      await doNext(page)
        .getByRole('button', { name: /above the rest/ })
        .first()
        .click();
    }
  }
  await expect(page.getByText(/things done on this rail/)).toBeVisible();
  return lifted;
}

for (const { id, title, seed } of [
  { id: 'cairn-14', title: 'Cairn', seed: 705 },
  { id: 'heron-15', title: 'Heron', seed: 701 },
]) {
  test(
    `a missing rail of ${id} to the part that shorts it (seed ${seed})`,
    long,
    async ({ page, request }) => {
      const board = boardOf(id);
      const hidden = hideShort(board, seed);
      if (id === 'heron-15') {
        const saved = await request.post('/api/boards', {
          data: { base: null, text: sheetText(id) },
        });
        expect(saved.ok()).toBe(true);
      }
      await openJob(page, title, `${title} with a short, seed ${seed}`);
      await page.getByRole('link', { name: 'Stage', exact: true }).click();
      await page.getByLabel('Net to take apart').click();
      await page.keyboard.type(hidden.net);
      await page
        .getByTitle(new RegExp(`^${hidden.net.replace('+', '\\+')}( |$)`))
        .first()
        .click();
      // The fourth question first: nothing is connected.
      await setPhase(page, 'Cold');
      await page.locator('.questions > li').last().getByRole('button').first().click();
      await type(page, ohmsText(hidden.ohms(hidden.net, [])));
      await expect(page.locator('.questions > li').last()).toHaveAttribute('data-answer', 'no');
      await expect(page.locator('.verdict-line')).toContainText('pulled down');
      await page.getByRole('button', { name: 'Hunt the short' }).click();
      await expect(page.getByRole('list', { name: 'What it could be' })).toBeVisible();

      // Where the rail can be split, it is split first, whatever is proposed.
      const split = page.locator('.other-actions button', { hasText: 'Split the rail' }).first();
      const canSplit = (await split.count()) > 0;
      if (canSplit) await split.click();
      let lifted: string[] = [];
      const proven = page.getByRole('status').filter({ hasText: 'was the short' });
      for (let step = 0; step < 10 && (await proven.count()) === 0; step++) {
        await expect(page.locator('.hunt')).not.toHaveClass(/is-working/);
        if ((await doNext(page).count()) === 0) break;
        lifted = await act(page, hidden, lifted);
        await expect(page.locator('.hunt')).not.toHaveClass(/is-working/);
        await page.waitForTimeout(150);
      }
      await expect(proven).toContainText(`${hidden.name} was the short`);
      // What is out stands there until it is answered.
      await page.locator('.off-board').getByRole('button', { name: 'Replaced' }).first().click();
      await expect(page.locator('.off-board')).toHaveCount(lifted.length > 1 ? 1 : 0);
    },
  );
}

test('from a gate that is wrong to the resistor that explains it', long, async ({ page }) => {
  const fault: Fault = { kind: 'open', part: 'R4' as never };
  const hidden = hide('cairn-14', fault);
  await openJob(page, 'Cairn', 'Cairn with a gate that stays up');
  await showStage(page, '?net=PQ2_G&show=pins');
  await setPhase(page, 'Standby');
  // The gate itself is on no chip's pin: it is read in Trace.
  await page.getByRole('link', { name: 'Trace' }).click();
  await page.locator('.points input').first().click();
  await page.keyboard.type('PQ2_G');
  await page.keyboard.press('Enter');
  const entry = page.getByRole('textbox', { name: /^Reading at PQ2_G/ });
  await entry.fill(hidden.volts('PQ2_G', 'standby').toFixed(3));
  await entry.press('Enter');
  await showStage(page, '?net=PQ2_G');
  const explains = page.getByLabel('What explains it');
  await expect(explains).toContainText(/R4 .* is open/);
  await explains.getByRole('button', { name: 'Check R4' }).click();
  await expect(page.locator('.check').first()).toContainText('lie beside it');
  await setPhase(page, 'Cold');
  await type(page, 'OL');
  await expect(page.locator('.check').first()).toContainText('open');
});

test('parts ticked off, pins scanned, and a pin found on its package', async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn under the microscope');
  await showStage(page, '?net=3V3_ALW&show=there');
  const list = page.getByLabel('Parts around the stage');
  await expect(list).toContainText(/0 of \d+ looked at/);
  await list.press('Enter');
  await list.press('-');
  await expect(list).toContainText(/2 of \d+ looked at/);
  await expect(list.locator('li.is-missing')).toHaveCount(1);
  await page.getByText('Pins', { exact: true }).click();
  await setPhase(page, 'Cold');
  // One run of keys: down the pins, empty Enter skips.
  const ground = page.locator('.pin-table tbody tr', { hasText: 'joined to ground' });
  await ground.click();
  await type(page, '0.3');
  await expect(ground).toContainText('300 mΩ');
  await page.getByText('Where is the pin?').click();
  await page.getByLabel('How many pins').fill('8');
  await page.getByText('SOIC', { exact: true }).click();
  await page.getByLabel('Pin looked for').fill('5');
  await expect(page.getByLabel('Pin finder')).toContainText('right side, 1st from the bottom');
});
