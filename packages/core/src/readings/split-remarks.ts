import { parseQuantity } from '../units/index.ts';
import type { Reading } from './reading.ts';

/** What was seen along with a reading: how the board was then, and what the meter showed beside the figure. */
export type Remarks = Pick<Reading, 'state' | 'moves' | 'ripple'>;

const stateWords: Record<string, NonNullable<Remarks['state']>> = {
  warm: 'warm',
  hot: 'warm',
  cold: 'cold',
  pushed: 'pushed',
};

/**
 * The remarks at the end of what was typed, taken off it: `0.4 warm`, `3.3 pushed`, `1.6 moves`, `1.6 still`,
 * `3.3 r40m` or `3.3 ripple 40m` (volts from peak to peak). What is none stays in the text.
 */
export function splitRemarks(written: string): { text: string; remarks: Remarks } {
  let text = written.trim();
  const remarks: Remarks = {};
  for (;;) {
    const word = /^(.*?\S)\s+(does not move|\p{L}+)$/u.exec(text);
    const ripple = /^(.*\S)\s+(?:ripple\s*|r)([\d.,]+\s*m?)v?$/i.exec(text);
    const last = word?.[2]?.toLowerCase() ?? '';
    const volts = ripple ? parseQuantity(ripple[2]!, 'volts') : null;
    if (word && last in stateWords) remarks.state = stateWords[last];
    else if (word && last === 'moves') remarks.moves = true;
    else if (word && (last === 'still' || last === 'does not move')) remarks.moves = false;
    else if (volts?.ok) remarks.ripple = volts.value;
    else return { text, remarks };
    text = (volts?.ok ? ripple : word)![1]!.trim();
  }
}
