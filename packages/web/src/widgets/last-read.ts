import type { Trace } from '@jiko/core/trace';
import { shortValue } from '@jiko/core/readings';

type Read = Trace['readings'][number];

/**
 * What stands for a net on the picture: volts where it was read powered, else ohms, else its
 * junction; a junction's volts are said to be such, they would pass for the rail's.
 */
export function lastRead({ readings }: Trace, net: string): Read | undefined {
  const at = (mode: string): Read | undefined =>
    readings.findLast(
      ({ standing, reading }) =>
        standing.kind === 'stands' &&
        reading.at.net === net &&
        reading.mode === mode &&
        reading.reference === null,
    );
  return at('volts') ?? at('ohms') ?? at('diode');
}

export const readText = ({ reading }: Read): string =>
  shortValue(reading.value, reading.mode) + (reading.mode === 'diode' ? ' diode' : '');
