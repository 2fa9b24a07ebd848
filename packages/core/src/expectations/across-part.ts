import {
  isFet,
  isSeriesPart,
  joinedTo,
  partBetween,
  type Board,
  type NetId,
  type Part,
} from '../board/index.ts';
import {
  usualMeter,
  type AcrossPart,
  type Charge,
  type Mode,
  type Phase,
  type Reading,
} from '../readings/index.ts';
import { guessedChargeAmps, guessedPrechargePart } from '../safety/index.ts';
import { type ColdMeter, resistorInCircuit } from '../cold/index.ts';
import type { Play } from '../play/index.ts';

/** What the healthy board reads across the part between two nets; null where no such part joins them. */
export function healthyAcross(
  board: Board,
  play: Play,
  cold: () => ColdMeter,
  at: {
    net: NetId;
    reference: NetId;
    mode: Mode;
    phase: Phase;
    polarity: Reading['polarity'];
    /** The part the lead stood on, where that is known. */
    part?: string | null;
  },
): AcrossPart | null {
  const { net, reference, mode, phase, polarity } = at;
  // Two places of one net: its copper, and whatever joints lie between.
  if (net === reference) return { part: `the copper of ${net}`, kind: 'jumper', healthy: 0 };
  const part = partAt(board, at.part ?? null, net, reference);
  if (!part) return null;
  const { ref, kind } = part;
  if (mode === 'ohms' && kind === 'resistor' && !isSeriesPart(part))
    return {
      part: ref,
      kind,
      healthy: part.value,
      inCircuit: resistorInCircuit(board, ref, usualMeter, play.setup.lifted),
    };
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

/** What lies between two leads: the named part where both stand on it, else what carries a current. */
function partAt(board: Board, ref: string | null, net: NetId, reference: NetId): Part | null {
  const own = board.parts.find((one) => one.ref === ref && one.fitted);
  const nets = own?.pins.map((pin) => pin.net) ?? [];
  const isAcross = nets.includes(net) && nets.includes(reference);
  const joining = partBetween(board, net, reference);
  if (own && isAcross && own.kind !== 'capacitor') return own;
  if (joining) return joining;
  // One resistor between the two is meant, whichever pad was touched.
  const resistors = board.parts.filter(
    (one) =>
      one.fitted &&
      one.kind === 'resistor' &&
      one.pins.some((pin) => pin.net === net) &&
      one.pins.some((pin) => pin.net === reference),
  );
  return resistors.length === 1 ? resistors[0]! : null;
}

/**
 * What the charger on a battery's line is set to: as the sheet draws it, else as its battery says, else a
 * guess. Null for nets no battery hangs on.
 */
export function chargeAt(board: Board, net: NetId): Charge | null {
  const packs = board.sources.filter((one) => one.kind === 'battery');
  const batteries = packs.map((one) => one.net);
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
        isGuess: false,
      };
    }
  }
  const pack = packs.find((one) => joinedTo(board, [one.net]).has(net));
  return pack ? guessedCharge(pack.chargeLimitAmps, board.guessed.includes('limits')) : null;
}

/** The charge of the board's battery with its line; `net` null where the sheet draws no line of it. Null: no battery. */
export function batteryCharge(board: Board): { charge: Charge; net: NetId | null } | null {
  for (const source of board.sources) {
    const charge = source.kind === 'battery' ? chargeAt(board, source.net) : null;
    if (charge) return { charge, net: source.net };
  }
  return board.attachments.some((attachment) => attachment.id === 'battery')
    ? { charge: guessedCharge(), net: null }
    : null;
}

/** What a charger nobody drew is taken to be set to; `stated` is what is known of it, in amps. */
export function guessedCharge(stated: number | null = null, isGuess = true): Charge {
  const amps = stated ?? guessedChargeAmps;
  return {
    amps,
    prechargeAmps: amps * guessedPrechargePart,
    isGuess: stated === null || isGuess,
  };
}
