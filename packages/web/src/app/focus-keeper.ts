/**
 * Keys never go to nowhere. What has them may leave the page (an answered question, a closed form, a view
 * that changes): then the nearest place that is still there takes them. What is typed while nothing has
 * the keys goes to the entry line, where there is one.
 */
export function keepFocus(page: Document): () => void {
  /** What had the keys last, and what it stood in, from the inside out. */
  let trail: Element[] = [];
  let isByKey = false;
  let isDue = false;

  const isNowhere = (): boolean => page.activeElement === null || page.activeElement === page.body;
  const check = (): void => {
    isDue = false;
    const last = trail[0];
    // A click beside everything is meant; what went away under the pointer is not.
    const isGone = last !== undefined && !isThere(last);
    if (!isNowhere() || !(isByKey || isGone)) return;
    takerIn(page, trail)?.focus({ preventScroll: true });
  };
  const soon = (): void => {
    if (isDue) return;
    isDue = true;
    // After what draws in answer to the same key.
    requestAnimationFrame(() => setTimeout(check));
  };
  const onFocus = (event: FocusEvent): void => {
    trail = [];
    for (let at = event.target as Element | null; at && at !== page.body; at = at.parentElement)
      trail.push(at);
  };
  const onKey = (event: KeyboardEvent): void => {
    isByKey = true;
    const isTyped = event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey;
    if (isTyped && isNowhere()) entryLine(page)?.focus();
    if (event.key !== 'Tab') soon();
  };
  const onPointer = (): void => {
    isByKey = false;
  };
  const watch = new MutationObserver(() => {
    if (isNowhere()) soon();
  });
  page.addEventListener('focusin', onFocus);
  page.addEventListener('keydown', onKey, true);
  page.addEventListener('pointerdown', onPointer, true);
  watch.observe(page.body, { childList: true, subtree: true, attributeFilter: ['disabled'] });
  return () => {
    page.removeEventListener('focusin', onFocus);
    page.removeEventListener('keydown', onKey, true);
    page.removeEventListener('pointerdown', onPointer, true);
    watch.disconnect();
  };
}

/** The line of the page that takes readings, or what stands in its place. */
export const entryLine = (page: Document): HTMLElement | null =>
  page.querySelector<HTMLElement>('main .probe .entry input') ??
  page.querySelector<HTMLElement>('main .probe.is-done button');

const canTakeKeys =
  'input:not([disabled]), textarea:not([disabled]), button:not([disabled]), select:not([disabled]), a[href], [tabindex="0"]';

const isThere = (one: Element): boolean =>
  one.isConnected && !one.matches(':disabled') && one.getClientRects().length > 0;

/** What takes the keys after they were lost: near where they were, else the entry line, else the page. */
export function takerIn(page: Document, trail: readonly Element[]): HTMLElement | null {
  const main = page.querySelector<HTMLElement>('main');
  for (const home of trail) {
    if (!home.isConnected) continue;
    // Outside of its section it would be anywhere.
    if (home === main) break;
    const near = [...home.querySelectorAll<HTMLElement>(canTakeKeys)].find(isThere);
    if (near) return near;
    if (home.matches('section, .card')) break;
  }
  return entryLine(page) ?? main;
}
