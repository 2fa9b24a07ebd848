import { useEffect, type RefObject } from 'react';

/**
 * What takes the keys when there is something new to do: never out of the hands of who writes
 * elsewhere on the page.
 */
export function useFocusFor(of: RefObject<HTMLElement | null>, task: string): void {
  useEffect(() => {
    const here = document.activeElement;
    const isWriting =
      here instanceof HTMLElement &&
      here.matches(
        'input:not([type=radio]):not([type=checkbox]), textarea, [contenteditable=true]',
      );
    // Who looks for a point is writing too: the list gives the focus back when one is chosen.
    if (!isWriting || (here.closest('.probe') && !here.closest('.points'))) of.current?.focus();
  }, [of, task]);
}
