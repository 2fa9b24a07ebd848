import { test as base, type BrowserContext, type Page } from '@playwright/test';

export { expect, type Page } from '@playwright/test';

/** Tests that need not run at every change: npm run test:long. */
export const long = { tag: '@long' } as const;

const storageTypes = 'cookies,local_storage,indexeddb,cache_storage';

/**
 * Pages of one browser, one after the other: what the app compiled to is kept from test to test, as with
 * somebody who works all day, and that is a quarter of the work. What a test left in the browser
 * (storage, cookies, answers made up) is gone for the next one.
 */
export const test = base.extend<{ page: Page; context: BrowserContext }, { day: BrowserContext }>({
  day: [
    async ({ browser }, use, { project }) => {
      const context = await browser.newContext(project.use);
      context.setDefaultTimeout(project.use.actionTimeout ?? 0);
      context.setDefaultNavigationTimeout(0);
      // Most tests read the figures; that they are folded at first has a test of its own.
      await context.addInitScript(() => {
        // A page that has no address yet keeps nothing, and is refused the storage.
        if (location.protocol === 'about:') return;
        for (const of of ['suspects', 'outcomes'])
          if (localStorage.getItem(`jiko-figures-of-${of}`) === null)
            localStorage.setItem(`jiko-figures-of-${of}`, 'true');
      });
      // A page that stays, so that what is compiled stays too.
      const stays = await context.newPage();
      await stays.goto('/api/health');
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ day }, use) => {
    await use(day);
    const [stays, ...left] = day.pages();
    await Promise.all(left.map((page) => page.close()));
    await day.unrouteAll();
    await day.clearPermissions();
    if (!stays) return;
    const session = await day.newCDPSession(stays);
    const { origin } = new URL(stays.url());
    await session.send('Storage.clearDataForOrigin', { origin, storageTypes });
    await session.detach();
  },
});
