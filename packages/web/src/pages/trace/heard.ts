import { useEffect, useRef } from 'react';
import type { Trace } from '@jiko/core/trace';
import { playTone, pointWords, say } from '../../data/sounds.ts';
import type { ProbeView } from './probe-card.tsx';

/** After each reading its verdict as a tone, then the point that comes next in words. */
export function useHeard(trace: Trace, probe: ProbeView | null, isWeighing: boolean): void {
  const last = trace.readings.at(-1);
  const heard = useRef(last?.id);
  const spoken = useRef('');
  useEffect(() => {
    if (!last || heard.current === last.id) return;
    heard.current = last.id;
    spoken.current = '';
    playTone(last.verdict.kind);
  }, [last]);
  const words = probe ? pointWords(probe.net, probe.mode, probe.place, probe.reference) : '';
  useEffect(() => {
    if (isWeighing || words === '' || words === spoken.current) return;
    spoken.current = words;
    say(words);
  }, [words, isWeighing]);
}
