import type { KeyLine } from '../widgets/keys-list.tsx';

const everywhere: KeyLine[] = [
  { keys: ['F1'], does: 'the keys of this page' },
  {
    keys: ['Ctrl', 'K'],
    does: 'goes to a job, board, net, part, sum, word or page by a few letters',
  },
  {
    keys: ['Tab'],
    does: 'the next field or button; first of all "To the work" goes past the tabs',
  },
  { keys: ['Ctrl', 'Enter'], does: 'keeps the form one is in' },
  {
    keys: ['← →'],
    does: 'move among answers; Enter or the space bar answers, again takes it back',
  },
];

const readings: KeyLine[] = [
  { keys: ['Enter'], does: 'records what is typed and goes on; on an empty line it skips' },
  { keys: ['↑', '↓'], does: 'the point before, the next one' },
  { keys: ['Esc'], does: 'clears the line' },
  { keys: ['*'], does: 'is OL' },
  { keys: ['?'], does: 'could not reach the point' },
];

/** Keys of a view by the last word of its address; Trace has a list of its own. */
const byView: Record<string, { title: string; keys: readonly KeyLine[] }> = {
  cold: { title: 'Cold readings', keys: readings },
  stage: {
    title: 'Readings at the stage',
    keys: [
      ...readings,
      { keys: ['Enter'], does: 'in the list of parts: it is there' },
      { keys: ['−'], does: 'in the list of parts: it is missing' },
    ],
  },
  repair: { title: 'The same points again', keys: readings },
  edit: { title: 'The sheet', keys: [{ keys: ['Ctrl', 'S'], does: 'saves a version' }] },
  schematic: {
    title: 'The pages',
    keys: [
      { keys: ['F3'], does: 'the next place; with Shift the one before' },
      { keys: ['Ctrl', 'F'], does: 'searches' },
      { keys: ['Page ↑ ↓'], does: 'the page before, the next one' },
    ],
  },
};

/** The keys of the page at an address. */
export function keysOf(pathname: string): { title: string; keys: readonly KeyLine[] }[] {
  const own = byView[pathname.split('/').filter(Boolean).at(-1) ?? ''];
  return [...(own ? [own] : []), { title: 'Everywhere', keys: everywhere }];
}
