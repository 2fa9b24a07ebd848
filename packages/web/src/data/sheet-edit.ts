import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { chooseAgain, editSheet, type EditedSheet, type SheetEdit } from '@jiko/core/sheet-edit';
import type { Choices } from '@jiko/core/first-sheet';
import type { Result } from '@jiko/core/base';
import type { Board } from '@jiko/core/board';
import type { Job } from '@jiko/core/record';
import { boardQuery } from './queries.ts';
import { boardOf, knowBoard } from './read-sheet.ts';
import { isMeanwhile, saveSheet } from './save-sheet.ts';

/** Changes a board's sheet where the work is. Each change is a new version; the page follows by itself. */
export interface SheetEditing {
  isSaving: boolean;
  /** Why the last change was not made. */
  trouble: string | null;
  /** The last change in words, with the way back. */
  last: { words: string; undo: () => Promise<boolean> } | null;
  /** The id of what was added or touched; null where it was not done. */
  edit: (edit: SheetEdit) => Promise<string | null>;
  choose: (choices: Choices) => Promise<string | null>;
}

/** `onMoved` is told the version the job goes on with. */
export function useSheetEditing(job: Job, onMoved: (hash: string) => void): SheetEditing {
  const boardId = job.intake?.board ?? '';
  const client = useQueryClient();
  const [isSaving, setSaving] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [last, setLast] = useState<{ words: string; before: string; hash: string } | null>(null);

  const change = async (
    make: (text: string, board: Board | null) => Result<EditedSheet, string[]>,
  ): Promise<string | null> => {
    setSaving(true);
    setTrouble(null);
    const onNewest = async (): Promise<string | null> => {
      // The newest version, not the one this page began with: somebody else may have changed it.
      const sheet = await client.fetchQuery({ ...boardQuery(boardId), staleTime: 0 });
      if (job.sheet !== null && job.sheet !== sheet.hash) {
        setTrouble('The sheet has a newer version than this job stands on: go on with it first.');
        return null;
      }
      const made = make(sheet.text, boardOf(sheet));
      if (!made.ok) {
        setTrouble(made.error.join(' '));
        return null;
      }
      // Before anybody is told of the new version.
      knowBoard(made.value.board);
      const { hash } = await saveSheet(client, made.value.text, sheet.hash);
      onMoved(hash);
      setLast({ words: made.value.words, before: sheet.text, hash });
      return made.value.id;
    };
    try {
      return await onNewest().catch((error: unknown) => {
        if (!isMeanwhile(error)) throw error;
        // Saved in between by another: the change is made once more, on that version.
        return onNewest();
      });
    } catch (error) {
      setTrouble(`${(error as Error).message} The sheet is as it was.`);
      return null;
    } finally {
      setSaving(false);
    }
  };

  const undo = async (): Promise<boolean> => {
    if (!last) return false;
    setSaving(true);
    try {
      // Taking back must not take somebody else's change with it.
      const now = await client.fetchQuery({ ...boardQuery(boardId), staleTime: 0 });
      if (now.hash !== last.hash) {
        setTrouble('The sheet was changed again since: see its versions.');
        return false;
      }
      onMoved((await saveSheet(client, last.before, last.hash)).hash);
      setLast(null);
      return true;
    } catch (error) {
      setTrouble(`${(error as Error).message} The change still stands.`);
      return false;
    } finally {
      setSaving(false);
    }
  };

  return {
    isSaving,
    trouble,
    last: last && { words: last.words, undo },
    edit: (edit) => change((text, board) => editSheet(text, edit, board)),
    choose: (choices) => change((text) => chooseAgain(text, choices)),
  };
}
