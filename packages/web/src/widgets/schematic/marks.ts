import { findNet } from '@jiko/core/board';
import { shortExpectation, type Phase } from '@jiko/core/readings';
import type { Named } from '@jiko/core/schematic';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { Trace } from '@jiko/core/trace';
import { lastRead, readText } from '../last-read.ts';
import type { PageMark } from './page-view.tsx';

/** What stands beside the name of a net: what it read, else, where it is chosen, what it should read. */
export function marksOf(
  healthy: HealthyBoard,
  trace: Trace,
  phase: Phase,
  asked: string | null,
): (named: Named) => PageMark | null {
  return (named) => {
    if (named.kind !== 'net' || !findNet(healthy.board, named.net)) return null;
    const isAsked = named.net === asked;
    const last = lastRead(trace, named.net);
    const mode = phase === 'cold' ? 'ohms' : 'volts';
    const expected = `expect ${shortExpectation(healthy.expect(named.net, mode, phase))}`;
    if (last) {
      const read = readText(last);
      const { kind } = last.verdict;
      // What is good says itself what was expected.
      const text = isAsked && kind !== 'good' ? `${read} · ${expected}` : read;
      return { text, verdict: kind, isAsked };
    }
    if (!isAsked || named.net === healthy.board.ground) return null;
    return { text: expected, verdict: null, isAsked };
  };
}
