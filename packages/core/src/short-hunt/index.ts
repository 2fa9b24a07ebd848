export { huntLog, huntOn, huntShort, jobOfHunt, ohmsNow, splitNets, type Hunt } from './hunt.ts';
export { shortCandidates, type Candidate } from './candidates.ts';
export { copperOf, leastMillimetres, sharedOhms, type Copper, type Pad } from './copper.ts';
export { cameraFloorKelvin, expectedRise, seenChance, seenWord } from './heat.ts';
export {
  planInjection,
  planLiveFeed,
  splitSense,
  type Injection,
  type LiveFeed,
} from './injection.ts';
export { dropPlaces, type HuntAction } from './propose.ts';
export { type FedRail, type HuntLog, type WeighedCandidate } from './weigh.ts';
export { hotSpots, partsAtSpot, type HotSpot } from './hot-spots.ts';
