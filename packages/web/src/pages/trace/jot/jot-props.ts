import type { Board } from '@jiko/core/board';
import type { Phase } from '@jiko/core/readings';
import type { EventInput } from '@jiko/core/record';
import type { SheetEditing } from '../../../data/sheet-edit.ts';

/** What one form of the panel is given. */
export interface JotProps {
  job: string;
  board: Board;
  phase: Phase;
  /** Changes the board's sheet. */
  editing: SheetEditing;
  /** Parts that are filled in. */
  parts?: string[] | undefined;
  onRecord: (body: EventInput) => void;
}
