import type { Board } from '@jiko/core/board';
import type { Phase } from '@jiko/core/readings';
import type { EventInput } from '@jiko/core/record';

/** What one form of the panel is given. */
export interface JotProps {
  job: string;
  board: Board;
  phase: Phase;
  onRecord: (body: EventInput) => void;
}
