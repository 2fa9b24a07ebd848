import { joinedTo, type NetId } from '../board/index.ts';
import { riskyStages, type HealthyBoard } from '../expectations/index.ts';
import type { SweepPoint } from './sweep.ts';

/**
 * The few cold readings that most technicians take before a supply with a current limit (common practice, no
 * source): ohms where a source is plugged in, at what feeds the converters that start by themselves, at what those
 * give, and through each stage whose short would put the input's volts on a rail that cannot bear them. In the
 * order of the sweep.
 */
export function shortList(healthy: HealthyBoard, sweep: readonly SweepPoint[]): SweepPoint[] {
  const { board, stages } = healthy;
  const early = new Set<NetId>(
    stages.filter((one) => one.phase === 'standby').flatMap((one) => one.stage.gives),
  );
  const made = new Set<NetId>();
  const feeds = new Set<NetId>();
  for (const { fitted, pins, behaviours } of board.chips)
    for (const one of fitted ? behaviours : []) {
      if (one.do !== 'regulator') continue;
      const gives = [pins.get(one.out), pins.get(one.sense)].filter((net) => net !== undefined);
      const own = [...joinedTo(board, gives)].filter((net) => early.has(net));
      if (own.length === 0) continue;
      for (const net of own) made.add(net);
      const feed = pins.get(one.in);
      if (feed !== undefined) for (const net of joinedTo(board, [feed])) feeds.add(net);
    }
  const risky = riskyStages(board).map(({ feed, output }) => [feed, output].sort().join());
  const plugs = new Set<NetId>(
    board.sources.filter(({ kind, stays }) => kind !== 'coin-cell' && !stays).map(({ net }) => net),
  );
  return sweep.filter(
    (one) =>
      one.mode === 'ohms' &&
      (one.reference === null
        ? plugs.has(one.net) || made.has(one.net) || feeds.has(one.net)
        : risky.includes([one.net, one.reference].sort().join())),
  );
}
