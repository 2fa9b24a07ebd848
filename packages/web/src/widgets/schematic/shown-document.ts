import { useState } from 'react';

/** Which of a board's documents is shown; kept in this browser. Empty: the first one. */
export function useShownDocument(board: string): [string, (id: string) => void] {
  const key = `jiko-document-${board}`;
  const [shown, setShown] = useState(() => localStorage.getItem(key) ?? '');
  return [
    shown,
    (id) => {
      localStorage.setItem(key, id);
      setShown(id);
    },
  ];
}
