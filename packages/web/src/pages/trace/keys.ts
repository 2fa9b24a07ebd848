/** Keys of the entry line while it is empty; `?` is a reading there, so the list opens on `??` or F1. */
export interface TraceKey {
  keys: string[];
  does: string;
  group: 'Readings' | 'Where to probe' | 'The bench' | 'Write down';
}

export const traceKeys: readonly TraceKey[] = [
  { group: 'Readings', keys: ['Enter'], does: 'records what is typed' },
  { group: 'Readings', keys: ['Esc'], does: 'clears the line, then goes back to the proposal' },
  { group: 'Readings', keys: ['−'], does: 'next meter mode' },
  { group: 'Readings', keys: ['Ctrl', 'Z'], does: 'strikes out the last reading' },
  {
    group: 'Readings',
    keys: ['*'],
    does: 'is OL; / between two values swings; + and − behind one rises, falls',
  },
  { group: 'Readings', keys: ['?'], does: 'could not reach the point' },
  { group: 'Where to probe', keys: ['↑', '↓'], does: 'the stage before, the stage after' },
  { group: 'Where to probe', keys: ['←', '→'], does: 'towards the feed in the drawing, and back' },
  { group: 'Where to probe', keys: ['Alt', '↑ ↓'], does: 'beside it in the drawing' },
  { group: 'Where to probe', keys: ['/'], does: 'any point by name' },
  { group: 'Where to probe', keys: ['r'], does: 'what the black lead stands on, if not ground' },
  {
    group: 'Where to probe',
    keys: ['m'],
    does: 'the reading that tells most; again for the next one',
  },
  {
    group: 'Where to probe',
    keys: ['h'],
    does: 'how points are proposed: in order, shortest, looks first',
  },
  { group: 'The bench', keys: ['+'], does: 'next phase' },
  { group: 'The bench', keys: ['c'], does: 'source' },
  { group: 'The bench', keys: ['a'], does: 'what is attached' },
  { group: 'The bench', keys: ['t'], does: 'tone and words on or off' },
  { group: 'Write down', keys: ['n'], does: 'a note' },
  { group: 'Write down', keys: ['d'], does: 'what was done' },
  { group: 'Write down', keys: ['s'], does: 'signs: draw, lights, fan' },
  { group: 'Write down', keys: ['f'], does: 'something found on the board' },
  { group: 'Write down', keys: ['p'], does: 'a picture' },
  { group: 'Write down', keys: ['Ctrl', 'Enter'], does: 'keeps it' },
  { group: 'Write down', keys: ['F1', '? ?'], does: 'this list' },
];
