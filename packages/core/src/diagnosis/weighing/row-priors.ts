import { isOff } from '../../board/index.ts';
import type { Fault } from '../../faults/index.ts';
import type { Evidence } from '../evidence/evidence.ts';
import { blownLogPrior } from './blown.ts';
import { faultWeights } from './fault-weights.ts';
import { healthyShare, healthyShareOfReached, noneShare, severalShare } from './priors.ts';
import type { Table } from './table.ts';

// What each row weighs before anything is read.

/** Faults of parts that were replaced, and of what is unplugged. */
export function outOfQuestion(
  { board, dictionary }: Table,
  evidence: Evidence,
): (fault: Fault) => boolean {
  const out = new Set<string>(evidence.cleared);
  // What was never plugged in while something was read cannot have been what stops the board.
  const seen = new Set(evidence.readings.flatMap(({ reading }) => reading.attached));
  const unplugged = dictionary.off.unplugged?.filter((id) => !seen.has(id));
  for (const one of [...board.parts, ...board.chips])
    if (isOff({ unplugged }, one)) out.add(one.ref);
  return (fault) => 'part' in fault && out.has(fault.part);
}

/** ln prior of every row and, last, of none of them. */
export function logPriors(table: Table, evidence: Evidence): Float64Array {
  const { dictionary } = table;
  const weights = new Float64Array(table.singles);
  const out = outOfQuestion(table, evidence);
  const byFault = faultWeights(table, evidence);
  let sum = 0;
  dictionary.faults.forEach((fault, index) => {
    const row = dictionary.rowOf[index]!;
    if (out(fault) || dictionary.invalid.has(row)) return;
    weights[row]! += byFault[index]!;
    sum += byFault[index]!;
  });
  const logs = new Float64Array(dictionary.rows + 1);
  const nothing = evidence.goalReached ? healthyShareOfReached : healthyShare;
  const known = 1 - nothing - noneShare;
  for (let row = 1; row < table.singles; row++) logs[row] = Math.log((weights[row]! / sum) * known);
  logs[0] = Math.log(nothing);
  table.sets.forEach((members, index) => {
    const row = table.singles + index;
    logs[row] = dictionary.invalid.has(row)
      ? -Infinity
      : setLogPrior(
          members,
          logs,
          table.played[index]!.length > 1 ? limitLogPrior : sizeLogPrior,
          blownLogPrior(table, members, logs),
        );
  });
  // Other sizes take their share from the listed one: a fault is no likelier for being looked at closely.
  const taken = new Map<number, number>();
  table.sets.forEach((members, index) => {
    if (members.length > 1) return;
    const [row] = members as [number];
    const share = table.played[index]!.length > 1 ? limitLogPrior : sizeLogPrior;
    taken.set(row, (taken.get(row) ?? 0) + Math.exp(share));
  });
  for (const [row, share] of taken) logs[row]! += Math.log(Math.max(0.5, 1 - share));
  logs[dictionary.rows] = Math.log(noneShare);
  return logs;
}

/** Half of the time the real size lies between the listed ones; some six are played on the way. */
export const sizeLogPrior = Math.log(0.5 / 6);
/** That of two makers in line the nearer one gives up alone, though by the sheet both do: limits are guesses. */
export const limitLogPrior = Math.log(0.3);

/**
 * ln prior of several faults at once: each by itself, and that there are so many; in any order. One
 * alone is that fault in another size, or with another limit: it has that share of it. `caused` is that
 * of one of them bringing the other about.
 */
export function setLogPrior(
  members: readonly number[],
  logs: Float64Array,
  share = sizeLogPrior,
  caused = -Infinity,
): number {
  if (members.length === 1) return logs[members[0]!]! + share;
  let log = (members.length - 1) * Math.log(severalShare);
  members.forEach((row, place) => (log += logs[row]! + Math.log(place + 1)));
  return Math.max(log, caused);
}
