import { walkNext, type NextProbe } from '@jiko/core/diagnosis';
import { traceJob, type Trace } from '@jiko/core/trace';

/** What is proven, with what is read next in the order of waking. */
export interface WalkedTrace extends Trace {
  next: NextProbe | null;
}

export function walkJob(...words: Parameters<typeof traceJob>): WalkedTrace {
  const trace = traceJob(...words);
  return { ...trace, next: walkNext(trace) };
}
