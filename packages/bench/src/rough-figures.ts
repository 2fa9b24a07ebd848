import { follow, type Run } from './closed-loop.ts';
import { mean, percent, type Bench, type Figure } from './hidden-faults.ts';

/** Hidden faults read by a meter that is up to 4 % off and touches badly once in twelve readings. */
export function roughLoop(bench: Bench, count: number): { title: string; runs: Run[] } {
  const runs: Run[] = [];
  while (runs.length < count) {
    const { fault, goal, hidden } = bench.hideBlocker({ more: { badContact: 0.08, stray: 0.04 } });
    runs.push(follow(bench.diagnoser, hidden, [fault], goal));
  }
  return { title: bench.board.title, runs };
}

export function roughRow({ title, runs }: { title: string; runs: readonly Run[] }): Figure {
  const share = (is: (run: Run) => boolean): string => percent(runs.filter(is).length, runs.length);
  return [
    `${title}, faults of the list, readings up to 4 % off, 8 % bad contacts`,
    'confidently wrong under 2 %',
    `${runs.length} runs: right group ${share((run) => run.right)}, confidently wrong ${share((run) => run.end === 'sure' && !run.right)}, ${mean(runs.map((run) => run.probes)).toFixed(1)} probes`,
  ];
}
