import { useCallback, useMemo, useState } from 'react';
import { z } from 'zod';
import type { BoardDetail } from '@jiko/contract';
import { keep, kept, keptText } from '../../data/kept.ts';

/** A changed sheet that is not saved, with the version it was begun on; null: nobody wrote that down. */
export interface EditDraft {
  base: string | null;
  text: string;
}

const draftSchema = z.object({ base: z.string().nullable(), text: z.string() });

/** Earlier versions kept the text alone. */
const oldKey = (board: string): string => `jiko-edit-${board}`;
const draftKey = (board: string): string => `jiko-edit-draft-${board}`;

export function keptEditDraft(board: string): EditDraft | null {
  const draft = kept<EditDraft | null>(draftKey(board), draftSchema, null);
  if (draft) return draft;
  const text = kept(oldKey(board), keptText, '');
  return text === '' ? null : { base: null, text };
}

export function keepEditDraft(board: string, draft: EditDraft | null): void {
  keep(draftKey(board), draft);
  keep(oldKey(board), null);
}

/** What is changed of a sheet and not saved: kept in this browser; what is as saved is no change. */
export function useEditDraft(
  sheet: BoardDetail,
): [EditDraft | null, (draft: EditDraft | null) => void] {
  const [held, setHeld] = useState(() => keptEditDraft(sheet.id));
  const set = useCallback(
    (draft: EditDraft | null): void => {
      setHeld(draft);
      keepEditDraft(sheet.id, draft);
    },
    [sheet.id],
  );
  const draft = useMemo(() => (held?.text === sheet.text ? null : held), [held, sheet.text]);
  return [draft, set];
}
