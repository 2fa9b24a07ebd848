import { useEffect, useRef } from 'react';
import type { Named } from '@jiko/core/schematic';

/** What the windows of one board tell each other: what was chosen, and in which of them. */
interface Told {
  from: 'work' | 'schematic';
  named: Named;
}

const channelOf = (board: string): string => `jiko-beside-${board}`;

/**
 * Two windows on one board go together: what is chosen in one is told to the other. `side` is what this
 * window is; it hears only the other kind.
 */
export function useBeside(
  board: string,
  side: Told['from'],
  onTold: (named: Named) => void,
): (named: Named) => void {
  const channel = useRef<BroadcastChannel | null>(null);
  const heard = useRef(onTold);
  useEffect(() => {
    heard.current = onTold;
  });
  useEffect(() => {
    if (board === '') return;
    const opened = new BroadcastChannel(channelOf(board));
    channel.current = opened;
    opened.onmessage = ({ data }: MessageEvent<Told>) => {
      if (data.from !== side) heard.current(data.named);
    };
    return () => {
      opened.close();
      channel.current = null;
    };
  }, [board, side]);
  return (named) => channel.current?.postMessage({ from: side, named } satisfies Told);
}
