import { formatOhms, formatVolts } from '../../units/index.ts';
import type { Outcome, Proposal } from './next-probe.ts';

const written = (mode: Proposal['mode'], value: number): string =>
  value === Infinity
    ? 'OL'
    : mode === 'ohms'
      ? formatOhms(value)
      : mode === 'diode'
        ? value.toFixed(2)
        : formatVolts(Number(value.toFixed(Math.abs(value) < 0.1 ? 2 : 1)));

/** `about 1.2 V`, `0.4 V to 1.1 V`. */
export function outcomeRange(mode: Proposal['mode'], { low, high }: Outcome): string {
  const [from, to] = [written(mode, low), written(mode, high)];
  return from === to ? (from === 'OL' ? from : `about ${from}`) : `${from} to ${to}`;
}
