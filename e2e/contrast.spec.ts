import { AxeBuilder } from '@axe-core/playwright';
import { expect, test } from '@playwright/test';

// Every view by day and by night against WCAG 2.2 A and AA, as axe-core checks them.

const demo = (serial: number): string => `/jobs/0d0e0000-0000-4000-8000-000${serial}00000000`;
const views: [string, string, string][] = [
  ['Jobs', '/jobs', '.job-table tbody tr'],
  ['New job', '/jobs/new', 'form'],
  ['Door', `${demo(1)}/door`, '.ant-btn'],
  ['Look', `${demo(1)}/look`, 'svg'],
  ['Cold', `${demo(7)}/cold`, '.probe'],
  ['Trace', `${demo(1)}/trace`, '.suspect'],
  ['Report', `${demo(1)}/report`, 'table'],
  ['Boards', '/boards', 'table'],
  ['Board', '/boards/cairn-14', 'table'],
  ['Schematic', '/boards/cairn-14/schematic', '.page-frame canvas[data-drawn]'],
  ['Sums', '/sums/injection', '.answer dd'],
];

for (const light of ['day', 'night'])
  test(`every view has contrast, names and keyboard reach by ${light}`, async ({ page }) => {
    await page.addInitScript((chosen) => {
      localStorage.setItem('jiko-bench', JSON.stringify({ who: 'Bench 1', light: chosen }));
    }, light);
    for (const [name, path, there] of views) {
      await page.goto(path);
      await page.locator(there).first().waitFor({ timeout: 60_000 });
      const { violations } = await new AxeBuilder({ page })
        .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
        .analyze();
      const found = violations.flatMap(({ id, nodes }) =>
        nodes.map((node) => `${id}: ${node.target.join(' ')} ${node.failureSummary ?? ''}`),
      );
      expect.soft(found, `${name}, ${light}`).toEqual([]);
    }
  });
