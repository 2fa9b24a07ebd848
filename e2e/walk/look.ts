import type { Page } from '@playwright/test';
import type { Phase } from '@jiko/core/readings';

/** What Trace shows, read off the page in one go. */
export interface Seen {
  strip: { phase: Phase; source: string; attached: string[] };
  entries: { id: string; standing: string; verdict: string }[];
  missing: { net: string; stage: string } | null;
  isReached: boolean;
  probe: {
    net: string;
    mode: string;
    phase: string;
    reference: string;
    /** The next point in the order of waking; other points come from the suspects. */
    isInOrder: boolean;
  } | null;
  suspects: { state: string; list: { title: string; chance: string }[] };
  unsent: boolean;
}

export const look = (page: Page): Promise<Seen> =>
  page.evaluate(() => {
    const all = (selector: string): HTMLElement[] => [
      ...document.querySelectorAll<HTMLElement>(selector),
    ];
    const one = (selector: string): HTMLElement | null => all(selector)[0] ?? null;
    const data = (element: HTMLElement | null, name: string): string =>
      element?.dataset[name] ?? '';
    const strip = one('.strip');
    const probe = one('.probe:not(.is-done)');
    const missing = one('.missing[data-net]');
    return {
      strip: {
        phase: data(strip, 'phase') as Phase,
        source: data(strip, 'source'),
        attached: data(strip, 'attached').split(' ').filter(Boolean),
      },
      entries: all('.readings tr[data-entry]').map((row) => ({
        id: data(row, 'entry'),
        standing: data(row, 'standing'),
        verdict: data(row, 'verdict'),
      })),
      missing: missing && { net: data(missing, 'net'), stage: data(missing, 'stage') },
      isReached: one('.missing.is-reached') !== null,
      probe: probe && {
        net: data(probe, 'net'),
        mode: data(probe, 'mode'),
        phase: data(probe, 'phase'),
        reference: data(probe, 'reference'),
        isInOrder: data(probe, 'proposed') === 'in-order',
      },
      suspects: {
        state: data(one('.suspects'), 'state'),
        list: all('.suspects ol li .suspect').map((each) => ({
          title: each.querySelector('.suspect-title')?.textContent ?? '',
          chance: each.querySelector('.mono')?.textContent ?? '',
        })),
      },
      unsent: Object.keys(localStorage).some((key) => key.startsWith('jiko-outbox ')),
    };
  });
