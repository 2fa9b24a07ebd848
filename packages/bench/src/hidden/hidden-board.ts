import type { Board, NetId } from '@jiko/core/board';
import type { Fault } from '@jiko/core/faults';
import { attachedIn, playFaulty, shownVolts, type Play, type PlaySetup } from '@jiko/core/play';
import { readCold } from '@jiko/core/cold';
import type { Meter, Phase, PoweredPhase, ReadingValue } from '@jiko/core/readings';

/** A board on the bench that is not quite its sheet, with faults nobody was told of. */
export interface HiddenBoard {
  board: Board;
  faults: readonly Fault[];
  play: Play;
  /** What is plugged in. */
  attached: string[];
  /** Seconds from the press until it goes off by itself; null where it does not. */
  offAfterSeconds: number | null;
  /** What the meter shows, with its noise; now and then a bad contact shows nothing of the board. */
  read(
    net: NetId,
    mode: 'volts' | 'ohms' | 'diode',
    phase: Phase,
    against?: NetId | null,
  ): ReadingValue;
  /** Amps from the source as a bench supply shows them. */
  draw(phase: PoweredPhase): { amps: number; shape: 'steady' | 'pulsing' };
}

export interface HidingSettings {
  /** Chance that a probe does not touch what it should. */
  badContact: number;
  meter: Meter;
  /** Part by which each reading strays from the next: its noise; 1 % where missing. */
  noise?: number;
  /** Part by which the meter itself is off at most, beside its noise; none where missing. */
  stray?: number;
}

/**
 * Hides faults in a board whose every resistor, threshold, load and die is drawn within its
 * tolerance (resistors 1 %, thresholds 2 %, loads a fifth, die ohms a quarter, junctions 15 mV), and
 * whose shorts and drifts are drawn from a range instead of the list's three severities. The meter
 * reads within 1 % and a digit.
 */
export function hideFaults(
  sheet: Board,
  setup: PlaySetup,
  listed: readonly Fault[],
  chance: () => number,
  { badContact, meter, stray = 0, noise = 0.01 }: HidingSettings,
): HiddenBoard {
  const board = drawnBoard(sheet, chance);
  const faults = listed.map((fault) => drawnSeverity(fault, chance));
  const play = playFaulty(board, setup, faults);
  let cold: ReturnType<typeof readCold> | null = null;
  const places = new Map(
    sheet.nets.filter((net) => net.id !== sheet.ground).map((net, index) => [net.id, index]),
  );
  const shown = (value: number, digit: number): number => {
    const off = stray > 0 ? stray * (chance() * 2 - 1) : 0;
    const noisy = value * (1 + off + noise * normal(chance)) + digit * (chance() * 2 - 1);
    return Math.round(noisy / digit) * digit;
  };
  const steady = (value: number): ReadingValue => ({ kind: 'number', value, trend: 'steady' });

  const gaveUp = play.events.find((event) => event.kind === 'gives-up');
  return {
    board,
    faults,
    play,
    attached: attachedIn(sheet, setup),
    offAfterSeconds: gaveUp
      ? Math.max(1, Math.round(gaveUp.atSeconds - play.pressedAtSeconds))
      : null,
    read(net, mode, phase, against) {
      const slips = chance() < badContact;
      if (mode === 'volts') {
        if (slips) return steady(shown(0, 0.001));
        const snapshot = play.phases.get(phase === 'cold' ? 'standby' : phase);
        const swing = snapshot?.swinging.get(net);
        if (swing)
          return { kind: 'swinging', low: shown(swing.low, 0.01), high: shown(swing.high, 0.01) };
        const at = (one: NetId): number => (snapshot ? shownVolts(snapshot, one) : 0);
        const volts = at(net) - (against ? at(against) : 0);
        const digit = Math.abs(volts) < 0.5 ? 0.0001 : Math.abs(volts) < 5 ? 0.001 : 0.01;
        return steady(shown(volts, digit));
      }
      cold ??= readCold(board, setup, faults, meter);
      const value = against ? cold.across(net, against, mode) : cold[mode][places.get(net) ?? 0]!;
      const limit = mode === 'ohms' ? meter.mostOhms : meter.mostDiodeVolts;
      if (slips || value === Infinity || Number.isNaN(value)) return { kind: 'over', limit };
      return steady(
        mode === 'diode'
          ? shown(value, 0.001)
          : Math.max(0, shown(value + leadOhms * chance(), value < 100 ? 0.1 : value / 1000)),
      );
    },
    draw(phase) {
      const snapshot = play.phases.get(phase);
      return {
        amps: Math.max(0, shown(snapshot?.sourceAmps ?? 0, 0.001)),
        shape: snapshot && snapshot.swinging.size > 0 ? 'pulsing' : 'steady',
      };
    },
  };
}

/** Leads and contacts add up to this. */
const leadOhms = 0.3;

/** A standard normal deviate, by the sum of twelve (Irwin-Hall). */
function normal(chance: () => number): number {
  let sum = -6;
  for (let i = 0; i < 12; i++) sum += chance();
  return sum;
}

function drawnBoard(sheet: Board, chance: () => number): Board {
  const near = (value: number, part: number): number => value * (1 + part * (chance() * 2 - 1));
  return {
    ...sheet,
    parts: sheet.parts.map((part) =>
      part.kind === 'resistor' && part.value !== null
        ? { ...part, value: near(part.value, 0.01) }
        : part,
    ),
    nets: sheet.nets.map((net) => ({
      ...net,
      loadAmps: near(net.loadAmps, 0.2),
      coldOhms: net.coldOhms === null ? null : near(net.coldOhms, 0.25),
      coldDiodeVolts:
        net.coldDiodeVolts === null ? null : net.coldDiodeVolts + 0.015 * (chance() * 2 - 1),
    })),
    chips: sheet.chips.map((chip) => ({
      ...chip,
      draws: chip.draws.map((draw) => ({ ...draw, amps: near(draw.amps, 0.2) })),
      behaviours: chip.behaviours.map((one) =>
        one.do === 'regulator'
          ? { ...one, volts: near(one.volts, 0.01), limitAmps: near(one.limitAmps, 0.15) }
          : {
              ...one,
              needs: one.needs.map((need) => ({ ...need, volts: near(need.volts, 0.02) })),
            },
      ),
    })),
    sources: sheet.sources.map((source) => ({ ...source, volts: near(source.volts, 0.01) })),
  };
}

/** Shorts and drifts of any size about the one in the list. */
function drawnSeverity(fault: Fault, chance: () => number): Fault {
  const about = (value: number, decades: number): number =>
    value * 10 ** (decades * (chance() * 2 - 1));
  switch (fault.kind) {
    case 'pins-short':
    case 'pin-short':
    case 'short':
    case 'nets-joined':
      return { ...fault, ohms: about(fault.ohms, 0.4) };
    case 'high':
      return { ...fault, ohms: about(fault.ohms, 0.5) };
    case 'drift':
      return { ...fault, factor: about(fault.factor, 0.15) };
    case 'weak':
      return { ...fault, factor: about(fault.factor, 0.4) };
    case 'off-value':
      return { ...fault, factor: about(fault.factor, 0.04) };
    default:
      return fault;
  }
}
