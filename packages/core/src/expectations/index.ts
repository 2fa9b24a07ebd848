export { mapUpstream, type Role, type Upstream, type UpstreamMap } from './upstream.ts';
export {
  studyHealthyBoard,
  type OtherBench,
  type HealthyBoard,
  type OrderedStage,
} from './healthy.ts';
export { checkHealthyPlay } from './check.ts';
export { batteryCharge } from './across-part.ts';
export { codeRails, goalNets, riskyStages, type RiskyStage } from './goal-nets.ts';
export { withKnownGood, type KnownNet } from './known-good.ts';
