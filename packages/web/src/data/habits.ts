import { useQuery } from '@tanstack/react-query';
import { schemeOf, type Board } from '@jiko/core/board';
import type { Habit } from '@jiko/core/record';
import { habitsQuery } from './queries.ts';

const noHabits: Habit[] = [];

/** What closed jobs teach of a board; none until they are there. */
export const useHabits = (board: Board): readonly Habit[] =>
  useQuery(habitsQuery(board.id, schemeOf(board))).data ?? noHabits;
