import type { GoalId, NetId } from '@jiko/core/board';
import {
  leastTellingBits,
  noEvidence,
  noSigns,
  type Diagnoser,
  type Diagnosis,
  type Evidence,
  type Finding,
  type ProbeMode,
  type Signs,
  type Suspect,
} from '@jiko/core/diagnosis';
import { faultName, faultPlace, type Fault } from '@jiko/core/faults';
import { plainReading } from '@jiko/testing';
import type { HiddenBoard } from '@jiko/bench';
import type { Habit } from '@jiko/core/record';
import type { Phase, PoweredPhase, Reading, ReadingValue } from '@jiko/core/readings';

/** Hidden faults, followed from the complaint to an answer. */
export interface Run {
  name: string;
  probes: number;
  /** Those of them taken with the source on. */
  powered: number;
  seconds: number;
  /** Probability of the suspect it ended at; its title. */
  sure: number;
  answer: string;
  end: 'sure' | 'none of these' | 'nothing more to ask' | 'too long';
  /** One of the true faults is among the leading suspect's. */
  right: boolean;
  /** The part it puts first is one that is at fault. */
  rightPart: boolean;
  /** True faults the leading suspect names. */
  found: Fault[];
  leading: Suspect | null;
  /** Probability of the first suspect that names one of the true faults; 0 where none does. */
  onTruth: number;
  /** Probability of "none of these", and the nets at which it would sit. */
  none: number;
  elsewhere: NetId[];
  /** What was read, in order; the same in words. */
  readings: Reading[];
  trail: string[];
}

export const sureEnough = 0.95;
const mostProbes = 25;

/** A reading to take first, before what is proposed. */
export interface Probe {
  net: NetId;
  phase: PoweredPhase;
}

/** What is known before the first proposal. */
export interface Known {
  signs: Signs;
  findings: readonly Finding[];
  readings: readonly Reading[];
  /** What closed jobs on this board taught. */
  habits?: readonly Habit[];
}

/** The draw before and after the press, as a bench supply shows it, and whether it goes off by itself. */
export const drawOf = (hidden: HiddenBoard): Signs => ({
  ...noSigns,
  offAfterSeconds: hidden.offAfterSeconds,
  goesOff: hidden.offAfterSeconds !== null,
  draw: (['standby', 'trying'] as const).map((one) => ({ phase: one, ...hidden.draw(one) })),
});

/**
 * Follows what is proposed on a hidden board for as long as Trace asks for a reading; above 95 % it
 * then counts as sure. `first` may take readings of its own before: another school's. `known` is
 * what was written down before; else the draw alone.
 */
export function follow(
  diagnoser: Diagnoser,
  hidden: HiddenBoard,
  listed: readonly Fault[],
  goal: GoalId | null,
  first: (read: (probe: Probe) => ReadingValue) => void = () => undefined,
  known: Known = { signs: drawOf(hidden), findings: [], readings: [] },
): Run {
  const readings = known.readings.map((reading, index) => ({ id: `known ${index}`, reading }));
  let phase: Phase = 'standby';
  let side = 'top';
  let seconds = 0;
  const trail: string[] = [];
  const evidence = (): Evidence => ({
    ...noEvidence,
    readings,
    signs: known.signs,
    findings: known.findings,
    habits: known.habits ?? [],
    goal,
  });
  const take = (
    net: NetId,
    mode: ProbeMode,
    at: Phase,
    against: NetId | null = null,
  ): ReadingValue => {
    const value = hidden.read(net, mode, at, against);
    trail.push(`${net}${against ? ` against ${against}` : ''} ${mode} ${at} ${valueText(value)}`);
    readings.push({
      id: String(readings.length),
      reading: plainReading(net, mode, at, value, { attached: hidden.attached, against }),
    });
    return value;
  };
  first(({ net, phase: at }) => take(net, 'volts', at));
  const most = mostProbes + readings.length;
  let end: Run['end'] = 'too long';
  let diagnosis: Diagnosis = diagnoser.diagnose(evidence(), { phase, side });
  for (;;) {
    // As Trace does: a reading that tells next to nothing is not asked for.
    const next = diagnosis.next.find((one) => one.gainBits >= leastTellingBits);
    if (next && readings.length < most) {
      seconds += next.seconds;
      phase = next.phase;
      side = next.place.side || side;
      take(next.net, next.mode, next.phase, next.reference);
      diagnosis = diagnoser.diagnose(evidence(), { phase, side });
      continue;
    }
    if ((diagnosis.suspects[0]?.probability ?? 0) > sureEnough) end = 'sure';
    else if (diagnosis.none > sureEnough) end = 'none of these';
    else if (!next) end = 'nothing more to ask';
    break;
  }
  const [leading] = diagnosis.suspects;
  const found = listed.filter((fault) => isNamed(leading ?? null, fault));
  return {
    name: listed.map(faultName).join(' and '),
    probes: readings.length - known.readings.length,
    powered: readings.filter(({ reading }) => reading.phase !== 'cold').length,
    seconds,
    sure: leading?.probability ?? 0,
    answer: leading?.title ?? '',
    end,
    right: found.length > 0,
    rightPart: listed.some((fault) => isSamePart(fault, leading?.faults[0]?.fault)),
    found,
    leading: leading ?? null,
    onTruth:
      diagnosis.suspects.find((suspect) => listed.some((fault) => isNamed(suspect, fault)))
        ?.probability ?? 0,
    none: diagnosis.none,
    elsewhere: diagnosis.elsewhere.slice(0, 3).map((one) => one.net),
    readings: readings.map((one) => one.reading),
    trail,
  };
}

/** Whether a suspect names a fault, alone or beside others. */
export const isNamed = (suspect: Suspect | null, fault: Fault): boolean =>
  suspect?.faults.some((one) =>
    [one.fault, ...one.also].some((named) => isSameFault(named, fault)),
  ) ?? false;

/** The same part and way of failing, whatever its severity. */
export function isSameFault(a: Fault, b: Fault): boolean {
  const bare = (fault: Fault): string =>
    JSON.stringify({ ...fault, ohms: undefined, factor: undefined });
  return bare(a) === bare(b);
}

function isSamePart(a: Fault, b: Fault | undefined): boolean {
  return b !== undefined && faultPlace(a) === faultPlace(b);
}

const valueText = (value: ReadingValue): string =>
  value.kind === 'number'
    ? short(value.value)
    : value.kind === 'swinging'
      ? `${short(value.low)}~${short(value.high)}`
      : 'OL';
const short = (value: number): string => String(Number(value.toPrecision(4)));
