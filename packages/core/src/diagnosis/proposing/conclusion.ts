import type { Board } from '../../board/index.ts';
import { valueText } from '../../readings/index.ts';
import type { Trace } from '../../trace/index.ts';
import type { Suspect, Voice } from '../grouping/suspects.ts';
import type { Diagnosis } from './diagnosis.ts';
import { readingsNow } from './next-step.ts';
import type { Outcome, Proposal } from './next-probe.ts';
import { likelihoodWord, type LikelihoodWord } from './likelihood-words.ts';
import { outcomeRange } from './outcome-range.ts';
import { phaseWords } from './order-text.ts';

/** What all that was read comes to, as one says it at a bench. */
export interface Conclusion {
  /** The first suspect, or where the board stops while none stands out. */
  what: string;
  probability: number;
  word: LikelihoodWord;
  /** What was read or seen that speaks for it most; null where nothing was yet. */
  because: string | null;
  /** What would deny it: a reading that can be taken now, else its own test; null where no part is named. */
  refutedBy: string | null;
}

/** Below this no part is named: the stage is all that can be said. */
const leastNamed = 0.2;
const leastStage = 0.25;

/** Null where nothing can be said: nothing was weighed, or all nets of the goal read right. */
export function conclusionOf(board: Board, trace: Trace, diagnosis: Diagnosis): Conclusion | null {
  if (trace.goalNetsGood) return null;
  const [first] = diagnosis.suspects;
  if (first && first.probability >= leastNamed)
    return {
      what: first.title,
      probability: first.probability,
      word: likelihoodWord(first.probability),
      because: becauseOf(trace, first.speaksFor),
      refutedBy: refuting(trace, diagnosis, first) ?? 'its own test; no reading does',
    };
  const region = diagnosis.regions.find(({ stage }) => stage !== null);
  const stage = board.stages.find(({ id }) => id === region?.stage);
  if (!region || !stage || region.probability < leastStage) return null;
  return {
    what: `It stops at ${stage.title}; no part stands out yet`,
    probability: region.probability,
    word: likelihoodWord(region.probability),
    because: becauseOf(trace, first?.speaksFor ?? []),
    refutedBy: null,
  };
}

/** So many of what speaks for a suspect are said; the others stand in the list. */
const mostReasons = 2;

function becauseOf(trace: Trace, voices: readonly Voice[]): string | null {
  const reasons = voices.map(({ id, text }) => {
    const reading = trace.readings.find((judged) => judged.id === id)?.reading;
    return reading ? `${text} reads ${valueText(reading.value, reading.mode)}` : text;
  });
  return reasons.length === 0 ? null : [...new Set(reasons)].slice(0, mostReasons).join(', and ');
}

/** The reading that would deny it soonest: one of its outcomes is of none of its faults. */
function refuting(trace: Trace, diagnosis: Diagnosis, { group }: Suspect): string | null {
  let best: { proposal: Proposal; outcome: Outcome; worth: number } | null = null;
  for (const proposal of readingsNow(trace, diagnosis)) {
    const [outcome] = proposal.outcomes.filter(({ classes }) => !classes.includes(group));
    if (!outcome) continue;
    // What was read before denies it only by a slip.
    const worth = (proposal.isRepeat ? 1e-6 : 1) * (outcome.probability / proposal.seconds);
    if (!best || worth > best.worth) best = { proposal, outcome, worth };
  }
  if (!best) return null;
  const { net, across, mode, phase } = best.proposal;
  // Volts and ohms say by their unit what they are.
  const read = `${outcomeRange(mode, best.outcome)}${mode === 'diode' ? ' in diode-mode' : ''}`;
  return `${read} ${across ? `across ${across}` : `at ${net}`}, ${phaseWords[phase]}`;
}
