import type { Outcome } from '@jiko/core/record';

/** How jobs end, in a word or three; the last three are of older versions. */
export const outcomeText: Record<Outcome, string> = {
  fixed: 'fixed',
  partly: 'partly fixed',
  'data-saved': 'data saved only',
  'not-found': 'not found',
  'not-worth': 'not worth it',
  declined: 'declined by the owner',
  repaired: 'repaired',
  'not-repaired': 'not repaired',
  returned: 'given back as it was',
};
