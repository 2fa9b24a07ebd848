import { expect, type BrowserContext, type Page } from '@playwright/test';
import type { Board } from '@jiko/core/board';
import type { Seen } from './look.ts';

// What a technician may do, in any order. Each step drives the page as a hand would.

export interface Walk {
  context: BrowserContext;
  /** The tab one works in, and the other one on the same job where there is one. */
  page: Page;
  other: Page | null;
  id: string;
  /** Titles of the boards of this walk: its sheets are nobody else's. */
  boards: readonly string[];
  /** The board as the page had it last. */
  board: Board;
  lifted: readonly string[];
  seen: Seen | null;
}

/** What the walk knows of the job without asking: enough to say which steps make sense. */
export interface Known {
  view: View;
  isOffline: boolean;
  isClosed: boolean;
  hasOther: boolean;
}

export const views = ['Door', 'Look', 'Cold', 'Trace', 'Stage', 'Repair', 'Report'] as const;
export type View = (typeof views)[number];

export interface StepKind {
  name: string;
  /** How often it is drawn beside the others. */
  weight: number;
  /** The view it is done in; missing: wherever one is. */
  view?: View;
  can?: (known: Known) => boolean;
  /** False: the page offered nothing to do it with. `pick` is any number from 0 to 9999. */
  run: (walk: Walk, pick: number) => Promise<boolean | void>;
  after?: (known: Known) => void;
  /** Whether a key did it: then something on the page must have the keys. */
  isByKey?: boolean;
}

const at = <T>(list: readonly T[], pick: number): T | undefined =>
  list.length > 0 ? list[pick % list.length] : undefined;

const line = (page: Page) => page.getByRole('textbox', { name: /^Reading at/ });
const volts = [
  '0.02',
  '0',
  '0.91',
  '1.05',
  '1.8',
  '3.3',
  '3.29',
  '5.02',
  '12.1',
  '19.4',
  '20',
  '0.2/0.6',
];
const ohms = ['0.4', '12', '480', '2k2', '33k', '120k', 'OL', 'beep', '?'];

/** Gives the keys to the empty line, or to what stands in its place when nothing is left to read. */
async function toLine(page: Page): Promise<void> {
  await page.evaluate(() =>
    (
      document.querySelector<HTMLElement>('.probe .entry input') ??
      document.querySelector<HTMLElement>('.probe button')
    )?.focus(),
  );
  const entry = line(page);
  if ((await entry.count()) > 0 && (await entry.inputValue()) !== '') await entry.fill('');
}

/** Types a value that suits what is asked, and answers what the page asks back. */
async function typeReading({ page }: Walk, pick: number): Promise<boolean> {
  const entry = line(page);
  if ((await entry.count()) === 0) return false;
  await entry.focus();
  const isOhms = ((await entry.getAttribute('placeholder')) ?? '').includes('OL');
  await entry.fill(at(isOhms ? ohms : volts, pick) ?? '0');
  await page.keyboard.press('Enter');
  const echo = (): Promise<string> =>
    page.evaluate(() => document.querySelector('.probe .echo')?.textContent ?? '');
  if ((await echo()).includes('Enter again')) await page.keyboard.press('Enter');
  if ((await echo()).includes('Nothing was recorded')) await page.keyboard.press('Escape');
  // It was taken, or refused with words: it never just stands there.
  await expect
    .poll(() =>
      page.evaluate(
        () => document.querySelector<HTMLInputElement>('.probe .entry input')?.value ?? '',
      ),
    )
    .toBe('');
  return true;
}

async function pickNet({ page }: Walk, name: string): Promise<boolean> {
  if ((await line(page).count()) === 0) return false;
  await toLine(page);
  await page.keyboard.press('/');
  await page.keyboard.type(name, { delay: 5 });
  await page.keyboard.press('Enter');
  return true;
}

const nets = (board: Board): string[] =>
  board.nets.filter((one) => one.kind !== 'ground' && !one.isUnnamed).map((one) => one.id);
const parts = (board: Board): string[] =>
  board.parts.filter((one) => one.fitted && one.on === null).map((one) => one.ref);

/** Something done on the board, written down by keyboard alone: `d`, what, which part, in a word. */
async function writeDone(walk: Walk, action: string, ref: string): Promise<boolean> {
  const { page } = walk;
  if ((await line(page).count()) === 0) return false;
  await toLine(page);
  await page.keyboard.press('d');
  const jot = page.getByLabel('Write down', { exact: true });
  await jot.locator('.ant-select').first().click();
  await page.getByTitle(action, { exact: true }).last().click();
  const field = jot.getByLabel('Parts', { exact: true });
  // What was left there by an earlier step that did not end.
  const left = jot.locator('.ant-select-multiple .ant-select-selection-item-remove');
  while ((await left.count()) > 0) await left.first().click();
  await field.focus();
  await page.keyboard.type(ref, { delay: 5 });
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  // The list took the part that was typed, and the keys went on.
  await expect(jot.locator('.ant-select-multiple .ant-select-selection-item')).toHaveText([
    new RegExp(`^${ref}( |$)`),
  ]);
  await expect(jot.getByLabel('Text')).toBeFocused();
  await page.keyboard.press('Control+Enter');
  return true;
}

async function chooseBoard(page: Page, name: string): Promise<void> {
  await page.getByLabel('Board', { exact: true }).click();
  await page.keyboard.type(name, { delay: 5 });
  await page.keyboard.press('Enter');
}

export const steps: readonly StepKind[] = [
  ...views.map((view): StepKind => ({
    name: `go to ${view}`,
    weight: view === 'Trace' ? 6 : 3,
    run: async () => undefined,
    view,
  })),
  {
    name: 'a reading that is proposed',
    weight: 14,
    view: 'Trace',
    isByKey: true,
    run: typeReading,
  },
  {
    name: 'a reading at a point by name',
    weight: 8,
    view: 'Trace',
    isByKey: true,
    run: async (walk, pick) => {
      const net = at(nets(walk.board), pick);
      if (net === undefined || !(await pickNet(walk, net))) return false;
      await expect(walk.page.locator('.probe')).toHaveAttribute('data-net', net);
      return typeReading(walk, pick >> 4);
    },
  },
  {
    name: 'a net by a name that is not quite right',
    weight: 3,
    view: 'Trace',
    isByKey: true,
    run: async (walk, pick) => {
      const net = at(
        nets(walk.board).filter((one) => /[#_]/.test(one)),
        pick,
      );
      if (net === undefined) return false;
      const wrong = net
        .toLowerCase()
        .replace('#', '_n')
        .replaceAll('_', pick % 2 ? '-' : '_');
      if (!(await pickNet(walk, wrong))) return false;
      await expect(walk.page.locator('.probe')).toHaveAttribute('data-net', net);
      await walk.page.keyboard.press('Escape');
      return true;
    },
  },
  {
    name: 'a cold reading',
    weight: 8,
    view: 'Cold',
    isByKey: true,
    run: async ({ page }, pick) => {
      const entry = page.getByLabel(/^Cold reading at/);
      if ((await entry.count()) === 0) return false;
      const isOhms = ((await entry.getAttribute('placeholder')) ?? '').includes('2k2');
      await entry.fill((isOhms ? at(ohms, pick) : at(['0.45', '412', 'OL'], pick)) ?? 'OL');
      await entry.press('Enter');
      if (((await page.locator('.echo').first().textContent()) ?? '').includes('Nothing was'))
        await page.keyboard.press('Escape');
      return true;
    },
  },
  {
    name: 'a sign',
    weight: 5,
    view: 'Door',
    isByKey: true,
    run: async ({ page }, pick) => {
      const when = ['before the press', 'after it, nothing changes', 'after it, goes off again'];
      await page
        .getByText(at(when, pick) ?? '', { exact: true })
        .first()
        .click();
      await page
        .getByLabel('Draws', { exact: true })
        .fill(at(['0.02', '0.15', '0.9'], pick) ?? '0');
      await page.getByLabel('Draws', { exact: true }).press('Enter');
      return true;
    },
  },
  {
    name: 'an answer by arrows',
    weight: 5,
    view: 'Door',
    isByKey: true,
    run: async ({ page }, pick) => {
      const groups = page.getByLabel('Simple things first').locator('.answers');
      const count = await groups.count();
      if (count === 0) return false;
      const group = groups.nth(pick % count);
      await group.locator('button[tabindex="0"]').focus();
      const before = await group.locator('[aria-pressed="true"]').allTextContents();
      await page.keyboard.press('ArrowRight');
      // Arrows move, and answer nothing.
      expect(await group.locator('[aria-pressed="true"]').allTextContents()).toEqual(before);
      const chosen = (await group.locator('button:focus').textContent()) ?? '';
      await page.keyboard.press('Enter');
      await expect(group.locator('[aria-pressed="true"]')).toHaveText(
        before.includes(chosen) ? [] : [chosen],
      );
      return true;
    },
  },
  {
    name: 'leads shorted together',
    weight: 3,
    view: 'Door',
    isByKey: true,
    run: async ({ page }, pick) => {
      const field = page.getByLabel(/^Leads|leads/).and(page.getByRole('spinbutton'));
      if ((await field.count()) !== 1) return false;
      const ohms = `0.${1 + (pick % 9)}`;
      await field.fill(ohms);
      await field.press('Enter');
      await expect(field).toHaveValue(ohms);
      return true;
    },
  },
  {
    name: 'a finding',
    weight: 4,
    view: 'Trace',
    run: async (walk, pick) => {
      const { page, board } = walk;
      const ref = at(parts(board), pick);
      const jot = page.getByLabel('Write down', { exact: true });
      if (ref === undefined) return false;
      await jot.getByText('Found', { exact: true }).click();
      await jot.getByLabel('Part', { exact: true }).click();
      await page.keyboard.type(ref, { delay: 5 });
      await page.keyboard.press('Enter');
      await jot.getByRole('button', { name: 'Keep' }).click();
      return true;
    },
  },
  {
    name: 'another phase',
    weight: 6,
    view: 'Trace',
    run: async ({ page }, pick) => {
      const phase = at(['Cold', 'Standby', 'Pressed', 'Trying', 'Run'], pick) ?? 'Standby';
      await page.locator('.strip').getByText(phase, { exact: true }).click();
      return true;
    },
  },
  {
    name: 'another source',
    weight: 12,
    view: 'Trace',
    run: async ({ page, board, seen }, pick) => {
      const sources = board.sources.filter((one) => !one.stays);
      const to = at(sources, pick);
      if (!to || sources.length < 2 || seen?.strip.phase === 'cold') return false;
      const select = page.locator('.strip .ant-select').first();
      if ((await select.getAttribute('class'))?.includes('disabled')) return false;
      await select.click();
      await page.getByTitle(to.title, { exact: true }).last().click();
      return true;
    },
  },
  {
    name: 'something plugged or unplugged',
    weight: 5,
    view: 'Trace',
    run: async ({ page }, pick) => {
      const boxes = page.locator('.strip').getByRole('checkbox');
      const count = await boxes.count();
      if (count === 0) return false;
      await boxes.nth(pick % count).click();
      return true;
    },
  },
  {
    name: 'a part off',
    weight: 4,
    view: 'Trace',
    isByKey: true,
    run: async (walk, pick) => {
      const ref = at(
        parts(walk.board).filter((one) => !walk.lifted.includes(one)),
        pick,
      );
      return ref !== undefined && (await writeDone(walk, 'removed', ref));
    },
  },
  {
    name: 'a part on again',
    weight: 18,
    view: 'Trace',
    isByKey: true,
    run: async (walk, pick) => {
      const ref = at(walk.lifted, pick);
      return ref !== undefined && (await writeDone(walk, 'refitted', ref));
    },
  },
  {
    name: 'a repair',
    weight: 3,
    view: 'Trace',
    isByKey: true,
    run: async (walk, pick) => {
      const ref = at(parts(walk.board), pick);
      return ref !== undefined && (await writeDone(walk, 'replaced', ref));
    },
  },
  {
    name: 'a point of one’s own',
    weight: 6,
    view: 'Trace',
    isByKey: true,
    can: (known) => !known.isOffline,
    run: async (walk, pick) => {
      const { page } = walk;
      if (!(await pickNet(walk, `spot ${pick} of ${walk.id.slice(0, 4)}`))) return false;
      await expect(page.getByRole('button', { name: 'Make it' })).toBeFocused();
      await page.keyboard.press('Enter');
      await expect(page.locator('.probe')).toHaveAttribute('data-net', /^P\d+$/);
      return true;
    },
  },
  {
    name: 'a point joined',
    weight: 16,
    view: 'Trace',
    can: (known) => !known.isOffline,
    run: async ({ page, board }, pick) => {
      const own = at(
        board.nets.filter((one) => one.isUnnamed),
        pick,
      );
      if (!own) return false;
      await toLine(page);
      await page.keyboard.press('/');
      await page.keyboard.type(own.id, { delay: 5 });
      await page.keyboard.press('Enter');
      const join = page.getByRole('button', { name: /^It is / });
      if ((await join.count()) === 0) return false;
      await join.first().click();
      return true;
    },
  },
  {
    name: 'a sheet edit',
    weight: 6,
    view: 'Trace',
    can: (known) => !known.isOffline,
    run: async ({ page, board }, pick) => {
      const net = at(
        board.nets.filter((one) => one.kind === 'rail' && !one.isUnnamed && one.volts !== null),
        pick,
      );
      if (!net) return false;
      const jot = page.getByLabel('Write down', { exact: true });
      await jot.getByText('Sheet', { exact: true }).click();
      await jot.getByLabel('Net', { exact: true }).click();
      await page.keyboard.type(net.id, { delay: 5 });
      await page.keyboard.press('Enter');
      await jot.getByLabel('Volts', { exact: true }).fill(String(net.volts));
      await jot.getByRole('button', { name: 'Put it in the sheet' }).click();
      return true;
    },
  },
  {
    name: 'a reading struck out by keyboard',
    weight: 6,
    view: 'Trace',
    isByKey: true,
    run: async ({ page }, pick) => {
      const buttons = page.locator('.readings').getByRole('button', { name: /^Strike/ });
      const count = await buttons.count();
      if (count === 0) return false;
      const row = buttons.nth(pick % count).locator('xpath=ancestor::tr');
      const entry = (await row.getAttribute('data-entry')) ?? '';
      await buttons.nth(pick % count).focus();
      await page.keyboard.press('Enter');
      // The list takes the keys a moment after it is seen.
      await expect
        .poll(() => page.evaluate(() => document.activeElement?.closest('[role=menu]') !== null))
        .toBe(true);
      await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Enter');
      await expect(page.locator(`tr[data-entry="${entry}"]`)).toHaveAttribute(
        'data-standing',
        'struck',
      );
      return true;
    },
  },
  {
    name: 'undo',
    weight: 4,
    view: 'Trace',
    isByKey: true,
    run: async ({ page }) => {
      if ((await line(page).count()) === 0) return false;
      await toLine(page);
      await page.keyboard.press('Control+z');
      return true;
    },
  },
  {
    name: 'a correction',
    weight: 4,
    view: 'Door',
    isByKey: true,
    run: async ({ page }, pick) => {
      await page.getByRole('button', { name: 'Correct', exact: true }).click();
      const complaint = page.getByLabel("Complaint, in the owner's words");
      await complaint.fill(`Does nothing, said ${pick} times.`);
      await complaint.press('Control+Enter');
      await expect(page.getByRole('button', { name: 'Correct', exact: true })).toBeVisible();
      return true;
    },
  },
  {
    name: 'another board',
    weight: 6,
    view: 'Door',
    can: (known) => !known.isOffline,
    run: async (walk, pick) => {
      const { page, board } = walk;
      const to = at(
        walk.boards.filter((title) => title !== board.title),
        pick,
      );
      if (to === undefined) return false;
      await page.getByRole('button', { name: 'Correct', exact: true }).click();
      await chooseBoard(page, to);
      // Goal and source of the other board are filled in by then.
      await page.waitForTimeout(400);
      await page.getByRole('button', { name: 'Keep', exact: true }).first().click();
      await expect(page.getByRole('button', { name: 'Correct', exact: true })).toBeVisible();
      return true;
    },
  },
  {
    name: 'closed',
    weight: 10,
    view: 'Repair',
    can: (known) => !known.isOffline,
    run: async ({ page }, pick) => {
      const panel = page.getByLabel('Close the job');
      await panel
        .getByText(pick % 2 ? 'not found' : 'declined by the owner', { exact: true })
        .first()
        .click();
      await panel.getByLabel('Why it ends so').fill('the walk says so');
      await panel.getByRole('button', { name: 'Close the job' }).focus();
      await page.keyboard.press('Enter');
      await expect(panel).toContainText('This job is closed');
      return true;
    },
    isByKey: true,
    after: (known) => (known.isClosed = true),
  },
  {
    name: 'opened again',
    weight: 8,
    view: 'Repair',
    can: (known) => known.isClosed && !known.isOffline,
    isByKey: true,
    run: async ({ page }) => {
      const panel = page.getByLabel('Close the job');
      await panel.getByLabel('Why it is opened again').fill('the walk goes on');
      await panel.getByRole('button', { name: 'Open it again' }).focus();
      await page.keyboard.press('Enter');
      await expect(panel).toContainText('Close this job');
      return true;
    },
    after: (known) => (known.isClosed = false),
  },
  {
    name: 'a second tab',
    weight: 4,
    can: (known) => !known.hasOther && !known.isOffline,
    run: async (walk) => {
      walk.other = await walk.context.newPage();
      await walk.other.goto(`/jobs/${walk.id}/trace`);
      await expect(walk.other.locator('.strip')).toBeVisible();
      return true;
    },
    after: (known) => (known.hasOther = true),
  },
  {
    name: 'over to the other tab',
    weight: 12,
    can: (known) => known.hasOther && !known.isOffline,
    run: async (walk) => {
      if (!walk.other) return false;
      [walk.page, walk.other] = [walk.other, walk.page];
      await walk.page.bringToFront();
      // It stands where it was left, Repair perhaps.
      await walk.page.getByRole('link', { name: 'Trace', exact: true }).click();
      await walk.page.waitForURL(/\/trace/);
      return true;
    },
    after: (known) => (known.view = 'Trace'),
  },
  {
    name: 'the server away',
    weight: 3,
    view: 'Trace',
    can: (known) => !known.isOffline,
    run: async ({ context }) => {
      await context.route('**/api/jobs/*/events', (route) => route.abort());
      await context.route('**/api/health', (route) => route.abort());
      return true;
    },
    after: (known) => (known.isOffline = true),
  },
  {
    name: 'the server back',
    weight: 12,
    can: (known) => known.isOffline,
    run: async ({ context }) => {
      await context.unrouteAll();
      return true;
    },
    after: (known) => (known.isOffline = false),
  },
  {
    name: 'a reload',
    weight: 3,
    run: async ({ page }) => {
      await page.reload();
      return true;
    },
  },
];

/** What may be done with a closed job: look at it, and open it again. */
const whenClosed = /^(go to|opened again|a reload|a second tab|over to)/;

/** Whether a step makes sense now. While the server is away one stays in the view one is in. */
export function mayBe(step: StepKind, known: Known): boolean {
  if (known.isClosed && !whenClosed.test(step.name)) return false;
  if (!known.isClosed && step.name === 'opened again') return false;
  if (known.isOffline && step.view !== undefined && step.view !== known.view) return false;
  if (known.isOffline && step.name === 'a reload') return false;
  return step.can?.(known) ?? true;
}
