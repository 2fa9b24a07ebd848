/**
 * What is missing before Enter writes down that a rail was fed; null where nothing is. What the plays warn of
 * is written down by a press of the button that says so, never by Enter in passing.
 */
export function missingToFeed(isHarmful: boolean, amps: number | null): string | null {
  if (isHarmful) return 'Read the warning: if it was done all the same, press the button.';
  return amps === null ? 'Still missing: the amps the supply shows.' : null;
}
