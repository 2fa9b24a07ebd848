export { withFault, withFaults, faultName, faultKey, type Fault } from './fault.ts';
export { listFaults } from './list-faults.ts';
export { parseFault, faultTroubleText, type FaultTrouble } from './parse-fault.ts';
