import type { Phase } from './phase.ts';
import type { Mode } from './reading.ts';

/** A reading that is to be taken in another phase than the bench strip says: the phase, and what to make sure of. */
export interface OtherMoment {
  phase: Phase;
  question: string;
}

/** What must be true of the bench for a reading of a phase. Common practice, no source. */
const questions: Record<Phase, string> = {
  cold: 'Source off, battery unplugged?',
  standby: 'Source on, button not pressed?',
  pressed: 'Button held down?',
  trying: 'Pressed, and it goes off again by itself?',
  run: 'Pressed, and it stays on?',
};

const afterPress: readonly Phase[] = ['pressed', 'trying', 'run'];

/** Whether a reading that is wanted in one phase may be taken in another. */
export function suits(wanted: Phase, actual: Phase): boolean {
  return wanted === actual || (wanted !== 'cold' && afterPress.includes(actual));
}

/**
 * What to make sure of before a reading is written down in another phase than the strip says; null where
 * it fits. Ohms and diode-mode are taken cold, all else with the source on. `isExact`: only the phase
 * itself will do.
 */
export function otherMoment(
  wanted: { mode: Mode; phase: Phase },
  strip: Phase,
  isExact = false,
): OtherMoment | null {
  const isColdMode = wanted.mode === 'ohms' || wanted.mode === 'diode';
  // A point of one's own is wanted in the phase of the strip: with the source off there are no volts.
  const phase = isColdMode ? 'cold' : wanted.phase === 'cold' ? 'standby' : wanted.phase;
  if (isExact ? phase === strip : suits(phase, strip)) return null;
  return { phase, question: questions[phase] };
}

/**
 * What is asked before a reading is written down, with what the key does: in another phase than the strip
 * says, or a value nobody would expect.
 */
export function askOnce(other: OtherMoment | null, odd: string | null): string {
  const asks = [odd, other?.question].filter((text) => text !== null && text !== undefined);
  const as =
    other === null ? '' : ` as read ${other.phase === 'cold' ? 'cold' : `in ${other.phase}`}`;
  return `${asks.join(' ')} Enter again writes it down${as}.`;
}
