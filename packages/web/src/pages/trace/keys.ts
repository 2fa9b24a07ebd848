/** What a key of the entry line asks for. */
export type Command =
  | 'record'
  | 'back'
  | 'mode'
  | 'undo'
  | 'stage-before'
  | 'stage-after'
  | 'left'
  | 'right'
  | 'up'
  | 'down'
  | 'any-point'
  | 'black-lead'
  | 'tells-most'
  | 'schematic'
  | 'school'
  | 'phase'
  | 'source'
  | 'attached'
  | 'sounds'
  | 'note'
  | 'done'
  | 'seen'
  | 'found'
  | 'picture'
  | 'sheet'
  | 'list';

/** A key press, and what the entry line must hold for it to count. */
export interface Press {
  key: string;
  with?: 'ctrl' | 'alt';
  /** Missing: the line is empty. `?` is a reading there, so the list opens on the second one. */
  line?: 'any' | '?';
  command: Command;
}

export interface TraceKey {
  /** As it stands on the keyboard. */
  keys: string[];
  does: string;
  group: 'Readings' | 'Where to probe' | 'The bench' | 'Write down';
  /** Missing where the key is typed into the line, or belongs to another one. */
  presses?: Press[];
}

const letter = (key: string, command: Command): Pick<TraceKey, 'keys' | 'presses'> => ({
  keys: [key],
  presses: [{ key, command }],
});

/** Every key of the trace view: the list that is shown and what is done come from here. */
export const traceKeys: readonly TraceKey[] = [
  {
    group: 'Readings',
    keys: ['Enter'],
    does: 'records what is typed',
    presses: [{ key: 'Enter', line: 'any', command: 'record' }],
  },
  {
    group: 'Readings',
    keys: ['Esc'],
    does: 'clears the line, then goes back to the proposal',
    presses: [{ key: 'Escape', line: 'any', command: 'back' }],
  },
  {
    group: 'Readings',
    keys: ['−'],
    does: 'next meter mode',
    presses: [{ key: '-', command: 'mode' }],
  },
  {
    group: 'Readings',
    keys: ['Ctrl', 'Z'],
    does: 'strikes out the last reading',
    presses: [{ key: 'z', with: 'ctrl', command: 'undo' }],
  },
  {
    group: 'Readings',
    keys: ['*'],
    does: 'is OL; / between two values swings; + and − behind one rises, falls',
  },
  { group: 'Readings', keys: ['?'], does: 'could not reach the point' },
  {
    group: 'Where to probe',
    keys: ['↑', '↓'],
    does: 'the stage before, the stage after',
    presses: [
      { key: 'ArrowUp', line: 'any', command: 'stage-before' },
      { key: 'ArrowDown', line: 'any', command: 'stage-after' },
    ],
  },
  {
    group: 'Where to probe',
    keys: ['←', '→'],
    does: 'towards the feed in the drawing, and back',
    presses: [
      { key: 'ArrowLeft', command: 'left' },
      { key: 'ArrowRight', command: 'right' },
    ],
  },
  {
    group: 'Where to probe',
    keys: ['Alt', '↑ ↓'],
    does: 'beside it in the drawing',
    presses: [
      { key: 'ArrowUp', with: 'alt', line: 'any', command: 'up' },
      { key: 'ArrowDown', with: 'alt', line: 'any', command: 'down' },
    ],
  },
  {
    group: 'Where to probe',
    ...letter('/', 'any-point'),
    does: 'any point by name; where it is, for a new one',
  },
  {
    group: 'Where to probe',
    ...letter('r', 'black-lead'),
    does: 'what the black lead stands on, if not ground',
  },
  {
    group: 'Where to probe',
    ...letter('m', 'tells-most'),
    does: 'the reading that tells most; again for the next one',
  },
  {
    group: 'Where to probe',
    ...letter('w', 'schematic'),
    does: 'the stages, or the page of the schematic; F3 the next place of it, Ctrl F searches',
  },
  {
    group: 'Where to probe',
    ...letter('h', 'school'),
    does: 'how points are proposed: in order, shortest, looks first',
  },
  { group: 'The bench', ...letter('+', 'phase'), does: 'next phase' },
  { group: 'The bench', ...letter('c', 'source'), does: 'source' },
  { group: 'The bench', ...letter('a', 'attached'), does: 'what is attached' },
  { group: 'The bench', ...letter('t', 'sounds'), does: 'tone and words on or off' },
  { group: 'Write down', ...letter('n', 'note'), does: 'a note' },
  { group: 'Write down', ...letter('d', 'done'), does: 'what was done' },
  { group: 'Write down', ...letter('s', 'seen'), does: 'signs: draw, lights, fan' },
  { group: 'Write down', ...letter('f', 'found'), does: 'something found on the board' },
  { group: 'Write down', ...letter('p', 'picture'), does: 'a picture' },
  {
    group: 'Write down',
    ...letter('e', 'sheet'),
    does: 'into the sheet: volts, feeds, parts, chips',
  },
  { group: 'Write down', keys: ['Ctrl', 'Enter'], does: 'keeps it' },
  {
    group: 'Where to probe',
    keys: ['Ctrl', 'K'],
    does: 'goes to a net, part, job, board, sum, word or page by a few letters',
  },
  {
    group: 'Write down',
    keys: ['F1', '? ?'],
    does: 'this list',
    presses: [
      { key: 'F1', line: 'any', command: 'list' },
      { key: '?', line: '?', command: 'list' },
    ],
  },
];

const allPresses = traceKeys.flatMap((one) => one.presses ?? []);

/** What a key press asks for, given what stands in the entry line; null for keys that are typed. */
export function commandOf(
  event: { key: string; ctrlKey: boolean; metaKey: boolean; altKey: boolean },
  line: string,
): Command | null {
  const held = event.ctrlKey || event.metaKey ? 'ctrl' : event.altKey ? 'alt' : undefined;
  const found = allPresses.find(
    (one) =>
      one.key === event.key &&
      one.with === held &&
      (one.line === 'any' || line === (one.line ?? '')),
  );
  return found?.command ?? null;
}
