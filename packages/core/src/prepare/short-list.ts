import { joinedTo, type NetId } from '../board/index.ts';
import { riskyStages, type HealthyBoard } from '../expectations/index.ts';
import { inputSection, type SweepPoint } from './sweep.ts';

/** An input has nodes behind a fuse, a ferrite and FETs: at most so many of it are read. */
const mostOfInput = 3;

/**
 * The few cold readings that most technicians take before a supply with a current limit (common practice, no
 * source): ohms at the ends of the way in, at what feeds the converters that start by themselves, at what those
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
  const grounded = sweep.filter((one) => one.mode === 'ohms' && one.reference === null);
  const input = inputSection(board);
  const ofInput = grounded.filter(({ net }) => input.includes(net));
  // The jack, what stands behind its first part, and the main rail at its end.
  const ends = new Set([...ofInput.slice(0, mostOfInput - 1), ...ofInput.slice(-1)]);
  return sweep.filter(
    (one) =>
      one.mode === 'ohms' &&
      (one.reference === null
        ? ends.has(one) || made.has(one.net) || feeds.has(one.net)
        : risky.includes([one.net, one.reference].sort().join())),
  );
}
