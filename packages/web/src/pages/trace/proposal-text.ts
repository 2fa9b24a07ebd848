import type { Outcome, Proposal } from '@jiko/core/diagnosis';
import { formatChance, formatOhms, formatVolts } from '@jiko/core/units';

const written = (mode: Proposal['mode'], value: number): string =>
  value === Infinity
    ? 'OL'
    : mode === 'ohms'
      ? formatOhms(value)
      : mode === 'diode'
        ? value.toFixed(2)
        : formatVolts(Number(value.toFixed(Math.abs(value) < 0.1 ? 2 : 1)));

/** `about 1.2 V, as it should be: PU6 dead or R50 open`. */
export function outcomeText(
  proposal: Proposal,
  outcome: Outcome,
  titles: readonly string[],
): string {
  const low = written(proposal.mode, outcome.low);
  const high = written(proposal.mode, outcome.high);
  const names = outcome.classes.slice(0, 2).map((at) => titles[at] ?? '');
  const more = outcome.classes.length - names.length;
  return `${low === high ? `about ${low}` : `${low} to ${high}`}${outcome.isHealthy ? ', as it should be' : ''} (${formatChance(outcome.probability)}): ${names.join(' or ')}${more > 0 ? ` or ${more} more` : ''}`;
}
