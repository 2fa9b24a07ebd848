import { outcomeRange, type Outcome, type Proposal } from '@jiko/core/diagnosis';
import { formatChance } from '@jiko/core/units';

/** `about 1.2 V, as it should be: PU6 dead or R50 open`. */
export function outcomeText(
  proposal: Proposal,
  outcome: Outcome,
  titles: readonly string[],
): string {
  const names = outcome.classes.slice(0, 2).map((at) => titles[at] ?? '');
  const more = outcome.classes.length - names.length;
  return `${outcomeRange(proposal.mode, outcome)}${outcome.isHealthy ? ', as it should be' : ''} (${formatChance(outcome.probability)}): ${names.join(' or ')}${more > 0 ? ` or ${more} more` : ''}`;
}
