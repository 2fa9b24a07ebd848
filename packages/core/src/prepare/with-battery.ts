import type { Board, NetId, Source } from '../board/index.ts';
import { batteryCharge, type HealthyBoard } from '../expectations/index.ts';
import type { Charge } from '../readings/index.ts';
import type { Job } from '../record/index.ts';
import { chargerEfficiency, guessedBatteryPart, guessedLimits } from '../safety/index.ts';
import { hasNoBattery } from './make-safe.ts';

/** Supply and battery on the board together: what flows, and the limit below which it cannot start. */
export interface WithBattery {
  charge: Charge;
  /** The battery's line; null where the sheet draws none. */
  net: NetId | null;
  /** Amps from the source while the board runs: with the pre-charge, and with the full charge. */
  drawAmps: { precharge: number; full: number };
  /** A supply set to less cannot start the board with its battery in: its volts sag. */
  leastLimitAmps: number;
  /** The board's own draw, or the battery's volts, or the charge are guesses. */
  isGuess: boolean;
  /** How the figures are reckoned. */
  formula: string;
}

/** Null where the device has no battery, or is fed by it. */
export function withBattery(healthy: HealthyBoard, source: Source, job: Job): WithBattery | null {
  const { board } = healthy;
  const known = hasNoBattery(job) ? null : batteryCharge(board);
  if (known === null || source.kind === 'battery') return null;
  const { charge, net } = known;
  const ownVolts = board.sources.find((one) => one.kind === 'battery')?.volts ?? null;
  const volts = ownVolts ?? guessedBatteryPart * source.volts;
  const draws = [...healthy.play.phases.values()].map((phase) => phase.sourceAmps ?? 0);
  const isLoadGuess = board.guessed.includes('loads');
  const runAmps = isLoadGuess ? guessedLimits.pressed : Math.max(0, ...draws);
  const asInput = (amps: number): number => (amps * volts) / (source.volts * chargerEfficiency);
  const precharge = runAmps + asInput(charge.prechargeAmps ?? charge.amps);
  return {
    charge,
    net,
    drawAmps: { precharge, full: runAmps + asInput(charge.amps) },
    leastLimitAmps: precharge,
    isGuess: isLoadGuess || charge.isGuess || ownVolts === null,
    formula: `amps of the board running, and battery volts times charge amps over source volts and an efficiency of ${chargerEfficiency}`,
  };
}

/**
 * What a bench supply at the jack cannot show, for it has no identity line: none of these is a fault of
 * the board. Empty for other sources. Common practice, no source.
 */
export function benchCannotShow(board: Board, source: Source): string[] {
  if (source.kind !== 'bench') return [];
  const hasAdapter = board.sources.some((one) => one.kind === 'adapter');
  if (!hasAdapter) return [];
  return [
    'It charges slowly or not at all: many boards charge only once they have read the identity line of their own adapter.',
    'It runs at its slowest clock, or says that the adapter is not known.',
    'It goes off under load: the volts sagged at the limit of the supply. That is the end of the supply, not of the board.',
    'The identity line itself, its pull-up and its pin in the jack: test them with the adapter.',
  ];
}
