import { keptText, useKept } from '../../data/kept.ts';

/** Which of a board's documents is shown; kept in this browser. Empty: the first one. */
export const useShownDocument = (board: string): [string, (id: string) => void] =>
  useKept(`jiko-document-${board}`, keptText, '');
