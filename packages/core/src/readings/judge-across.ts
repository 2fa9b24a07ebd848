import { leadOhms } from './meter-limits.ts';
import type { PartKind } from '../board/index.ts';
import { isWholeRange } from './entry-line.ts';
import type { InCircuit } from './in-circuit.ts';
import { judgeInCircuit } from './judge-in-circuit.ts';
import type { Reading } from './reading.ts';
import { verdict, type Verdict } from './verdict.ts';

/** The part two probes stand across, and what a healthy one reads there. */
export interface AcrossPart {
  part: string;
  kind: PartKind;
  /** Ohms, or volts in diode-mode or powered; Infinity is OL, null is not known. */
  healthy: number | null;
  /** For a resistor: itself beside the ways around it. */
  inCircuit?: InCircuit | null;
}

/** A part that carries on may read a quarter more than it has, beside the leads: common practice, no source. */
const wholePart = 1.25;
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
  if (isBound({ value, mode })) return verdict('undecided', { is: 'bound-through', part });
  const beeps = value.kind === 'beep';
  const read =
    value.kind === 'number' ? value.value : value.kind === 'over' ? Infinity : beeps ? 0 : null;
  if (read === null) return verdict('unjudged', { is: 'not-judged' });
  if (mode === 'ohms' && across.inCircuit)
    return beeps
      ? verdict('unjudged', { is: 'not-judged' })
      : judgeInCircuit(read, across.inCircuit);
  if (mode === 'ohms' && junctions.includes(kind))
    return verdict('unjudged', { is: 'across-not-judged' });
  if (mode === 'diode' && junctions.includes(kind)) return judgeJunction(read, across);
  if (mode === 'ohms')
    return isFet ? judgeChannel(read, across) : judgeThroughPart(read, beeps, across);
  if (mode === 'diode' && isFet) return judgeBodyDiode(read, across);
  if (mode !== 'volts' || healthy === null || read === Infinity)
    return verdict('unjudged', { is: 'across-not-judged' });
  const volts = Math.abs(read);
  const usual = Math.abs(healthy);
  if (volts <= Math.max(0.06, usual * 3 + 0.02))
    return verdict('undecided', { is: 'part-drop', part, volts });
  return isFet && volts >= 0.25 && volts <= 1.1
    ? verdict('low', { is: 'part-diode-drop', part, volts })
    : verdict('open', { is: 'part-drops-too-much', part, volts, usual });
}

/** Parts that are one junction. */
const junctions: readonly PartKind[] = ['diode', 'schottky', 'zener', 'tvs', 'led'];

function judgeJunction(volts: number, { part, healthy }: AcrossPart): Verdict {
  if (volts < 0.05) return verdict('shorted', { is: 'junction-gone', part });
  if (healthy === null) return verdict('unjudged', { is: 'across-not-judged' });
  if (volts === Infinity)
    return healthy === Infinity
      ? verdict('good', { is: 'blocks-this-way' })
      : verdict('open', { is: 'junction-open', part, volts });
  // What blocks on a good board and conducts here leaks; beside it may lie another way.
  if (healthy === Infinity || volts < healthy - 0.12)
    return verdict('low', { is: 'junction-leaks', part });
  if (volts > healthy + 0.12) return verdict('high', { is: 'junction-high', part });
  return verdict('good', { is: 'junction', part, volts });
}

function judgeThroughPart(ohms: number, beeps: boolean, { part, healthy }: AcrossPart): Verdict {
  if (beeps) return verdict('good', { is: 'part-conducts', part });
  const own = healthy ?? 0;
  if (ohms <= own * wholePart + leadOhms.dirty)
    return verdict('good', { is: 'part-whole', part, ohms });
  return ohms > own * 10 + 100
    ? verdict('open', { is: 'part-open', part, own })
    : verdict('high', { is: 'part-high', part, own });
}

function judgeChannel(ohms: number, { part, healthy }: AcrossPart): Verdict {
  if (ohms < 5) return verdict('shorted', { is: 'channel-short', part });
  if (healthy === null) return verdict('unjudged', { is: 'nothing-known', shortOhms: null });
  return ohms < Math.min(healthy, 40e6) / 3
    ? verdict('low', { is: 'channel-leaks', part })
    : verdict('good', { is: 'channel-blocks', part });
}

function judgeBodyDiode(volts: number, { part, healthy }: AcrossPart): Verdict {
  if (volts < 0.05) return verdict('shorted', { is: 'junction-gone', part });
  if (volts === Infinity)
    return healthy === Infinity
      ? verdict('good', { is: 'blocks-this-way' })
      : verdict('odd', { is: 'no-body-diode', part });
  const known = healthy !== null && healthy !== Infinity;
  const [low, high] = known ? [healthy - 0.12, healthy + 0.12] : junctionVolts;
  if (volts < low) return verdict('low', { is: 'junction-leaks', part });
  if (volts > high) return verdict('high', { is: 'junction-high', part });
  return verdict('good', { is: 'body-diode', part, volts });
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
  if (mode !== 'ohms') return verdict('unjudged', { is: 'take-ohms', chip });
  if (isBound({ value, mode })) return verdict('undecided', { is: 'bound-through', part: chip });
  const ohms =
    value.kind === 'number'
      ? value.value
      : value.kind === 'over'
        ? Infinity
        : value.kind === 'beep'
          ? 0
          : NaN;
  if (Number.isNaN(ohms)) return verdict('unjudged', { is: 'not-judged' });
  if (ohms < leastThroughOhms)
    return verdict('shorted', { is: 'switch-shorted', chip, rail, feedVolts });
  return ohms < 10 * leastThroughOhms
    ? verdict('low', { is: 'switch-little', chip })
    : verdict('good', { is: 'switch-blocks', chip, rail });
}
