import { follow, type Run } from './closed-loop.ts';
import { mean, percent, type Bench, type Figure } from './hidden-faults.ts';

/**
 * Two faults at once: what is named is mended, and the search goes on. Figures of how many were
 * found, with how many probes in all.
 */
export function pairFigures(bench: Bench, count: number): Figure {
  const first: Run[] = [];
  let both = 0;
  let atOnce = 0;
  const probes: number[] = [];
  let slowest = 0;
  for (let pair = 0; pair < count; pair++) {
    const { fault: a, goal } = bench.drawBlocker();
    const { fault: b } = bench.drawBlocker();
    const hidden = bench.hide([a, b]);
    const start = performance.now();
    const run = follow(bench.diagnoser, hidden, [a, b], goal);
    slowest = Math.max(slowest, (performance.now() - start) / (run.probes + 1));
    first.push(run);
    if (run.found.length === 2) {
      atOnce++;
      both++;
      probes.push(run.probes);
    } else if (run.found.length === 1) {
      const left = [a, b].filter((fault) => !run.found.includes(fault));
      const next = follow(bench.diagnoser, bench.hide(left), left, goal);
      // The one left may keep another goal from being reached: then nothing is wrong with this one.
      if (next.right || next.end === 'nothing more to ask') both++;
      probes.push(run.probes + next.probes);
    }
  }
  const wrong = first.filter((run) => run.end === 'sure' && !run.right).length;
  return [
    `${count} random pairs of faults on ${bench.board.title}: mended one after the other`,
    'suspects with pairs within 200 ms',
    `one of the two found first ${percent(first.filter((run) => run.right).length, count)}, confidently wrong ${percent(wrong, count)}; both ${percent(both, count)} (${atOnce} named together), with ${mean(probes).toFixed(1)} probes in all; slowest run ${slowest.toFixed(0)} ms a reading`,
  ];
}
