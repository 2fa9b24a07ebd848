import { usualMeter, type Phase, type Reading, type ReadingValue } from '@jiko/core/readings';

/** A reading with nothing else to say about it, as a hidden board's meter gives it. */
export function plainReading(
  net: string,
  mode: Reading['mode'],
  phase: Phase,
  value: ReadingValue,
  { attached = [], against = null }: { attached?: string[]; against?: string | null } = {},
): Reading {
  return {
    at: { net, part: null, pin: null },
    reference: against === null ? null : { net: against, part: null, pin: null },
    polarity: mode === 'diode' ? 'black-on-point' : 'red-on-point',
    mode,
    phase,
    value,
    source: null,
    attached,
    lifted: [],
    meter: usualMeter,
    sheet: '',
    note: '',
  };
}
