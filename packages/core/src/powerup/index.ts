export { playBoard, type Play, type PlayEvent, type PlaySetup, type Snapshot } from './play.ts';
export { mapUpstream, type Role, type Upstream, type UpstreamMap } from './upstream.ts';
export { studyHealthyBoard, usualSetup, type HealthyBoard, type OrderedStage } from './healthy.ts';
export { checkHealthyPlay } from './check.ts';
