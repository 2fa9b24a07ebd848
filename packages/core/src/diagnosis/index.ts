export {
  traceJob,
  roleText,
  type Trace,
  type TracedStage,
  type TracedNeed,
  type StageState,
  type FirstMissing,
  type NextProbe,
} from './trace.ts';
export { judgeAll, statusOf, phaseFor, type JudgedReading, type NetStatus } from './judged.ts';
export { probePlace } from './probe-place.ts';
