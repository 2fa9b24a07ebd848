import { AxeBuilder } from '@axe-core/playwright';
import { expect, long, test } from './page.ts';

// Every view by day and by night against WCAG 2.2 A and AA, as axe-core checks them.

const demo = (serial: number): string => `/jobs/0d0e0000-0000-4000-8000-000${serial}00000000`;
/** What it is called, where it is, what must stand there first, and what is chosen on it. */
const views: [string, string, string, string?][] = [
  ['Jobs', '/jobs', '.job-table tbody tr'],
  ['New job', '/jobs/new', 'form'],
  ['Door', `${demo(1)}/door`, '.ant-btn'],
  ['Look', `${demo(1)}/look`, 'svg'],
  ['Cold', `${demo(7)}/cold`, '.probe'],
  ['Trace', `${demo(1)}/trace`, '.suspect'],
  ['Stage', `${demo(1)}/stage`, '.probe'],
  ['Repair', `${demo(9)}/repair`, '.ant-btn'],
  ['Report', `${demo(1)}/report`, 'table'],
  ['Boards', '/boards', 'table'],
  ['Board', '/boards/cairn-14', 'table'],
  ['Edit', '/boards/cairn-14/edit', '.cm-content'],
  ['Places', '/boards/cairn-14/edit', '.cm-content', 'Places on the board'],
  ['History', '/boards/cairn-14/history', 'table'],
  ['Versions', '/boards/cairn-14/versions', 'table'],
  ['Schematic', '/boards/cairn-14/schematic', '.page-frame canvas[data-drawn]'],
  ['Sums', '/sums/injection', '.answer dd'],
  ['Words', '/words', 'dt'],
  ['Shelf', '/shelf', 'h1'],
  ['Shop', '/shop', 'h2'],
];

test(
  'every view has contrast, names and keyboard reach by day and by night',
  long,
  async ({ page }) => {
    await page.addInitScript(() => {
      localStorage.setItem('jiko-bench', JSON.stringify({ who: 'Bench 1', light: 'day' }));
    });
    test.slow();
    for (const [name, path, there, choice] of views) {
      await page.goto(path);
      await page.locator(there).first().waitFor({ timeout: 60_000 });
      if (choice) await page.getByText(choice, { exact: true }).click();
      // Colours on their way from day to night are neither.
      await page.addStyleTag({ content: '* { transition: none !important }' });
      for (const light of ['day', 'night'] as const) {
        await expect(page.locator('html')).toHaveAttribute('data-light', light);
        // No frame within: nothing needs a page of its own to be put together on.
        const axe = new AxeBuilder({ page })
          .setLegacyMode()
          .options({ resultTypes: ['violations'] });
        // By night the same page has other colours, and nothing else.
        if (light === 'day') axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']);
        else axe.withRules(['color-contrast', 'link-in-text-block']);
        const { violations } = await axe.analyze();
        const found = violations.flatMap(({ id, nodes }) =>
          nodes.map((node) => `${id}: ${node.target.join(' ')} ${node.failureSummary ?? ''}`),
        );
        expect.soft(found, `${name}, ${light}`).toEqual([]);
        if (light === 'day') await page.getByRole('button', { name: 'Night' }).click();
      }
    }
  },
);
