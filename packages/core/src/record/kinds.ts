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
] as const;

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
] as const;

export const simpleResults = ['no-change', 'helped', 'cannot'] as const;

/** What makes a board and the one who works on it safe; each with its reason in prepare/make-safe.ts. */
export const safetyItems = [
  'source-off',
  'battery-out',
  'storage-out',
  'discharged',
  'coin-cell',
  'esd',
  'swollen-cell',
  'mains-side',
  'liquids',
  'hot-air',
  'liquid-metal',
] as const;

/** none-here: looked for, and this board has none. */
export const safetyStates = ['done', 'none-here', 'open'] as const;

/** How heat was looked for; a finger is none. */
export const heatWays = ['camera', 'grid', 'freeze'] as const;

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
