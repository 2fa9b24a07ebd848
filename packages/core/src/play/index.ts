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
export { attachedIn, benchSetup, usualSetup, type BenchSetup } from './setup.ts';
export { comparePlays } from './compare-plays.ts';
export { feedsBackwards, playFed, type RailFeed } from './feed-backwards.ts';
