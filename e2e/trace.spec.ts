import { expect, long, test } from './page.ts';
import { draw, seeded } from '@jiko/core/base';
import { asked, entry, openJob, setPhase } from './bench.ts';
import { hiddenStages, hide } from './hidden-board.ts';

for (const seed of [3, 7, 20]) {
  const hidden = draw(hiddenStages, seeded(seed));
  test(
    `seed ${seed}: following what is asked ends at "${hidden.stage}"`,
    seed === 7 ? {} : long,
    async ({ page }) => {
      const board = hide('cairn-14', hidden.fault);
      await openJob(page, 'Cairn', `Cairn 14, seed ${seed}`);
      await setPhase(page, 'Standby');
      let phase: 'standby' | 'trying' | 'cold' = 'standby';
      let readings = 0;
      const record = async (value: string): Promise<void> => {
        await entry(page).fill(value);
        await entry(page).press('Enter');
        readings++;
        await expect(page.locator('.readings tbody tr')).toHaveCount(readings);
      };
      /** The test of the likeliest suspect may come at any moment, in place of the reading. */
      const isOvertaken = async (): Promise<boolean> => {
        const test = page.locator('.probe.is-done h1');
        await expect(entry(page).or(test).first()).toBeVisible();
        return (await test.count()) > 0;
      };
      while (readings < 70) {
        const wanted = await asked(page);
        // The missing stage stands; what comes now parts the suspects.
        const why = (await page.locator('.probe .why').first().textContent()) ?? '';
        if (!wanted || why.includes('what is left')) break;
        // The interface says when the bench must be brought to another phase; nothing, where a test came.
        const [said = ''] = await page.locator('.echo').allTextContents();
        if (/Read in (trying|run);/.test(said)) {
          await setPhase(page, 'Trying');
          phase = 'trying';
        } else if (said.includes('Read cold;')) {
          await setPhase(page, 'Cold');
          phase = 'cold';
        }
        const value =
          wanted.mode === 'ohms' || phase === 'cold'
            ? String(board.ohms(wanted.net))
            : board.volts(wanted.net, phase).toFixed(3);
        if (await isOvertaken()) break;
        try {
          await record(value);
        } catch (error) {
          if (await isOvertaken()) break;
          throw error;
        }
      }
      // Instead of the suspect's own test the stage is made certain: what reads nothing is no short.
      if ((await page.locator('.probe.is-done h1').count()) > 0) {
        const net = (await page.locator('.readings tbody tr td').first().textContent()) ?? '';
        await setPhase(page, 'Cold');
        await page.getByRole('button', { name: 'Choose a point yourself' }).press('/');
        await page.keyboard.type(net);
        await page.keyboard.press('Enter');
        await expect(entry(page)).toBeVisible();
        await record(String(board.ohms(net)));
      }
      const panel = page.getByLabel('What is missing');
      await expect(panel.getByText('First missing stage', { exact: true })).toBeVisible();
      await expect(panel.getByRole('heading', { name: hidden.stage })).toBeVisible();

      await page.getByRole('link', { name: 'Report' }).click();
      await expect(page.getByText(`First missing stage: ${hidden.stage}.`)).toBeVisible();
      await expect(page.locator('.readings tbody tr')).toHaveCount(readings);
      // What is printed: the write-up alone, as a PDF of at least a page.
      await page.emulateMedia({ media: 'print' });
      await expect(page.locator('.topbar')).toBeHidden();
      const pdf = await page.pdf({ format: 'A4' });
      expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
      expect(pdf.length).toBeGreaterThan(20_000);
      await page.emulateMedia({ media: 'screen' });
      const saved = page.waitForEvent('download');
      await page.getByRole('button', { name: 'Save as Markdown' }).click();
      const text = await (await saved).createReadStream();
      let markdown = '';
      for await (const chunk of text) markdown += String(chunk);
      expect(markdown).toContain(`**First missing stage: ${hidden.stage}.**`);
    },
  );
}

test('a reading is struck out, measured again and taken back, and never lost', async ({ page }) => {
  await openJob(page, 'Cairn', 'Cairn 14, corrections');
  await setPhase(page, 'Standby');
  await entry(page).fill('1,2');
  await expect(page.locator('.echo')).toContainText('1.2 V');
  await entry(page).press('Enter');
  const rows = page.locator('.readings tbody tr');
  await expect(rows.first()).toContainText('missing');

  await page.getByRole('button', { name: 'Again' }).click();
  await entry(page).fill('19.5');
  await entry(page).press('Enter');
  await expect(rows).toHaveCount(2);
  await expect(rows.nth(0)).toContainText('good');
  await expect(rows.nth(1)).toContainText('measured again');

  await page.getByRole('button', { name: 'Strike' }).click();
  await page.getByText('probe slipped').click();
  await expect(rows.nth(0)).toContainText('struck out: probe slipped');
  await page.reload();
  await expect(rows).toHaveCount(2);
  await expect(rows.nth(0)).toContainText('struck out: probe slipped');
});

test('a numeric keypad alone records a trace', async ({ page }) => {
  await openJob(page, 'Beck', 'Beck mini, keypad');
  const press = async (keys: string): Promise<void> => {
    // The keypad's characters; with num lock on they arrive as these keys.
    for (const key of keys) await page.keyboard.press(key);
    await page.keyboard.press('NumpadEnter');
  };
  await expect(entry(page)).toBeFocused();
  await press('12.1');
  await press('5.02');
  await press('3.31');
  await press('3.3');
  // The next stage comes after the press: + moves the bench strip on.
  await expect(page.locator('.echo')).toContainText('Read in run');
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await press('0.1');
  const panel = page.getByLabel('What is missing');
  await expect(panel.getByRole('heading', { name: 'Controller asks to run' })).toBeVisible();
  await expect(page.locator('.readings tbody tr').first()).toContainText('trying');
});
