import { expect, long, test, type Page } from './page.ts';
import { asked, entry, setPhase } from './bench.ts';

// A board nobody has a sheet of: from New job to the named stage, points before names, and the sheet
// growing while it is measured.

/** Counts what a technician does: a click, a key that matters, a line typed. */
function counted() {
  let actions = 0;
  return {
    do: async (deed: Promise<unknown>): Promise<void> => {
      actions += 1;
      await deed;
    },
    get actions() {
      return actions;
    },
  };
}

async function openUnknown(
  page: Page,
  device: string,
  choices: readonly string[],
  hand = counted(),
): Promise<void> {
  await page.goto('/jobs');
  await hand.do(page.getByRole('button', { name: 'New job' }).click());
  await hand.do(page.getByLabel('Device').fill(device));
  await hand.do(page.getByLabel('Board', { exact: true }).click());
  await hand.do(page.getByText('Not in the list: a board nobody knows').click());
  if (choices.length > 0) {
    await hand.do(page.getByText('What you can see of it').click());
    for (const choice of choices)
      await hand.do(page.locator('.choices').getByText(choice, { exact: true }).click());
  }
  await hand.do(page.getByLabel("Complaint, in the owner's words").fill('Dead.'));
  await expect(page.getByText('boots', { exact: true }).first()).toBeVisible();
  await hand.do(page.getByRole('button', { name: 'Open the job' }).click());
  await hand.do(page.getByRole('link', { name: 'Trace' }).click());
  await expect(entry(page)).toBeVisible();
}

async function type(page: Page, text: string): Promise<void> {
  await entry(page).fill(text);
  await entry(page).press('Enter');
  await expect(entry(page)).toHaveValue('');
}

/** Answers what is asked until a stage is named: nets by what they read, anything else as it should be. */
async function follow(page: Page, reads: Record<string, string>, usual: string): Promise<void> {
  const named = page.locator('.missing', { hasText: 'First missing stage' });
  for (let step = 0; step < 25 && (await named.count()) === 0; step++) {
    const point = await asked(page);
    if (!point) break;
    const phase = await page.locator('.probe').getAttribute('data-phase');
    if (phase === 'cold') await setPhase(page, 'Cold');
    else await setPhase(page, phase === 'run' ? 'Trying' : 'Standby');
    await type(page, point.mode === 'ohms' ? 'OL' : (reads[point.net] ?? usual));
  }
  await expect(named).toBeVisible();
}

test('with nothing chosen the first reading stands within ten actions', async ({ page }) => {
  const hand = counted();
  await openUnknown(page, 'Hoar 12 from Gale Hut', [], hand);
  await hand.do(setPhase(page, 'Standby'));
  await hand.do(type(page, '19.4'));
  expect(hand.actions).toBeLessThanOrEqual(10);
  await expect(page.getByText(/1 of \d+ stages read as up/)).toBeVisible();
  // What the reading says of the choices that were left open.
  await expect(page.getByLabel('What the readings say of this board')).toContainText(
    '19.4 V at the input',
  );
});

test('three boards nobody knows, each to its missing stage', long, async ({ page }) => {
  test.setTimeout(180_000);
  await openUnknown(page, 'Rime A', [
    'Barrel, two P-channel FETs',
    'One dual regulator with two LDOs',
  ]);
  await follow(
    page,
    {
      DC_IN: '19.4',
      DC_MID: '19.39',
      VMAIN: '19.38',
      '5V_ALW': '0.01',
      '5V_LDO': '5.02',
      '3V3_LDO': '3.31',
      '5V_ALW_EN': '3.3',
      '5V_ALW_IN': '19.37',
    },
    '3.3',
  );
  await expect(page.locator('.missing').first()).toContainText('5 V always on');
  await expect(page.locator('.missing').first()).toContainText('5V_ALW_IN');

  await openUnknown(page, 'Rime B', ['USB-C alone', 'Separate regulators', 'System on a chip']);
  await follow(
    page,
    { VBUS: '20.1', PD_LDO: '3.3', VBUS_MID: '19.6', VBUS_GATE: '27', VMAIN: '0.02' },
    '3.3',
  );
  await expect(page.locator('.missing').first()).toContainText('USB-C FETs and main rail');

  await openUnknown(page, 'Rime C', ['Desktop style, standby first', 'Plain enable chain']);
  await follow(
    page,
    {
      DC_IN: '12.1',
      '5V_SB': '5.03',
      '5V_ALW_IN': '12.1',
      '3V3_SB': '0',
      '3V3_ALW_IN': '0.01',
      '3V3_ALW_EN': '0',
    },
    '3.3',
  );
  await expect(page.locator('.missing').first()).toContainText('3.3 V standby');
});

test(
  'a point of ones own is read at once, named by what it reads, and every reading stays',
  long,
  async ({ page }) => {
    await openUnknown(page, 'Rime with points', ['DDR4, 1.2 V']);
    await setPhase(page, 'Standby');
    await type(page, '19.4');
    await entry(page).press('/');
    await page.keyboard.type('coil beside the memory, top side');
    await page.getByText('A point of your own: coil beside the memory, top side').click();
    // Making one asks first.
    await page.getByRole('button', { name: 'Make it' }).click();
    const own = page.getByRole('textbox', { name: 'Reading at P1' });
    await expect(own).toBeVisible();
    await setPhase(page, 'Run');
    await type(page, '1.207');
    const naming = page.getByRole('region', { name: 'Which net is it?' });
    const row = page.locator('.readings tr, .readings-table tr, table tr');
    await expect(row.filter({ hasText: 'P1' })).toContainText('1.207 V');
    await entry(page).press('/');
    await page.keyboard.type('P1');
    await page
      .getByTitle(/^P1: coil beside/)
      .first()
      .click();
    await expect(naming.locator('li').first()).toContainText('1V2_MEM');
    await naming.getByRole('button', { name: 'It is 1V2_MEM' }).click();
    // The same reading, now of the rail, and judged.
    await expect(row.filter({ hasText: '1V2_MEM' })).toContainText('1.207 V');
    await expect(row.filter({ hasText: '1V2_MEM' })).toContainText('good');
    await expect(row.filter({ hasText: 'P1' })).toHaveCount(0);
    await entry(page).press('e');
    await page.getByLabel('Write down').getByRole('button', { name: 'Undo' }).click();
    await expect(row.filter({ hasText: 'P1' })).toContainText('1.207 V');
    await expect(row.filter({ hasText: '1V2_MEM' })).toHaveCount(0);
  },
);

/** Watches the list of suspects; tells the fewest it showed since. */
async function fewestSuspects(page: Page): Promise<() => Promise<number>> {
  const fewest = await page.evaluateHandle(() => {
    const seen = { fewest: Infinity };
    const look = (): void => {
      const lines = document.querySelectorAll('.suspect, .suspect-before').length;
      seen.fewest = Math.min(seen.fewest, lines);
    };
    new MutationObserver(look).observe(document.body, { childList: true, subtree: true });
    return seen;
  });
  return () => fewest.evaluate((seen) => seen.fewest);
}

test('the sheet grows from Trace, and its versions say what changed', long, async ({ page }) => {
  await openUnknown(page, 'Rime that grows', []);
  await setPhase(page, 'Standby');
  await type(page, '18.9');
  await entry(page).press('e');
  const form = page.getByLabel('Write down');
  await form.getByLabel('What to put in the sheet').click();
  await page.getByTitle('a part between two nets').click();
  await form.getByLabel('Reference').fill('PR9');
  await form.getByLabel('Value').fill('0R01');
  for (const [label, net] of [
    ['Net at one end', 'DC_IN'],
    ['Net at other end', 'VMAIN'],
  ] as const) {
    await form.getByLabel(label).click();
    await page.keyboard.type(net);
    await page.keyboard.press('Enter');
  }
  await expect(page.locator('.suspect').first()).toBeVisible({ timeout: 60_000 });
  const fewest = await fewestSuspects(page);
  await form.getByRole('button', { name: 'Put it in the sheet' }).click();
  await expect(form).toContainText('PR9 (resistor) on DC_IN and VMAIN');
  // While every fault is played anew the list is never empty.
  await expect(page.locator('.suspect').first()).toBeVisible({ timeout: 60_000 });
  expect(await fewest()).toBeGreaterThan(0);
  // The job goes on: its reading stands.
  await expect(page.getByText(/1 of \d+ stages read as up/)).toBeVisible();
  await page.goto('/boards');
  await page.getByLabel('Search boards').fill('Rime that grows');
  await page.getByRole('link', { name: 'Versions' }).first().click();
  await expect(page.getByLabel('What changed')).toContainText(
    'PR9 added (resistor, 0R01, DC_IN to VMAIN)',
  );
  await expect(page.getByRole('link', { name: 'Rime that grows' })).toBeVisible();
});

test('a job keeps its version of the sheet, and is moved knowingly', long, async ({ page }) => {
  await openUnknown(page, 'Rime of two benches', ['DDR4, 1.2 V']);
  await setPhase(page, 'Standby');
  await type(page, '19.4');
  await page.getByRole('button', { name: /1.8 V suspend rail/ }).click();
  await setPhase(page, 'Run');
  await type(page, '1.75');
  const row = page.locator('table tr', { hasText: '1V8_S5' });
  await expect(row).toContainText('good');
  const job = page.url();
  // Somebody else puts the sheet right meanwhile.
  await page.goto('/boards');
  await page.getByLabel('Search boards').fill('Rime of two benches');
  await page.getByRole('link', { name: 'Edit' }).first().click();
  await page.getByLabel('Search the table').fill('1V8_S5');
  const cells = page.locator('.dsg-container .dsg-row').nth(1).locator('.dsg-cell');
  await cells.nth(3).click();
  await page.keyboard.type('2.1');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Save a version/ }).click();
  await expect(page.getByText('as saved', { exact: false }).first()).toBeVisible();
  await page.goto(job);
  const moved = page.getByRole('region', { name: 'The sheet has a newer version' });
  await expect(moved).toContainText('1V8_S5 volts: 1.8 -> 2.1');
  await expect(moved).toContainText('1V8_S5 run 1.75 V: good -> low');
  await expect(row).toContainText('good');
  await moved.getByRole('button', { name: 'Go on with it' }).click();
  await expect(row).toContainText('low');
  await expect(moved).toHaveCount(0);
});

test('Words are found by what is typed, each with its source', async ({ page }) => {
  await page.goto('/words');
  await page.getByLabel('Search words').fill('coin cell');
  await expect(page.getByText('below about 2.7 V it is replaced')).toBeVisible();
  await expect(page.getByText('common practice, no source').first()).toBeVisible();
  await page.getByLabel('Search words').fill('no such word');
  await expect(page.getByText('No word has that in it.')).toBeVisible();
});

test('Edit: a table pasted into, the text in step, a mistake shown where it is, saved as a version', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto('/boards');
  await page
    .getByRole('row', { name: /^Beck mini B/ })
    .getByRole('button', { name: 'Copy' })
    .click();
  await expect(page.getByText(/Beck mini copy.* is saved/)).toBeVisible();
  await page.getByLabel('Search boards').fill('Beck mini copy');
  await page.getByRole('link', { name: 'Edit' }).first().click();
  await expect(page.getByLabel('The sheet as text')).toContainText('jiko-board/1');
  await page.getByText('Parts', { exact: true }).click();
  const grid = page.locator('.dsg-container');
  const cells = (): Promise<string[]> =>
    grid.locator('input').evaluateAll((all) => all.map((one) => (one as HTMLInputElement).value));
  await expect.poll(cells).toContain('R4');
  // 500 parts, as from a spreadsheet, into the row that was added.
  const lines = Array.from(
    { length: 500 },
    (_, at) => `C${at + 1}\tcapacitor\t5V_RUN, GND\t10u`,
  ).join('\n');
  await page.evaluate((copied) => navigator.clipboard.writeText(copied), lines);
  await page.locator('.dsg-add-row button').click();
  await grid.locator('.dsg-row').nth(4).locator('.dsg-cell').nth(1).click();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Control+V');
  await expect(page.getByText(/\b505 parts/)).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText('Nothing found wrong')).toBeVisible();
  await page.getByLabel('Search the table').fill('C499');
  await expect.poll(cells).toContain('C499');
  // A mistake, in words and on its line; Undo takes it back.
  await page.getByLabel('Search the table').fill('CORE_PG');
  await expect.poll(cells).toContain('R4');
  await grid.locator('.dsg-row').nth(1).locator('.dsg-cell').nth(3).click();
  await page.keyboard.type('3V3_SB, CORE_PQ');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('What is wrong')).toContainText(
    'CORE_PQ, which is not in the list of nets',
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Nothing found wrong')).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: /Save a version/ }).click();
  await expect(page.getByText(/as saved/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Versions' }).click();
  await expect(page.getByLabel('What changed')).toContainText(
    'C42 added (capacitor, 10u, 5V_RUN to GND)',
  );
});

test(
  'Edit: parts get their places by clicks on the board, and move on to the next one',
  long,
  async ({ page }) => {
    await page.goto('/boards');
    await page
      .getByRole('row', { name: /^Wren 5/ })
      .getByRole('button', { name: 'Copy' })
      .click();
    await expect(page.getByText(/Wren 5 copy.* is saved/)).toBeVisible();
    await page.getByLabel('Search boards').fill('Wren 5 copy');
    await page.getByRole('link', { name: 'Edit' }).first().click();
    await page.getByText('Places on the board', { exact: true }).click();
    const pane = page.getByLabel('Places', { exact: true });
    await pane.getByLabel('Width of the board').fill('200');
    await pane.getByLabel('Width of the board').press('Enter');
    const picture = pane.getByTestId('place-picture');
    const first = ((await pane.locator('p').textContent()) ?? '').replace(
      /^Click where (\S+) is.*/,
      '$1',
    );
    const box = (await picture.boundingBox())!;
    // A quarter from the left of 200 mm, half way down of 133.
    await picture.click({ position: { x: box.width / 4, y: box.height / 2 } });
    await expect(pane.locator('svg text', { hasText: first })).toHaveCount(1);
    await expect(pane.locator('p')).not.toContainText(`${first} is`);
    await page.getByText('As text', { exact: true }).click();
    const line = page.locator('.cm-line', { hasText: new RegExp(`^\\s+${first}: .*side: top`) });
    await expect(line).toContainText(/x: (49|50)(\.\d)?, y: 6[67](\.\d)?/);
    // It is taken back as any other change.
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(line).toHaveCount(0);
  },
);

test(
  'a point of ones own begins on the picture or in the cold sweep and is read at once',
  long,
  async ({ page }) => {
    await openUnknown(page, 'A laptop with a bare spot', []);
    await page.getByRole('link', { name: 'Look' }).click();
    const picture = page.getByRole('img', { name: 'Board, top side' });
    await picture.click({ position: { x: 120, y: 90 } });
    await page.getByLabel('A point of your own here').fill('coil beside the memory');
    await page.getByRole('button', { name: 'Make it a point' }).click();
    await expect(page.getByRole('group', { name: 'Part' })).toContainText('coil beside the memory');
    await expect(page.locator('[data-ref=P1] rect')).toHaveCount(1);
    await page.getByRole('link', { name: 'Read P1 in Trace' }).click();
    await expect(page.locator('.probe')).toHaveAttribute('data-net', 'P1');
    await setPhase(page, 'Standby');
    await type(page, '3.31');
    await expect(page.locator('.probe, .readings').filter({ hasText: 'P1' }).first()).toBeVisible();

    await page.getByRole('link', { name: 'Cold' }).click();
    await page.getByRole('button', { name: 'New point' }).click();
    await page.getByLabel('Where the new point is').fill('coil at the fan');
    await page.getByLabel('Where the new point is').press('Enter');
    await expect(page.locator('.probe.is-cold')).toHaveAttribute('data-net', 'P2');
    await page.getByLabel(/^Cold reading at P2 in ohms/).fill('420');
    await page.getByLabel(/^Cold reading at P2 in ohms/).press('Enter');
    await expect(page.getByLabel('Sweep')).toContainText('Recorded P2');
  },
);

test('a name that no board has still offers the way for a board nobody knows, and choices can be compared before one is taken', async ({
  page,
}) => {
  await page.goto('/jobs');
  await page.getByRole('button', { name: 'New job' }).click();
  await page.getByLabel('Device').fill('Heather 11');
  const board = page.getByLabel('Board', { exact: true });
  const first = page.locator('.ant-select-item-option-active');
  await board.click();
  // What matches comes first: Enter takes it.
  await page.keyboard.type('fell');
  await expect(first).toContainText('Fell 13');
  for (let letter = 0; letter < 4; letter++) await page.keyboard.press('Backspace');
  await page.keyboard.type('heather');
  await expect(first).toContainText('Not in the list');
  await page.keyboard.press('Enter');
  await page.getByText('What you can see of it').click();
  const question = page.locator('.choices fieldset').first();
  await question.getByText('How each looks on the board').click();
  await expect(question.getByText('Two eight-pin FETs in a row')).toHaveCount(2);
  await expect(question.getByText('Two eight-pin FETs in a row').first()).toBeVisible();
});
