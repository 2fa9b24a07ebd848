import type { Board, NetId } from '../board/index.ts';
import type { ColdReadings } from './cold-sweep.ts';

/** Nets whose cold readings differ: ohms by more than a tenth, junctions by more than 20 mV, or OL in one only. */
export function compareCold(
  board: Board,
  a: ColdReadings,
  b: ColdReadings,
): { ohms: Set<NetId>; diode: Set<NetId> } {
  const nets = board.nets.filter((net) => net.id !== board.ground);
  const ohms = new Set<NetId>();
  const diode = new Set<NetId>();
  nets.forEach((net, index) => {
    const [leftOhms, rightOhms] = [a.ohms[index]!, b.ohms[index]!];
    if (leftOhms !== rightOhms && !(Math.abs(leftOhms - rightOhms) <= 0.1 * leftOhms))
      ohms.add(net.id);
    const [leftVolts, rightVolts] = [a.diode[index]!, b.diode[index]!];
    if (leftVolts !== rightVolts && !(Math.abs(leftVolts - rightVolts) <= 0.02)) diode.add(net.id);
  });
  return { ohms, diode };
}
