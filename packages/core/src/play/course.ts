import type { NetId } from '../board/index.ts';
import type { SourceDevice } from '../circuit/index.ts';

// What the course of a play amounts to: whether it moved, what it swung between, when it settled.

/** All nodes' volts as solved at a moment, in seconds of the play. */
export interface Solved {
  at: number;
  volts: Float64Array;
}

/** Whether anything moved since the moment: a state that repeats in stillness is no cycle. */
export function hasMoved(history: readonly Solved[], first: number): boolean {
  const from = history[first]?.volts;
  return history
    .slice(first + 1)
    .some(({ volts }) => volts.some((value, node) => Math.abs(value - (from?.[node] ?? 0)) > 0.1));
}

/** Whether two moments have the same volts everywhere: a cycle comes back to where it was. */
export function isSame(a: Solved | undefined, b: Solved | undefined): boolean {
  if (!a || !b) return false;
  return a.volts.every((value, node) => Math.abs(value - b.volts[node]!) < 0.01);
}

/** Lowest, highest and time-weighted mean volts of every net over one cycle. */
export function overCycle(
  nets: readonly NetId[],
  cycle: readonly Solved[],
): { mean: Float64Array; seconds: number; swinging: Map<NetId, { low: number; high: number }> } {
  const start = cycle[0]?.at ?? 0;
  const seconds = Math.max((cycle.at(-1)?.at ?? 0) - start, 1e-9);
  const mean = new Float64Array(nets.length + 1);
  const swinging = new Map<NetId, { low: number; high: number }>();
  nets.forEach((net, index) => {
    let low = Infinity;
    let high = -Infinity;
    let area = 0;
    cycle.forEach(({ at, volts }, moment) => {
      const here = volts[index + 1] ?? 0;
      low = Math.min(low, here);
      high = Math.max(high, here);
      area += here * ((cycle[moment + 1]?.at ?? at) - at);
    });
    mean[index + 1] = area / seconds;
    if (high - low > Math.max(0.1, Math.abs(high) * 0.05)) swinging.set(net, { low, high });
  });
  return { mean, seconds, swinging };
}

/** Time-weighted mean amps out of a source over a cycle. */
export function meanAmps(source: SourceDevice, cycle: readonly Solved[]): number {
  const { node, base, volts: target, ohms, maxAmps, minAmps } = source;
  let charge = 0;
  cycle.forEach(({ at, volts }, moment) => {
    const wanted = (target - volts[node]! + volts[base]!) / ohms;
    const amps = Math.min(maxAmps, Math.max(minAmps, wanted));
    charge += amps * ((cycle[moment + 1]?.at ?? at) - at);
  });
  return charge / Math.max((cycle.at(-1)?.at ?? 0) - (cycle[0]?.at ?? 0), 1e-9);
}

/**
 * For each net, the last time it came within a tenth of where it ended. What was there before the
 * press and is there after it counts from before: a button line dips while it is held.
 */
export function settlingTimes(
  nets: readonly NetId[],
  history: readonly Solved[],
  pressedAtSeconds: number,
): Map<NetId, number> {
  const standby = history.filter((moment) => moment.at < pressedAtSeconds || moment === history[0]);
  const times = new Map<NetId, number>();
  nets.forEach((net, index) => {
    const voltsIn = (moments: readonly Solved[], at: number): number =>
      moments.at(at)?.volts[index + 1] ?? 0;
    const end = voltsIn(history, -1);
    const near = Math.max(0.05, Math.abs(end) * 0.1);
    const wasThere = Math.abs(voltsIn(standby, -1) - end) <= near;
    const moments = wasThere ? standby : history;
    let at = 0;
    for (let i = moments.length - 1; i >= 0; i--) {
      if (Math.abs(voltsIn(moments, i) - end) > near) break;
      at = moments[i]?.at ?? 0;
    }
    times.set(net, at);
  });
  return times;
}

/** With fewer nets than this going again, one rail hiccups and the board goes on. */
const leastGone = 3;
/** What stands below this never came. */
const leastUpVolts = 0.5;

/**
 * When most of what came after the press was gone again for good, in seconds from connecting; null
 * where it stays, or nothing came.
 */
export function wentAt(history: readonly Solved[], pressedAtSeconds: number): number | null {
  const before = history.findLast((one) => one.at <= pressedAtSeconds)?.volts;
  const after = history.filter((one) => one.at > pressedAtSeconds);
  const end = after.at(-1)?.volts;
  if (!before || !end) return null;
  const peaks = before.map((_, node) =>
    after.reduce((most, one) => Math.max(most, one.volts[node]!), 0),
  );
  const came = [...peaks.keys()].filter(
    (node) => peaks[node]! > leastUpVolts && before[node]! < peaks[node]! / 2,
  );
  const isUp = (volts: Float64Array) => (node: number) => volts[node]! > peaks[node]! / 2;
  const left = came.filter(isUp(end)).length;
  if (came.length - left < Math.max(leastGone, came.length / 2)) return null;
  const last = after.findLastIndex((one) => came.filter(isUp(one.volts)).length > came.length / 2);
  return after[last + 1]?.at ?? null;
}
