import { describe, expect, it } from 'vitest';
import { pressedAfter, type BenchState } from './bench-state.ts';

const bench = (more: Partial<BenchState>): BenchState => ({
  phase: 'standby',
  source: 'adapter',
  attached: [],
  cooler: true,
  pressedAt: null,
  ...more,
});

describe('when the button was pressed', () => {
  it('is kept while the board stays on, whatever else changes, and gone once it is off', () => {
    const running = bench({ phase: 'trying', cooler: false, pressedAt: 1000 });
    expect(pressedAfter(bench({}), { phase: 'pressed' }, 1000)).toBe(1000);
    expect(pressedAfter(running, { phase: 'run' }, 9000)).toBe(1000);
    expect(pressedAfter(running, { attached: ['panel'] }, 9000)).toBe(1000);
    expect(pressedAfter(running, { phase: 'standby' }, 9000)).toBeNull();
    expect(pressedAfter(running, { phase: 'cold' }, 9000)).toBeNull();
  });

  it('counts anew from when the cooler came off, and from another press', () => {
    const running = bench({ phase: 'run', pressedAt: 1000 });
    expect(pressedAfter(running, { cooler: false }, 9000)).toBe(9000);
    expect(pressedAfter(running, { pressedAt: 7000 }, 9000)).toBe(7000);
    // A strip of an earlier version did not say when.
    expect(pressedAfter(bench({ phase: 'run' }), { attached: [] }, 9000)).toBe(9000);
  });
});
