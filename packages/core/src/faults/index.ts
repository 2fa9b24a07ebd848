export {
  faultKey,
  faultName,
  faultPart,
  faultPlace,
  type Fault,
  type SourceTrouble,
} from './fault.ts';
export { withFault, withFaults } from './with-fault.ts';
export { listFaults } from './list-faults.ts';
export { groundedNet } from './grounded-net.ts';
export { islandOf, type Island } from './island.ts';
export { flashOwner } from './flash-owner.ts';
export { faultTroubleText, parseFault, type FaultTrouble } from './parse-fault.ts';
