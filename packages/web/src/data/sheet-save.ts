import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { compareSheets, layOver } from '@jiko/core/sheet-edit';
import { boardQuery, versionQuery } from './queries.ts';
import { isMeanwhile, saveSheet } from './save-sheet.ts';

/** Two changes of one sheet that were made from the same version: the one in the way, and this one. */
export interface Clash {
  /** What the other one changed since, in words; null where it is not known what this one was made from. */
  theirs: string[] | null;
  /** What is different once this one is laid over it. */
  mine: string[];
  /** Places both changed. */
  clashes: number;
  text: string;
  newest: string;
}

/** Saves whole texts of a board's sheet, and says what to do where somebody else saved one in between. */
export interface SheetSave {
  isSaving: boolean;
  /** Why it was not saved. */
  trouble: string | null;
  clash: Clash | null;
  /** The hash it is kept under; null where it was not saved. */
  save(text: string, base: string | null): Promise<string | null>;
  /** Saves this one, laid over the one in between. */
  layOver(): Promise<string | null>;
  /** Lets this one be; it stays where it is. */
  leave(): void;
}

export function useSheetSave(board: string): SheetSave {
  const client = useQueryClient();
  const [isSaving, setSaving] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [clash, setClash] = useState<Clash | null>(null);

  const clashOf = async (mine: string, base: string | null): Promise<Clash> => {
    const newest = await client.fetchQuery({ ...boardQuery(board), staleTime: 0 });
    const from =
      base === null
        ? null
        : await client
            .fetchQuery(versionQuery(board, base))
            .then((one) => one.text)
            .catch(() => null);
    const laid = layOver(from, newest.text, mine);
    return {
      theirs: from === null ? null : compareSheets(from, newest.text),
      mine: compareSheets(newest.text, laid.text),
      clashes: laid.clashes,
      text: laid.text,
      newest: newest.hash,
    };
  };
  const save = async (text: string, base: string | null): Promise<string | null> => {
    setSaving(true);
    try {
      const { hash } = await saveSheet(client, text, base);
      setTrouble(null);
      setClash(null);
      return hash;
    } catch (error) {
      if (isMeanwhile(error)) {
        const found = await clashOf(text, base).catch(() => null);
        setClash(found);
        setTrouble(found ? null : (error as Error).message);
      } else setTrouble((error as Error).message);
      return null;
    } finally {
      setSaving(false);
    }
  };
  return {
    isSaving,
    trouble,
    clash,
    save,
    layOver: async () => (clash ? save(clash.text, clash.newest) : null),
    leave: () => setClash(null),
  };
}
