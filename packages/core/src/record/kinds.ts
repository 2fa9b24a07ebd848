// What entries of a job are made of: the words each kind of thing may have.

/** What may have happened to a board before it came in. */
export const historyKinds = [
  'liquid',
  'frost',
  'drop',
  'lightning',
  'bite',
  'wear',
  'earlier-repair',
  'not-known',
] as const;

export const repairActions = [
  'replaced',
  'reflowed',
  'jumper',
  'cleaned',
  'reprogrammed',
  'removed',
  'refitted',
  'other',
  // Not on the board: what hangs beside it, a cell, a pack, a cable.
  'beside',
] as const;

/** The same in words where they say more than the kept ones. */
export const actionText = (action: (typeof repairActions)[number]): string =>
  action === 'beside' ? 'not on the board' : action;

/** What is not on the board and was changed, taken out or put back. */
export const besideThings = [
  'coin-cell',
  'battery',
  'adapter',
  'cable',
  'panel',
  'memory',
  'storage',
  'cooler',
  'else',
] as const;
export const besideText: Record<(typeof besideThings)[number], string> = {
  'coin-cell': 'coin cell',
  battery: 'battery',
  adapter: 'adapter or its lead',
  cable: 'cable',
  panel: 'panel',
  memory: 'memory',
  storage: 'storage',
  cooler: 'cooler',
  else: 'something else',
};

/** Where a fitted part came from. */
export const partOrigins = ['new', 'donor', 'same-board', 'not-known'] as const;

export const slipKinds = [
  'bridged-pads',
  'burnt-part',
  'lifted-pad',
  'lost-part',
  'other',
] as const;

export const findingKinds = [
  'corrosion',
  'burnt',
  'cracked',
  'missing',
  'bridged',
  'reworked',
  'wrong-part',
  'lifted-pad',
  'hot',
  'swollen',
] as const;

/** Simple things to try before the board is opened or measured. */
export const simpleThings = [
  'other-source',
  'meter-zero',
  'settings',
  'memory',
  'needed-only',
  'button-pads',
  'other-panel',
  'other-battery',
] as const;

/**
 * What is tried once every net of the goal reads right and the device still does not do what it was brought
 * for.
 */
const laterThings = [
  'clock',
  'flash',
  'firmware',
  'panel-cable',
  'light',
  'other-storage',
  'battery-contacts',
  'processor',
] as const;

export const triedThings = [...simpleThings, ...laterThings] as const;
export type TriedThing = (typeof triedThings)[number];

export const simpleResults = ['no-change', 'helped', 'cannot'] as const;

/** none-here: looked for, and this board has none. */
export const safetyStates = ['done', 'none-here', 'open'] as const;

/** How heat was looked for. `own-power`: nothing was fed, the board's own source was on. */
export const heatWays = ['camera', 'grid', 'freeze', 'finger', 'film', 'own-power'] as const;

export const waitReasons = ['part', 'owner', 'cooling', 'drying', 'soak', 'other'] as const;

export const orderSteps = ['ordered', 'arrived', 'dropped'] as const;

/** How well a cause is proven. */
export const proofs = [
  'proven',
  'supported',
  'by-elimination',
  'several-changed',
  'not-found',
] as const;

/** How a job ends. */
export const outcomes = [
  'fixed',
  'partly',
  'data-saved',
  'not-found',
  'not-worth',
  'declined',
] as const;
/** How jobs ended that were closed before there were more words for it. */
const oldOutcomes = ['repaired', 'not-repaired', 'returned'] as const;
/** Every word a closed job may carry. */
export const allOutcomes = [...outcomes, ...oldOutcomes] as const;
export type Outcome = (typeof allOutcomes)[number];

/** How a part had failed, as far as the next jobs can learn from it. */
export const failureWays = ['open', 'short', 'dead', 'value', 'joint', 'contents'] as const;
export type FailureWay = (typeof failureWays)[number];
/** The same in words. */
export const failureTexts: Record<FailureWay, string> = {
  open: 'open',
  short: 'shorted or leaking',
  dead: 'dead or weak',
  value: 'off its value',
  joint: 'joint or trace',
  contents: 'its contents',
};
