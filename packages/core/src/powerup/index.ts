export { buildCircuit, type BoardCircuit } from './netlist.ts';
export {
  playBoard,
  playInFull,
  type Course,
  type Play,
  type PlayEvent,
  type PlaySetup,
} from './play.ts';
export { rehearse, playFault, playFaulty, playFaultInFull, type Rehearsal } from './rehearsal.ts';
export { shownVolts, type Snapshot } from './snapshot.ts';
export { mapUpstream, type Role, type Upstream, type UpstreamMap } from './upstream.ts';
export { attachedIn, benchSetup, usualSetup, type BenchSetup } from './setup.ts';
export {
  studyHealthyBoard,
  type OtherBench,
  type HealthyBoard,
  type OrderedStage,
} from './healthy.ts';
export { makeColdSweep, readCold, type ColdReadings, type ColdSweep } from './cold-sweep.ts';
export {
  dictionaryKey,
  isPlayed,
  makeDictionary,
  outlineDictionary,
  makeRowPlayer,
  voltsPlace,
  wattsIn,
  heatPhases,
  wholeDictionary,
  withRoom,
  type Dictionary,
  type DictionaryProgress,
  type RowPlayer,
} from './dictionary.ts';
export { putRows, takeRows, type RowsPacket } from './dictionary-rows.ts';
export {
  diesOf,
  makeColdBench,
  makeColdMeter,
  type ColdMeter,
  type ColdReading,
} from './cold-meter.ts';
export { comparePlays } from './compare-plays.ts';
export { compareCold } from './compare-cold.ts';
export {
  answersButton,
  firstMissingIn,
  leastPart,
  outcomeOf,
  reachesGoal,
  type Outcome,
} from './outcome.ts';
export { checkHealthyPlay } from './check.ts';
export { dictionaryBytes, dictionaryFrom } from './dictionary-bytes.ts';
export { feedsBackwards, playFed, type RailFeed } from './feed-backwards.ts';
export { batteryCharge } from './across-part.ts';
export { makeColdReader, type ColdReader, type Spot } from './cold-reader.ts';
export { codeRails, riskyStages, type RiskyStage } from './goal-nets.ts';
export { troubleWithDictionary } from './dictionary-check.ts';
export { resistorInCircuit } from './in-circuit.ts';
export { withKnownGood, type KnownNet } from './known-good.ts';
