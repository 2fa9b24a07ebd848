import { describe, expect, it } from 'vitest';
import { handledRuns, rowOf, saidOf } from './hidden-runs.ts';

describe('runs with a hand of its own', () => {
  it('end, are the same for the same seed, and make a row (on a sheet of the demo)', () => {
    const runs = handledRuns('wren-5', 6, 5);
    const again = handledRuns('wren-5', 6, 5);
    expect(again.map(({ run }) => run.trail)).toEqual(runs.map(({ run }) => run.trail));
    for (const { run } of runs) {
      expect(run.onTruth).toBeLessThanOrEqual(1);
      if (run.right) expect(run.onTruth).toBe(run.sure);
    }
    const row = rowOf(
      runs.map(saidOf),
      runs.map(({ run }) => run.end === 'sure'),
    );
    expect(row).toMatch(/right group \d.* of 6\); confidently wrong .*log score -?\d/);
  });
});
