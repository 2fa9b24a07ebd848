import type { Board } from '../../board/index.ts';
import type { Diagnosis } from '../diagnose.ts';
import { looksFirst } from './looks-first.ts';
import type { Proposal } from './next-probe.ts';
import type { Finding } from '../weighing/known-factor.ts';
import type { Suspect } from '../grouping/suspects.ts';
import type { NextProbe } from '../../trace/index.ts';
import type { Trace } from '../../trace/index.ts';

/** How points are proposed: in the order of waking, what splits the suspects best, or damage first. */
export type SchoolOf = 'walk' | 'shortest' | 'looks';

/** What is to be done now, in the middle of the page and first on the command line. */
export type NextStep =
  /** The next output in the order of waking, or what the missing one needs. */
  | { kind: 'in-order'; probe: NextProbe }
  /** The reading that parts the suspects best for its time. */
  | { kind: 'telling'; proposal: Proposal; finding: Finding | null }
  /** No reading parts them any more: the test that does. */
  | { kind: 'test'; suspect: Suspect }
  | { kind: 'reached' }
  | { kind: 'nothing' };

/** A reading that tells less is not worth a trip of the probe. */
export const leastTellingBits = 0.1;
const leastTellingOfGuesses = 0.15;
/** A suspect is to be tested once it stands like this; below, it is one of many. */
const leastTested = 0.1;

/** One answer for all schools: none of them stops while a reading still tells something. */
export function nextStep(
  board: Board,
  trace: Trace,
  diagnosis: Diagnosis | null,
  school: SchoolOf,
  findings: readonly Finding[],
): NextStep {
  if (trace.goalReached) return { kind: 'reached' };
  if (trace.next?.beforePower) return { kind: 'in-order', probe: trace.next };
  // Where the sheet guesses, the order of waking is surer than a proposal that tells little.
  const isGuessed = board.guessed.length > 0;
  const least = isGuessed && trace.next ? leastTellingOfGuesses : leastTellingBits;
  const best = diagnosis?.next.find((one) => one.gainBits >= least);
  const looked = school === 'looks' && diagnosis ? looksFirst(board, findings, diagnosis) : null;
  if (looked) return { kind: 'telling', ...looked };
  // On a sheet of guesses the way back from what is missing settles more than plays of guesses do.
  if (isGuessed && trace.firstMissing && trace.next) return { kind: 'in-order', probe: trace.next };
  if (school !== 'walk' && best) return { kind: 'telling', proposal: best, finding: null };
  if (trace.next) return { kind: 'in-order', probe: trace.next };
  if (best) return { kind: 'telling', proposal: best, finding: null };
  const suspect = diagnosis?.suspects[0];
  if (suspect && suspect.probability >= leastTested) return { kind: 'test', suspect };
  return { kind: 'nothing' };
}

/** Above this the plays have an opinion on where it stops. */
const leastSure = 0.5;

/** Why the walk and the suspects name different stages, in one line; null where they agree. */
export function whyTheyDiffer(board: Board, trace: Trace, diagnosis: Diagnosis): string | null {
  const [region] = diagnosis.regions;
  const missing = trace.firstMissing;
  if (!region || region.probability < leastSure || !missing) return null;
  if (region.stage === missing.stage) return null;
  const title = (id: string): string => board.stages.find((one) => one.id === id)?.title ?? id;
  if (region.stage === null)
    return `${missing.net} reads wrong, but the likeliest faults leave every stage up: it is out of tolerance, not gone.`;
  // A need of the missing stage that was not read yet, or a slip in what was.
  return missing.certain
    ? `By what was read ${missing.title} is missing; the likeliest faults stop it at ${title(region.stage)}. One of the readings may be a slip: read ${missing.net} once more.`
    : `${missing.title} is missing so far; the likeliest faults stop it at ${title(region.stage)}, which was not read.`;
}
