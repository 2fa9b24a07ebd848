import { Piscina } from 'piscina';
import { serially } from '@jiko/core/base';

// Work that would hold up everybody else's requests is done on a thread of its own, one piece after the
// other, within bounded time and memory.

/** A piece of work took more than it may, and was ended. `message` goes on after the name of a file. */
export class TookTooMuch extends Error {}

/** A thread that nobody asked for so long is let go of: it holds some 100 MB. */
const idleSeconds = 120;

export interface Limits {
  /** From the moment the work begins. */
  seconds: number;
}
export type Aside = <Answer>(name: string, task: unknown, limits: Limits) => Promise<Answer>;

/**
 * Runs functions that a file of ours exports on a thread. The thread is made at the first task and kept
 * warm; what breaks, ends, or is ended fails its own task only.
 */
export function makeAside(file: URL, megabytes = 1024): Aside {
  let pool: Piscina | null = null;
  const inTurn = serially();
  return <Answer>(name: string, task: unknown, { seconds }: Limits): Promise<Answer> =>
    inTurn(async () => {
      pool ??= new Piscina({
        filename: file.href,
        minThreads: 0,
        maxThreads: 1,
        idleTimeout: idleSeconds * 1000,
        execArgv: ['--import', '@oxc-node/core/register'],
        resourceLimits: { maxOldGenerationSizeMb: megabytes },
      });
      try {
        return (await pool.run(task, {
          name,
          signal: AbortSignal.timeout(seconds * 1000),
        })) as Answer;
      } catch (error) {
        const { name: kind, code } = error as { name?: string; code?: string };
        if (kind === 'AbortError') throw new TookTooMuch(`takes longer than ${seconds} s to read`);
        if (code === 'ERR_WORKER_OUT_OF_MEMORY')
          throw new TookTooMuch('takes more memory than it may');
        throw error;
      }
    });
}
