import { it } from 'vitest';
import { everyPair, expectSound } from './test-choices.ts';

it('loads, lints clean, plays and reaches its goals, whatever is chosen', () => {
  for (const choices of everyPair()) expectSound(choices);
});
