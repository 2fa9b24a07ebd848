import { useState } from 'react';

/** Left of the probe: the stages, or the pages of the schematic. */
export type Shown = 'ladder' | 'schematic';
const key = 'jiko-beside-the-probe';

/** What stands beside the probe; each bench keeps its own habit. */
export function useShownBeside(): [Shown, (shown: Shown) => void] {
  const [shown, setShown] = useState<Shown>(() =>
    localStorage.getItem(key) === 'schematic' ? 'schematic' : 'ladder',
  );
  return [
    shown,
    (next) => {
      localStorage.setItem(key, next);
      setShown(next);
    },
  ];
}
