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
    stages.filter(({ phase }) => phase === 'standby').flatMap(({ stage }) => stage.gives),
  );
  const made = new Set<NetId>();
  const feeds = new Set<NetId>();
  for (const { fitted, pins, behaviours } of board.chips)
    for (const does of fitted ? behaviours : []) {
      if (does.do !== 'regulator') continue;
      const gives = [pins.get(does.out), pins.get(does.sense)].filter((net) => net !== undefined);
      const own = [...joinedTo(board, gives)].filter((net) => early.has(net));
      if (own.length === 0) continue;
      for (const net of own) made.add(net);
      const feed = pins.get(does.in);
      if (feed !== undefined) for (const net of joinedTo(board, [feed])) feeds.add(net);
    }
  const risky = riskyStages(board).map(({ feed, output }) => [feed, output].sort().join());
  const plugs = new Set<NetId>(
    board.sources.filter(({ kind, stays }) => kind !== 'coin-cell' && !stays).map(({ net }) => net),
  );
  return sweep.filter(
    ({ net, reference, mode }) =>
      mode === 'ohms' &&
      (reference === null
        ? plugs.has(net) || made.has(net) || feeds.has(net)
        : risky.includes([net, reference].sort().join())),
  );
}
