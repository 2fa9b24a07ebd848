import type { FailureWay, Outcome } from '@jiko/core/record';

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

/** How a part had failed, as it is chosen and shown. */
export const failureText: Record<FailureWay, string> = {
  open: 'open',
  short: 'shorted or leaking',
  dead: 'dead or weak',
  value: 'off its value',
  joint: 'joint or trace',
  contents: 'its contents',
};
