import type { DictionaryWorker } from '../workers/dictionary.worker.ts';
import type { Player } from './dictionary-search.ts';

/** A worker that plays, from here. */
export interface RemotePlayer {
  make(...words: Parameters<DictionaryWorker['make']>): Promise<void>;
  hold(isHeld: boolean): Promise<void>;
  stop(): Promise<void>;
  terminate(): void;
}

/**
 * Players that are used again when they have ended: what a worker has compiled by then makes the next
 * plays begin at once. One that failed is not.
 */
export function makePlayerPool(newRemote: () => RemotePlayer): () => Player {
  const idle: RemotePlayer[] = [];
  return () => {
    const remote = idle.pop() ?? newRemote();
    let state: 'well' | 'failed' | 'ended' = 'well';
    return {
      make: async (...words) => {
        try {
          await remote.make(...words);
        } catch (error) {
          if (state === 'well') state = 'failed';
          throw error;
        }
      },
      hold(isHeld) {
        if (state === 'well') void remote.hold(isHeld);
      },
      end() {
        if (state === 'failed') remote.terminate();
        if (state === 'well') {
          void remote.stop();
          idle.push(remote);
        }
        state = 'ended';
      },
    };
  };
}
