import type { Board } from './board.ts';
import type { GoalId } from './ids.ts';

/** What a board may be brought in for beside the goals of its sheet. */
export const commonGoals = {
  /** It does something when its button is pressed; what it does then is another matter. */
  answers: 'answers-button' as GoalId,
  /** Nothing in particular: what is found decides. */
  none: 'none' as GoalId,
} as const;

/** Goals a technician may choose from, to be read after "done when it". */
export function choosableGoals(board: Board): { id: GoalId; title: string }[] {
  const own = board.goals.map(({ id, title }) => ({ id, title }));
  const answers = { id: commonGoals.answers, title: 'answers its button' };
  return [
    ...own,
    ...(board.button && !own.some((one) => one.title === answers.title) ? [answers] : []),
    { id: commonGoals.none, title: 'has been looked at: no goal' },
  ];
}

export const goalTitle = (board: Board, id: string): string =>
  choosableGoals(board).find((one) => one.id === id)?.title ?? id;
