import { type NetId, joinedTo } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { isBad } from '../readings/index.ts';
import { jobOnBoard, type Job, type KeptReading } from '../record/index.ts';
import { judgeAll } from './judged.ts';

/**
 * A job on its board as it is now. A repair makes only those readings old that hang on what was touched:
 * what is good and has nothing to do with it stays good. A repair that names no part may have touched
 * everything.
 */
export function jobNow(healthy: HealthyBoard, kept: Job): Job {
  const job = jobOnBoard(healthy.board, kept);
  if (!job.readings.some((one) => one.standing.kind === 'before-repair')) return job;
  const judged = new Map(judgeAll(healthy, job.readings).map((one) => [one.id, one]));
  const touches = new Map(
    job.repairs.map((repair) => [repair.id, touchedBy(healthy, repair.body.parts)]),
  );
  const hangsOn = (one: KeptReading): boolean => {
    if (one.standing.kind !== 'before-repair') return false;
    const { at, reference, mode, phase } = one.reading;
    // Amps, warmth and seconds are of the whole board.
    if (mode !== 'volts' && mode !== 'ohms' && mode !== 'diode') return true;
    const nets = [at.net, ...(reference ? [reference.net] : [])] as NetId[];
    const isWrong = isBad(judged.get(one.id)!.verdict);
    return one.standing.repairs.some((id) => {
      const touched = touches.get(id);
      if (!touched) return true;
      const on = (set: ReadonlySet<NetId>): boolean => nets.some((net) => set.has(net));
      if (on(touched.own)) return true;
      if (phase === 'cold') return false;
      // What is wrong upstream may have been dragged down from here.
      return on(touched.after) || (isWrong && on(touched.before));
    });
  };
  return {
    ...job,
    readings: job.readings.map((one) =>
      one.standing.kind === 'before-repair' && !hangsOn(one)
        ? { ...one, standing: { kind: 'stands', wasBefore: true } }
        : one,
    ),
  };
}

interface Touched {
  /** Nets the parts stand on, and what milliohms join to them. */
  own: Set<NetId>;
  /** What hangs on those. */
  after: Set<NetId>;
  /** What those hang on. */
  before: Set<NetId>;
}

/** Null where no part of this board is named. */
function touchedBy({ board, upstream }: HealthyBoard, parts: readonly string[]): Touched | null {
  const nets = [
    ...board.parts.flatMap((part) =>
      parts.includes(part.ref) ? part.pins.map((pin) => pin.net) : [],
    ),
    ...board.chips.flatMap((chip) => (parts.includes(chip.ref) ? [...chip.pins.values()] : [])),
  ].filter((net) => net !== board.ground);
  if (nets.length === 0) return null;
  const own = joinedTo(board, nets);
  own.delete(board.ground);
  const before = new Set<NetId>();
  const queue = [...own];
  for (let net = queue.pop(); net !== undefined; net = queue.pop())
    for (const up of upstream.of(net))
      if (!before.has(up.net)) {
        before.add(up.net);
        queue.push(up.net);
      }
  const after = new Set<NetId>();
  for (let size = -1; size !== after.size;) {
    size = after.size;
    for (const { id } of board.nets)
      if (!after.has(id) && upstream.of(id).some((up) => own.has(up.net) || after.has(up.net)))
        after.add(id);
  }
  return { own, after, before };
}
