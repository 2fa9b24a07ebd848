import type { PartKind } from '../board/index.ts';
import { formatOhms, formatVolts } from '../units/index.ts';
import { isWholeRange } from './entry-line.ts';
import type { Reading } from './reading.ts';
import type { Verdict } from './verdict.ts';

/** The part two probes stand across, and what a healthy one reads there. */
export interface AcrossPart {
  part: string;
  kind: PartKind;
  /** Ohms, or volts in diode-mode or powered; Infinity is OL, null is not known. */
  healthy: number | null;
}

/** What leads and contacts add, and a quarter more of the part: common practice, no source. */
const leadOhms = 2;
/** A junction of silicon, cold, by common practice: 0.4 to 0.7 V. */
const junctionVolts = [0.3, 0.75] as const;

/** No buzzer sounds above this. */
const mostBuzzOhms = 100;

/** A bound somebody wrote, not the end of the range nor the buzzer: between two points it decides nothing. */
const isBound = ({ value, mode }: Pick<Reading, 'value' | 'mode'>): boolean =>
  (value.kind === 'over' && !isWholeRange(value.limit, mode)) ||
  (value.kind === 'beep' && value.limit > mostBuzzOhms);

/** Holds a reading from one end of a part to the other against what the part does when whole. */
export function judgeAcross({ value, mode }: Reading, across: AcrossPart): Verdict {
  const { part, kind, healthy } = across;
  const isFet = kind === 'pfet' || kind === 'nfet';
  if (isBound({ value, mode }))
    return { kind: 'undecided', why: `A bound through ${part}: type what the meter shows.` };
  const read = value.kind === 'number' ? value.value : value.kind === 'over' ? Infinity : null;
  const beeps = value.kind === 'beep';
  if (read === null && !beeps) return { kind: 'unjudged', why: 'Recorded, not judged.' };
  if (mode === 'ohms' && !isFet) {
    if (beeps) return { kind: 'good', why: `${part} conducts.` };
    const own = healthy ?? 0;
    if ((read as number) <= own * 1.25 + leadOhms)
      return { kind: 'good', why: `${part} is whole: ${formatOhms(read as number)} through it.` };
    return (read as number) > own * 10 + 100
      ? { kind: 'open', why: `${part} does not conduct: ${formatOhms(own)} expected through it.` }
      : {
          kind: 'high',
          why: `More than ${formatOhms(own)} and the leads: a bad joint, or ${part} is on its way to open.`,
        };
  }
  if (mode === 'ohms') {
    if (beeps || (read as number) < 5)
      return {
        kind: 'shorted',
        why: `${part} conducts without its gate: shorted from drain to source, or what lies beside it is.`,
      };
    if (healthy === null)
      return { kind: 'unjudged', why: 'Recorded: nothing known to hold it against.' };
    return (read as number) < Math.min(healthy, 40e6) / 3
      ? { kind: 'low', why: `Lower than the healthy play: ${part} or what lies beside it leaks.` }
      : { kind: 'good', why: `${part} does not conduct without its gate.` };
  }
  if (mode === 'diode' && isFet) {
    if (beeps || (read as number) < 0.05)
      return {
        kind: 'shorted',
        why: `No junction left in ${part}: shorted from drain to source, or what lies beside it is.`,
      };
    if (read === Infinity)
      return healthy === Infinity
        ? { kind: 'good', why: `Blocks this way round, as the healthy play does.` }
        : {
            kind: 'odd',
            why: `No body diode seen: the leads are the other way round, or ${part} is open.`,
          };
    const low = healthy !== null && healthy !== Infinity ? healthy - 0.12 : junctionVolts[0];
    const high = healthy !== null && healthy !== Infinity ? healthy + 0.12 : junctionVolts[1];
    if ((read as number) < low)
      return {
        kind: 'low',
        why: `Less than a junction drops: ${part} leaks, or something beside it does.`,
      };
    if ((read as number) > high)
      return {
        kind: 'high',
        why: `More than its body diode drops: not all of ${part} is there, or a bad contact.`,
      };
    return {
      kind: 'good',
      why: `${formatVolts(read as number)} is the body diode of ${part}. Whether it turns on is seen powered.`,
    };
  }
  if (mode === 'volts' && healthy !== null && read !== null && read !== Infinity) {
    const drop = Math.abs(read);
    const allowed = Math.max(0.06, Math.abs(healthy) * 3 + 0.02);
    if (drop <= allowed)
      return {
        kind: 'undecided',
        why: `${formatVolts(drop)} across ${part}: it conducts, or nothing comes in at all.`,
      };
    return isFet && drop >= 0.25 && drop <= 1.1
      ? { kind: 'low', why: `${formatVolts(drop)} across ${part} is a diode's drop: it is off.` }
      : {
          kind: 'open',
          why: `${formatVolts(drop)} across ${part}, about ${formatVolts(Math.abs(healthy))} when healthy: it does not conduct as it should.`,
        };
  }
  return { kind: 'unjudged', why: 'Read against another point: kept, not judged.' };
}

/** A switching stage two probes stand across: from its feed to its output. */
export interface ThroughStage {
  chip: string;
  /** The rail it makes. */
  rail: string;
  feedVolts: number;
}

/** Less from feed to output is an upper switch gone short; more than ten times that is none. Common practice, no source. */
export const leastThroughOhms = 10;

/** Holds ohms from a stage's feed to its output against a switch gone short, which puts the feed's volts on the rail. */
export function judgeThrough({ value, mode }: Reading, stage: ThroughStage): Verdict {
  const { chip, rail, feedVolts } = stage;
  if (mode !== 'ohms') return { kind: 'unjudged', why: `Take ohms through ${chip}.` };
  if (isBound({ value, mode }))
    return { kind: 'undecided', why: `A bound through ${chip}: type what the meter shows.` };
  const ohms =
    value.kind === 'number'
      ? value.value
      : value.kind === 'over'
        ? Infinity
        : value.kind === 'beep'
          ? 0
          : NaN;
  if (Number.isNaN(ohms)) return { kind: 'unjudged', why: 'Recorded, not judged.' };
  if (ohms < leastThroughOhms)
    return {
      kind: 'shorted',
      why: `Next to nothing through ${chip}: its upper switch is gone, and ${formatVolts(feedVolts)} would stand on ${rail} and destroy what hangs there. No source and no battery before it is changed and ${rail} was read for shorts.`,
    };
  if (ohms < 10 * leastThroughOhms)
    return {
      kind: 'low',
      why: `Little through ${chip} for a switch that is off: read it again with the leads the other way round before any source.`,
    };
  return { kind: 'good', why: `${chip} blocks from its feed to ${rail}.` };
}
