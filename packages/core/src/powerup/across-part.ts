import { isFet, isSeriesPart, partBetween, type Board, type NetId } from '../board/index.ts';
import type { AcrossPart, Charge, Mode, Phase, Reading } from '../readings/index.ts';
import type { ColdMeter } from './cold-meter.ts';
import type { Play } from './play.ts';

/** What the healthy board reads across the part between two nets; null where no such part joins them. */
export function healthyAcross(
  board: Board,
  play: Play,
  cold: () => ColdMeter,
  at: { net: NetId; reference: NetId; mode: Mode; phase: Phase; polarity: Reading['polarity'] },
): AcrossPart | null {
  const { net, reference, mode, phase, polarity } = at;
  const part = partBetween(board, net, reference);
  if (!part) return null;
  const { ref, kind } = part;
  if (mode === 'volts' && phase !== 'cold') {
    const volts = play.phases.get(phase)?.volts;
    const healthy = volts ? (volts.get(net) ?? 0) - (volts.get(reference) ?? 0) : null;
    return { part: ref, kind, healthy };
  }
  if (mode === 'ohms' && !isFet(part))
    return { part: ref, kind, healthy: part.kind === 'resistor' ? (part.value ?? 0) : 0 };
  if (mode !== 'ohms' && mode !== 'diode') return { part: ref, kind, healthy: null };
  const read = cold().across(net, reference, mode === 'ohms' ? 'ohms' : polarity);
  const healthy = read.kind === 'value' ? read.value : read.kind === 'over' ? Infinity : null;
  return { part: ref, kind, healthy };
}

/** What the charger on a battery's line is set to; null for nets no charger feeds a battery through. */
export function chargeAt(board: Board, net: NetId): Charge | null {
  const batteries = board.sources.filter((one) => one.kind === 'battery').map((one) => one.net);
  for (const chip of board.chips) {
    if (!chip.fitted) continue;
    for (const behaviour of chip.behaviours) {
      if (behaviour.do !== 'regulator') continue;
      if (chip.kind !== 'charger' && behaviour.precharge === null) continue;
      const line = joinedTo(board, [chip.pins.get(behaviour.out), chip.pins.get(behaviour.sense)]);
      if (!line.has(net) || !batteries.some((one) => line.has(one))) continue;
      return {
        amps: behaviour.limitAmps,
        prechargeAmps: behaviour.precharge?.limitAmps ?? null,
      };
    }
  }
  return null;
}

/** Nets joined to these by fuses, coils, links and sense resistors, one part left out where asked. */
export function joinedTo(
  board: Board,
  starts: readonly (NetId | undefined)[],
  without?: string,
): Set<NetId> {
  const found = new Set(starts.filter((net) => net !== undefined));
  for (let size = -1; size !== found.size;) {
    size = found.size;
    for (const part of board.parts) {
      if (!isSeriesPart(part) || part.ref === without) continue;
      const nets = part.pins.map((pin) => pin.net);
      if (nets.includes(board.ground) || !nets.some((net) => found.has(net))) continue;
      nets.forEach((net) => found.add(net));
    }
  }
  return found;
}
