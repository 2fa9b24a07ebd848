import { formatVolts } from '../units/index.ts';
import { valueText } from './entry-line.ts';
import type { Reading } from './reading.ts';
import type { Remarks } from './split-remarks.ts';

/** The same in words; empty where there are none. */
export function remarksText({ state, moves, ripple }: Remarks): string {
  return [
    state && `taken ${state}`,
    moves !== undefined && (moves ? 'it moves' : 'it does not move'),
    ripple !== undefined && `ripple ${formatVolts(ripple)}`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** A reading as it is shown in a list: its value with its remarks. */
export function readingText(reading: Reading): string {
  const remarks = remarksText(reading);
  return `${valueText(reading.value, reading.mode)}${remarks ? `, ${remarks}` : ''}`;
}

/**
 * Taken in a state in which a fault may come or go: kept apart from what the board does by itself. Cold is
 * how a board is read as a rule.
 */
export const isProvoked = ({ state }: Reading): boolean => state === 'warm' || state === 'pushed';
