import { expect, long, test, type Page } from './page.ts';
import { seeded } from '@jiko/core/base';
import { loadSheet } from '@jiko/core/board';
import { parseFault } from '@jiko/core/faults';
import { benchSetup } from '@jiko/core/play';
import { hideFaults, type HiddenBoard } from '@jiko/bench';
import { usualMeter, type Phase, type ReadingValue } from '@jiko/core/readings';
import { entry, openJob, setPhase } from './bench.ts';
import { sheetText } from './hidden-board.ts';

/** A board that is not quite the sheet's, with a fault in it, on a bench with nothing attached. */
function hiddenOn(id: string, text: string): HiddenBoard {
  const loaded = loadSheet(sheetText(id));
  if (!loaded.ok) throw new Error(`the sheet ${id} does not load`);
  const fault = parseFault(loaded.value, text);
  if (!fault.ok) throw new Error(text);
  return hideFaults(
    loaded.value,
    benchSetup(loaded.value, { attached: [] }),
    [fault.value],
    seeded(8),
    {
      badContact: 0,
      meter: usualMeter,
    },
  );
}

const typed = (value: ReadingValue): string =>
  value.kind === 'number'
    ? String(Number(value.value.toFixed(4)))
    : value.kind === 'swinging'
      ? `${value.low.toFixed(2)}/${value.high.toFixed(2)}`
      : 'OL';

/** Title and probability of the leading suspect. */
async function leader(page: Page): Promise<{ title: string; percent: number }> {
  const first = page.locator('.suspect').first();
  await expect(first).toBeVisible({ timeout: 40_000 });
  const share = (await first.locator('.mono').textContent()) ?? '';
  return {
    title: (await first.locator('.suspect-title').textContent()) ?? '',
    percent: share.includes('>') ? 99 : Number.parseInt(share),
  };
}

// One of each depth of sheet; more faults are followed without a browser, in the core's closed loop.
for (const { sheet, board, fault, group, says } of [
  {
    sheet: 'cairn-14',
    board: 'Cairn',
    fault: 'R10:drift=10',
    group: /^R10/,
    says: 'Always-on LDOs',
  },
  { sheet: 'fell-13', board: 'Fell', fault: 'U9.EN:trace-open', group: /U9/, says: 'Memory rail' },
  { sheet: 'beck-mini', board: 'Beck', fault: 'R4:open', group: /R4|regulator of VCORE/, says: '' },
]) {
  test(
    `${board}, ${fault}: the shortest way ends at the right group, with its reasons`,
    long,
    async ({ page }) => {
      test.setTimeout(180_000);
      const hidden = hiddenOn(sheet, fault);
      await openJob(page, board, `${board} with ${fault}`);
      await setPhase(page, 'Standby');
      await page.getByText('Shortest', { exact: true }).click();
      await leader(page);
      // Proposals may change until every fault was played.
      await expect(page.getByText('Playing every fault of this board once')).toHaveCount(0, {
        timeout: 90_000,
      });
      let phase: Phase = 'standby';
      for (let readings = 0; readings < 16; readings++) {
        if ((await leader(page)).percent >= 95) break;
        const card = page.locator('.probe');
        const phaseAsked = async (): Promise<Phase | null> => {
          await expect(card).not.toContainText('still weighing');
          return (await card.getAttribute('data-phase')) as Phase | null;
        };
        let wanted = await phaseAsked();
        // How the bench stands is part of the question: after a change another point may be asked for.
        for (let turn = 0; turn < 3 && wanted && wanted !== phase; turn++) {
          phase = wanted;
          await setPhase(
            page,
            { cold: 'Cold', standby: 'Standby', pressed: 'Pressed', trying: 'Trying', run: 'Run' }[
              phase
            ],
          );
          wanted = await phaseAsked();
        }
        // Nothing left to read: a test on the bench is proposed instead.
        if (!wanted) break;
        const mode = (await card.getAttribute('data-mode')) as 'volts' | 'ohms' | 'diode';
        const net = (await card.getAttribute('data-net')) ?? '';
        const against = (await card.getAttribute('data-reference')) || null;
        await entry(page).fill(typed(hidden.read(net as never, mode, phase, against as never)));
        await entry(page).press('Enter');
        await expect(page.locator('.readings tbody tr')).toHaveCount(readings + 1);
        // The answer to this reading, not to the one before.
        await page.waitForTimeout(400);
        await expect(page.locator('.probe')).not.toContainText('still weighing');
      }
      const end = await leader(page);
      // What readings cannot tell apart is not called sure.
      expect(end.percent, end.title).toBeGreaterThan(60);
      expect(end.title).toMatch(group);
      // Its reasons stand open below it: the stage it stops, what speaks for it.
      if (says) await expect(page.locator('.reasons').first()).toContainText(says);
      await expect(page.locator('.reasons').first()).toContainText('for it');
    },
  );
}
