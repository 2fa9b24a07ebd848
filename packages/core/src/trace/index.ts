export { netsInDoubt, traceJob, type Trace } from './trace.ts';
export {
  roleText,
  type TracedNeed,
  type FirstMissing,
  type Known as TraceKnown,
  type SearchEnd,
} from './known.ts';
export {
  decidingFeed,
  isOpen,
  mayBeUntouched,
  shortBeforeRepair,
  unreadOutput,
  type TracedStage,
  type StageState,
} from './missing-search.ts';
export { doubtfulReading, provenBehind } from './reading-again.ts';
export { railsBehind } from './guesses.ts';
export {
  judgeAll,
  provokedState,
  statusOf,
  phaseFor,
  type JudgedReading,
  type NetStatus,
} from './judged.ts';
export { probePlace } from './probe-place.ts';
export {
  neighbourhoodOf,
  type Neighbourhood,
  type NeighbourLink,
  type NeighbourNet,
} from './neighbourhood.ts';
export { benchOfJob } from './job-bench.ts';
export { jobNow } from './after-repair.ts';
export { pulledDownBy } from './pulled-down.ts';
export {
  ohmsOnRail,
  shortGoneWith,
  shortOhms,
  stillShort,
  wentWith,
  type OhmsRead,
  type ShortGone,
} from './short-gone.ts';
export type { Lack, Lacking } from './lacking.ts';
export { knownShorts } from './known-shorts.ts';
