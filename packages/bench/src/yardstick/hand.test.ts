import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { seeded } from '@jiko/core/base';
import { loadSheet, type NetId } from '@jiko/core/board';
import { hideFaults } from '@jiko/bench';
import { usualSetup } from '@jiko/core/play';
import { usualMeter } from '@jiko/core/readings';
import { inHand, neighbourOf, slips, type Slip } from './hand.ts';

const loaded = loadSheet(
  readFileSync(new URL('../../../../sheets/beck-mini.yaml', import.meta.url), 'utf8'),
);
if (!loaded.ok) throw new Error('beck-mini does not load');
const board = loaded.value;
const net = '5V_SB' as NetId;

describe('a hand of its own', () => {
  const chance = seeded(11);
  const runs = Array.from({ length: 400 }, (_, seed) => {
    const hidden = hideFaults(board, usualSetup(board), [], chance, {
      badContact: 0,
      meter: usualMeter,
      noise: 0,
    });
    const handled = inHand(hidden, board, seed);
    const values = Array.from({ length: 30 }, () => handled.read(net, 'volts', 'standby'));
    return { handled, values };
  });

  it('slips as often as it is said to', () => {
    const count = new Map<Slip, number>();
    for (const { handled } of runs)
      for (const { slip } of handled.slipped) count.set(slip, (count.get(slip) ?? 0) + 1);
    for (const slip of ['neighbour', 'noTouch', 'decade', 'digit', 'old', 'warm'] as const) {
      const wanted = slips[slip] * 12_000;
      // Four standard deviations of a Poisson count.
      expect(Math.abs((count.get(slip) ?? 0) - wanted), slip).toBeLessThan(4 * Math.sqrt(wanted));
    }
  });

  it('one meter is off by one factor for all of its readings, and in a third of the runs by much', () => {
    const far = runs.filter(({ handled }) => Math.abs(handled.factor - 1) > slips.nearOff);
    // Four in five of the far third are further off than the near ones can be.
    expect(far.length / runs.length).toBeGreaterThan(0.18);
    expect(far.length / runs.length).toBeLessThan(0.36);
    // A digit each way, and what four places round off.
    for (const { handled, values } of runs.slice(0, 40)) {
      const clean = values.flatMap((value, at) =>
        value.kind === 'number' && !handled.slipped.some((slipped) => slipped.at === at)
          ? [value.value]
          : [],
      );
      expect(Math.max(...clean) - Math.min(...clean)).toBeLessThan(0.0305);
    }
  });

  it('errs at a place by itself: in whichever order, the same readings', () => {
    const others = ['12V_IN', '3V3_SB', '5V_SB'] as NetId[];
    const readAll = (nets: readonly NetId[]) => {
      let source = seeded(1);
      const hidden = hideFaults(board, usualSetup(board), [], () => source(), {
        badContact: 0,
        meter: usualMeter,
      });
      const handled = inHand(hidden, board, 99, (seed) => (source = seeded(seed)));
      return new Map(nets.map((at) => [at, JSON.stringify(handled.read(at, 'volts', 'standby'))]));
    };
    const [there, back] = [readAll(others), readAll([...others].reverse())];
    for (const at of others) expect(back.get(at), at).toBe(there.get(at));
  });

  it('the pin beside is a net that lies beside', () => {
    const found = new Set(Array.from({ length: 200 }, () => neighbourOf(board, net, chance)));
    expect(found.size).toBeGreaterThan(1);
    expect(found.has(net)).toBe(false);
  });
});
