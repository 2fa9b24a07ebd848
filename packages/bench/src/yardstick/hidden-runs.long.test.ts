import { describe, expect, it } from 'vitest';
import { handledRuns, newWayRuns, pairedRow, rowOf } from './hidden-runs.ts';

describe('runs with a hand of its own (on a sheet of the demo)', () => {
  const runs = handledRuns('wren-5', 6, 5);
  const outcomes = runs.map(({ outcome }) => outcome);

  it('end, and are the same however many come before them', () => {
    const again = handledRuns('wren-5', 4, 5);
    expect(again.map(({ run }) => run.trail)).toEqual(runs.slice(0, 4).map(({ run }) => run.trail));
    for (const { run } of runs) {
      expect(run.onTruth).toBeLessThanOrEqual(1);
      if (run.right) expect(run.onTruth).toBe(run.sure);
    }
  });

  it('make a row, and are held against those of another version by their names', () => {
    expect(rowOf(outcomes)).toMatch(/right group \d.* of 6\); confidently wrong .*log score -?\d/);
    const worse = outcomes.map((outcome, at) =>
      at < 2
        ? { ...outcome, said: { first: 0.99, isRight: false, onTruth: 0 }, isSure: true }
        : outcome,
    );
    const right = outcomes.slice(0, 2).filter(({ said }) => said.isRight).length;
    expect(pairedRow(worse, [...outcomes].reverse())).toContain(
      `6 pairs; right: only before 0, only now ${right}`,
    );
  });

  it('ways nobody listed are read by it too', () => {
    const ways = newWayRuns('wren-5', 1, 5);
    expect(ways.length).toBeGreaterThan(5);
    expect(newWayRuns('wren-5', 1, 5)).toEqual(ways);
    expect(new Set(ways.map(({ name }) => name)).size).toBe(ways.length);
  });
});
