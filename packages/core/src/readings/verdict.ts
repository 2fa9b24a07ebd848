import type { Expectation } from './expectation.ts';
import type { InCircuit } from './in-circuit.ts';
import type { Mode } from './reading.ts';

/** What a reading means; `because` holds why, with its figures, and `whyText` puts it into words. */
export type VerdictKind =
  | 'good'
  | 'low'
  | 'high'
  | 'missing'
  | 'present'
  | 'swinging'
  | 'shorted'
  | 'open'
  | 'odd'
  /** More current with the battery than its charger is set to. */
  | 'overcurrent'
  /** Within tolerance, but something that is wrong would read the same: never called good. */
  | 'undecided'
  /** Recorded, but there is nothing to hold it against. */
  | 'unjudged';

export interface Verdict {
  kind: VerdictKind;
  because: Because;
}

/** What the expectation was that a reading was held against. */
export type Held = Extract<Expectation, { kind: 'value' }>;

/** What is known of the load behind a part that gives nothing: shorts were looked for, or not. */
export type LoadBehind = 'shorted' | 'clear' | 'unread';

/** Ohms across a resistor on its board. */
interface InCircuitRead {
  part: string;
  read: number;
  in: InCircuit;
}

/** Why a verdict is what it is: one name per reason, volts, ohms and amps as read or expected. */
export type Because =
  // What no figure decides.
  | { is: 'not-reached' | 'no-sense' | 'not-judged' | 'across-not-judged' | 'other-point' }
  | { is: 'not-on-sheet'; net: string }
  | { is: 'recorded'; because: string }
  | { is: 'no-expected'; mode: Mode }
  | { is: 'swings'; low: number; high: number; mode: Mode; held: Held | null }
  | { is: 'not-settled'; yet: Because }
  // Amps into a battery.
  | { is: 'over-charge' | 'precharge' | 'charging'; amps: number; most: number; isGuess: boolean }
  | { is: 'no-charge'; most: number; isGuess: boolean }
  // Volts held against the net's own.
  | { is: 'off' | 'within' | 'negative' | 'not-there'; held: Held }
  | { is: 'may-float' | 'too-early'; volts: number; held: Held }
  | { is: 'too-low' | 'too-high'; by: number; held: Held; isRail: boolean }
  // Sources that are what they are.
  | { is: 'idle-source' | 'may-idle' | 'usb-not-asked'; volts: number; held: Held }
  | { is: 'worn-cell' | 'cell'; volts: number; held: Held }
  // A source that hangs on nothing, and what the board draws.
  | { is: 'usb-idle' | 'usb-live'; volts: number }
  | {
      is: 'source-good' | 'source-dead' | 'source-low' | 'source-high';
      volts: number;
      usual: number;
    }
  | { is: 'source-idles'; volts: number; wakesAtAmps: number }
  | { is: 'draw'; amps: number; usual: number; then: string }
  /** What the board draws nobody knows. */
  | { is: 'draw-guessed'; amps: number; then: string }
  // Volts held against those before a part that loses next to nothing.
  | { is: 'may-be-body-diode'; volts: number; part: string; from: string }
  | { is: 'drop-decides'; part: string; from: string }
  | { is: 'nothing-before'; part: string; from: string }
  | { is: 'fed-elsewhere'; volts: number; from: string }
  | { is: 'above-before'; by: number; part: string; from: string }
  | { is: 'through'; part: string; held: Held }
  | { is: 'conducts'; drop: number; part: string; usual: number }
  | { is: 'conducts-low' | 'conducts-high'; part: string; held: Held }
  | { is: 'blocks'; part: string; before: number; load: LoadBehind; isFuse: boolean }
  | { is: 'diode-drop'; drop: number; part: string }
  | { is: 'follows-gate'; part: string; below: number; gate: number; before: number }
  | { is: 'drops-too-much'; drop: number; part: string; usual: number }
  // Cold, to ground.
  | { is: 'no-junction' | 'open-to-ground' | 'leaks' | 'path-broken' | 'as-expected'; held: Held }
  | { is: 'over-unknown' | 'core-diode' | 'no-drop' }
  | { is: 'nothing-known'; shortOhms: number | null }
  | {
      is: 'cannot-hold';
      ohms: number;
      isBound: boolean;
      amps: number;
      volts: number;
      least: number;
    }
  | { is: 'below'; ohms: number; held: Held | null }
  | { is: 'core-buzz' | 'buzz' | 'near-nothing'; ohms: number }
  | { is: 'far-below'; ohms: number; held: Held }
  | { is: 'ground-joined'; ohms: number }
  | { is: 'ground-open' }
  // Bounds somebody wrote.
  | { is: 'bound-may-be-short'; limit: number; mode: Mode }
  | { is: 'bound-no-short'; limit: number; mode: Mode; held: Held | null }
  | { is: 'bound-too-high'; limit: number; mode: Mode; held: Held }
  // From one end of a part to the other.
  | { is: 'bound-through'; part: string }
  | { is: 'part-conducts' | 'channel-short' | 'channel-leaks' | 'channel-blocks'; part: string }
  | { is: 'part-whole'; part: string; ohms: number }
  | { is: 'part-open' | 'part-high'; part: string; own: number }
  | { is: 'junction-gone' | 'junction-leaks' | 'junction-high' | 'no-body-diode'; part: string }
  | { is: 'blocks-this-way' }
  | { is: 'junction' | 'junction-open'; part: string; volts: number }
  // Across a resistor on its board.
  | ({ is: 'in-circuit-good' } & InCircuitRead)
  | ({ is: 'in-circuit-high' } & InCircuitRead)
  | ({ is: 'in-circuit-open' } & InCircuitRead)
  | ({ is: 'in-circuit-low' } & InCircuitRead)
  | ({ is: 'in-circuit-hidden' } & InCircuitRead)
  | { is: 'body-diode' | 'part-drop' | 'part-diode-drop'; part: string; volts: number }
  | { is: 'part-drops-too-much'; part: string; volts: number; usual: number }
  // From a switching stage's feed to its output.
  | { is: 'take-ohms' | 'switch-little'; chip: string }
  | { is: 'switch-shorted'; chip: string; rail: string; feedVolts: number }
  | { is: 'switch-blocks'; chip: string; rail: string };

export const verdict = (kind: VerdictKind, because: Because): Verdict => ({ kind, because });

/** Whether the reading says that the net is there and as it should be. */
export const isGood = (verdict: Verdict): boolean => verdict.kind === 'good';

/** Whether the reading says that something is wrong at this point. */
export function isBad(verdict: Verdict): boolean {
  switch (verdict.kind) {
    case 'low':
    case 'high':
    case 'missing':
    case 'present':
    case 'swinging':
    case 'shorted':
    case 'open':
    case 'odd':
    case 'overcurrent':
      return true;
    case 'good':
    case 'undecided':
    case 'unjudged':
      return false;
  }
}
