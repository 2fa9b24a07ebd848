import { takeOff, type Board, type NetId, type TakeOff, joinedTo } from '../board/index.ts';
import { groundedNet, listFaults, type Fault } from '../faults/index.ts';
import { priorWeight, type Known } from '../diagnosis/index.ts';

/** What may be the short on a rail: a part or a chip's pin to ground, or the rail itself. */
export interface Candidate {
  /** Reference of the part; the net where nothing drawn is it. */
  name: string;
  isNet: boolean;
  /** Net of the rail it stands on. */
  net: NetId;
  /** The chip's pin, where it is a chip. */
  pin: string | null;
  fault: Fault;
  /** Of all candidates, before anything was done; together 1. */
  share: number;
  take: TakeOff;
}

/** Severities of one candidate this far from what was read speak of another short. */
const nearOhms = (fault: Fault, ohms: number): number =>
  'ohms' in fault ? Math.abs(Math.log((fault.ohms + 0.05) / (ohms + 0.05))) : 0;

/**
 * Everything that could pull a rail to ground, once for each net it stands on, with its share by kind, findings and closed
 * jobs. What milliohms join is one rail; parts that are off are none.
 */
export function shortCandidates(
  board: Board,
  net: NetId,
  ohms: number,
  known: Known,
  gone: readonly string[] = [],
): Candidate[] {
  const rail = joinedTo(board, [net]);
  const best = new Map<string, Omit<Candidate, 'share'> & { weight: number }>();
  for (const fault of listFaults(board)) {
    const on = groundedNet(board, fault);
    if (on === null || !rail.has(on)) continue;
    const isNet = !('part' in fault);
    const name = isNet ? on : fault.part;
    if (gone.includes(name)) continue;
    const weight = priorWeight(board, fault, known);
    // A chip stands on both sides of its coil: by its switch pin and by its feedback.
    const key = `${name} ${on}`;
    const kept = best.get(key);
    const one = {
      name,
      isNet,
      net: on,
      pin: fault.kind === 'pin-short' ? fault.pin : null,
      fault,
      weight,
      take: isNet
        ? { seconds: null, why: 'the rail itself: dirt, a crushed layer, a part nobody drew' }
        : takeOff(board, name),
    };
    if (!kept || nearOhms(fault, ohms) < nearOhms(kept.fault, ohms)) best.set(key, one);
  }
  const all = [...best.values()];
  const sum = all.reduce((total, one) => total + one.weight, 0) || 1;
  return all
    .map(({ weight, ...one }) => ({ ...one, share: weight / sum }))
    .sort((a, b) => b.share - a.share);
}
