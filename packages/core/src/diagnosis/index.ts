export { makeDiagnoser, type Diagnoser } from './diagnose.ts';
export type { Diagnosis } from './proposing/diagnosis.ts';
export type { Suspect, SuspectFault, Voice } from './grouping/suspects.ts';
export {
  noEvidence,
  noSigns,
  type DrawSign,
  type Evidence,
  type Signs,
} from './evidence/evidence.ts';
export type { BenchNow, Hypothesis, Outcome, ProbeMode, Proposal } from './proposing/next-probe.ts';
export type { BenchAction } from './proposing/actions.ts';
export { looksFirst, type LookedFirst } from './proposing/looks-first.ts';
export { priorWeight, wayOf } from './weighing/known-factor.ts';
export { netsOfFinding, type Finding, type Known, type Tried } from './evidence/finding.ts';
export { evidenceOf } from './evidence/from-job.ts';
export { benchOfReading, benchText, speaksOf, type BenchOf } from './evidence/bench-of.ts';
export { guessedWeight } from './weighing/priors.ts';
export { likeliestFirst, type PlayHints } from './weighing/play-order.ts';
export {
  leastTellingBits,
  actionsNow,
  readingsNow,
  nextStep,
  type WhyTest,
  whyTheyDiffer,
  type NextStep,
  type SchoolOf,
} from './proposing/next-step.ts';
export { checksAfterRails, nextAfterRails, type CheckAfterRails } from './proposing/after-rails.ts';
export { conclusionOf, type Conclusion } from './proposing/conclusion.ts';
export { gainWords, likelihoodWord, likelihoodWords } from './proposing/likelihood-words.ts';
export { orderToRead, orderToTest } from './proposing/order-text.ts';
export { outcomeRange } from './proposing/outcome-range.ts';
export { separatingTest } from './grouping/separate.ts';
export { walkNext, type NextProbe } from './proposing/walk.ts';
