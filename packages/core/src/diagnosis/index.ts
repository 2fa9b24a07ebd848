export { traceJob, type Trace } from './trace.ts';
export {
  roleText,
  type TracedStage,
  type TracedNeed,
  type StageState,
  type FirstMissing,
  type NextProbe,
} from './missing-search.ts';
export { judgeAll, statusOf, phaseFor, type JudgedReading, type NetStatus } from './judged.ts';
export { probePlace } from './probe-place.ts';
export {
  neighbourhoodOf,
  type Neighbourhood,
  type NeighbourLink,
  type NeighbourNet,
} from './neighbourhood.ts';
export { expectedGain, posterior } from './bayes.ts';
export { makeDiagnoser, type Diagnoser, type Diagnosis } from './diagnose.ts';
export type { Suspect, SuspectFault, Voice } from './suspects.ts';
export { noEvidence, noSigns, type DrawSign, type Evidence, type Signs } from './evidence.ts';
export type { BenchNow, Hypothesis, Outcome, ProbeMode, Proposal } from './next-probe.ts';
export type { BenchAction } from './actions.ts';
export { looksFirst, type LookedFirst } from './looks-first.ts';
export { priorWeight, type Finding, type Tried } from './priors.ts';
export { evidenceOf, saysSomething } from './from-job.ts';
export { benchOfReading, benchText, speaksOf, type BenchOf } from './other-bench.ts';
export { likeliestFirst } from './table.ts';
export { benchOfJob } from './job-bench.ts';
export {
  leastTellingBits,
  nextStep,
  whyTheyDiffer,
  type NextStep,
  type SchoolOf,
} from './next-step.ts';
export { heatCaution, injectionCaution, separatingTest } from './separate.ts';
