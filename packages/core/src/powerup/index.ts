export { buildCircuit, type BoardCircuit } from './netlist.ts';
export {
  playBoard,
  playWithCircuit,
  type Play,
  type PlayEvent,
  type PlaySetup,
  type Snapshot,
} from './play.ts';
export { mapUpstream, type Role, type Upstream, type UpstreamMap } from './upstream.ts';
export { studyHealthyBoard, usualSetup, type HealthyBoard, type OrderedStage } from './healthy.ts';
export { makeColdMeter, type ColdMeter, type ColdReading } from './cold-meter.ts';
export { comparePlays } from './compare-plays.ts';
export { checkHealthyPlay } from './check.ts';
